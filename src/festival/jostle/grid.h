// Lanterns sorted by cell.
#pragma once

#include <utility>
#include <vector>

#include "festival/jostle/cells.h"

namespace mileage::festival::jostle {

class Grid {
 public:
  Grid(const Basin& basin, double edge) : cells_(basin, edge) {}

  const Cells& cells() const { return cells_; }

  /// Counting sort.
  void sort(Lanterns& lanterns) {
    const auto count = static_cast<std::size_t>(lanterns.size());
    into_.resize(lanterns.size());
    cell_of_.resize(count);
    start_.assign(static_cast<std::size_t>(cells_.size()) + 1, 0);
    for (std::size_t i = 0; i < count; ++i) {
      cell_of_[i] = static_cast<std::int32_t>(cells_.cell(lanterns.x[i], lanterns.y[i]));
      ++start_[static_cast<std::size_t>(cell_of_[i]) + 1];
    }
    for (std::size_t cell = 1; cell < start_.size(); ++cell) start_[cell] += start_[cell - 1];
    next_.assign(start_.begin(), start_.end() - 1);
    for (std::size_t i = 0; i < count; ++i)
      into_.take(lanterns, i, static_cast<std::size_t>(next_[static_cast<std::size_t>(cell_of_[i])]++));
    std::swap(lanterns, into_);
  }

  /// Calls `run(a, from, to)` for each place a in rows [from, to) of cells, with places that may overlap it: the rest
  /// of its cell and the cell to the right, then the three above. Every pair once.
  template <class Run>
  void runs_of_rows(std::int64_t from, std::int64_t to, const Run& run) const {
    for (std::int64_t row = from; row < to; ++row)
      for (std::int64_t column = 0; column < cells_.across(); ++column) {
        const std::int64_t end = end_of(row, column);
        const std::int64_t end_right = end_of(row, column + 1);
        const bool is_top = row + 1 == cells_.across();
        const std::int64_t above = is_top ? 0 : begin_of(row + 1, column - 1);
        const std::int64_t end_above = is_top ? 0 : end_of(row + 1, column + 1);
        for (std::int64_t a = begin_of(row, column); a < end; ++a) {
          run(a, a + 1, end_right);
          run(a, above, end_above);
        }
      }
  }

  /// Pairs whose first place is in rows [from, to).
  Found push_apart(Lanterns& lanterns, std::int64_t from, std::int64_t to) const {
    Found found;
    runs_of_rows(from, to, [&](std::int64_t a, std::int64_t begin, std::int64_t end) {
      meet_all(lanterns, a, begin, end, found);
    });
    return found;
  }
  Found push_apart(Lanterns& lanterns) const { return push_apart(lanterns, 0, cells_.across()); }

  /// Places of a row from column `from`, and up to column `to`, clamped.
  std::int64_t begin_of(std::int64_t row, std::int64_t from) const {
    return start_[static_cast<std::size_t>(row * cells_.across() + std::max<std::int64_t>(from, 0))];
  }
  std::int64_t end_of(std::int64_t row, std::int64_t to) const {
    return start_[static_cast<std::size_t>(row * cells_.across() + std::min(to, cells_.across() - 1)) + 1];
  }

 protected:
  Cells cells_;
  std::vector<std::int32_t> start_;  ///< Cell c: [start[c], start[c + 1]).
  std::vector<std::int32_t> cell_of_, next_;
  Lanterns into_;
};

}  // namespace mileage::festival::jostle
