// Hash table of cells: each slot has a chain of lanterns, possibly of several cells.
#pragma once

#include <atomic>
#include <cstdint>
#include <vector>

#include "festival/jostle/cells.h"

namespace mileage::festival::jostle {

class CellTable {
 public:
  CellTable(const Basin& basin, double edge) : cells_(basin, edge) {}

  const Cells& cells() const { return cells_; }

  void clear(std::int64_t lanterns) {
    std::size_t slots = 16;
    while (slots < 2 * static_cast<std::size_t>(lanterns)) slots *= 2;
    if (slots != head_.size()) head_ = std::vector<std::atomic<std::int32_t>>(slots);
    for (auto& head : head_) head.store(none, std::memory_order_relaxed);
    next_.resize(static_cast<std::size_t>(lanterns));
    cell_.resize(static_cast<std::size_t>(lanterns));
  }

  /// Thread-safe for different lanterns.
  void put(std::int64_t lantern, float x, float y) {
    const auto i = static_cast<std::size_t>(lantern);
    cell_[i] = static_cast<std::int32_t>(cells_.cell(x, y));
    next_[i] = head_[slot_of(cell_[i])].exchange(static_cast<std::int32_t>(lantern), std::memory_order_relaxed);
  }
  /// Single-threaded.
  void put_alone(std::int64_t lantern, float x, float y) {
    const auto i = static_cast<std::size_t>(lantern);
    cell_[i] = static_cast<std::int32_t>(cells_.cell(x, y));
    auto& head = head_[slot_of(cell_[i])];
    next_[i] = head.load(std::memory_order_relaxed);
    head.store(static_cast<std::int32_t>(lantern), std::memory_order_relaxed);
  }

  /// Calls `look(other)` for every lantern of a cell; none outside the basin.
  template <class Look>
  void each_in(std::int64_t row, std::int64_t column, const Look& look) const {
    if (row < 0 || column < 0 || row >= cells_.across() || column >= cells_.across()) return;
    const auto cell = static_cast<std::int32_t>(row * cells_.across() + column);
    for (std::int32_t i = head_[slot_of(cell)].load(std::memory_order_relaxed); i != none;
         i = next_[static_cast<std::size_t>(i)])
      if (cell_[static_cast<std::size_t>(i)] == cell) look(std::int64_t{i});
  }

 private:
  static constexpr std::int32_t none = -1;

  std::size_t slot_of(std::int32_t cell) const {
    return (static_cast<std::uint32_t>(cell) * 2654435761U >> 7) & (head_.size() - 1);
  }

  Cells cells_;
  std::vector<std::atomic<std::int32_t>> head_;
  std::vector<std::int32_t> next_, cell_;
};

}  // namespace mileage::festival::jostle
