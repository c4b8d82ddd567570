// Lanterns by cell, for nearest-neighbour searches.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <vector>

#include "festival/moths/moths_world.h"

namespace mileage::festival::moths {

class LanternCells {
 public:
  /// About two lanterns per cell.
  LanternCells(float side_m, std::size_t lanterns)
      : across_(std::max<std::int64_t>(1, static_cast<std::int64_t>(std::sqrt(static_cast<double>(lanterns) / 2)))),
        edge_m_(side_m / static_cast<float>(across_)) {}

  void fill(const Lanterns& lanterns) {
    start_.assign(static_cast<std::size_t>(across_ * across_) + 1, 0);
    cell_of_.resize(lanterns.size());
    for (std::size_t i = 0; i < lanterns.size(); ++i) {
      cell_of_[i] = static_cast<std::uint32_t>(line_of(lanterns.y[i]) * across_ + line_of(lanterns.x[i]));
      ++start_[cell_of_[i] + 1];
    }
    for (std::size_t cell = 1; cell < start_.size(); ++cell) start_[cell] += start_[cell - 1];
    next_.assign(start_.begin(), start_.end() - 1);
    places_.resize(lanterns.size());
    for (std::size_t i = 0; i < lanterns.size(); ++i) places_[next_[cell_of_[i]]++] = static_cast<std::uint32_t>(i);
  }

  /// Ring by ring, until the next cannot be nearer.
  Nearest nearest(const Lanterns& lanterns, float x, float y, Looked& looked) const {
    Nearest found;
    const std::int64_t row = line_of(y);
    const std::int64_t column = line_of(x);
    for (std::int64_t ring = 0; ring < across_; ++ring) {
      const float clear_m = static_cast<float>(ring - 1) * edge_m_;
      if (ring > 0 && clear_m > 0 && clear_m * clear_m > found.squared) break;
      for (std::int64_t at = row - ring; at <= row + ring; ++at) {
        const bool is_whole = at == row - ring || at == row + ring;
        look_in(lanterns, at, column - ring, x, y, found, looked);
        if (ring == 0) continue;
        for (std::int64_t along = column - ring + 1; is_whole && along < column + ring; ++along)
          look_in(lanterns, at, along, x, y, found, looked);
        look_in(lanterns, at, column + ring, x, y, found, looked);
      }
    }
    return found;
  }

 private:
  std::int64_t line_of(float place) const {
    return std::clamp<std::int64_t>(static_cast<std::int64_t>(place / edge_m_), 0, across_ - 1);
  }

  void look_in(const Lanterns& lanterns, std::int64_t row, std::int64_t column, float x, float y, Nearest& found,
               Looked& looked) const {
    if (row < 0 || column < 0 || row >= across_ || column >= across_) return;
    const auto cell = static_cast<std::size_t>(row * across_ + column);
    for (std::uint32_t i = start_[cell]; i < start_[cell + 1]; ++i) found.look_at(lanterns, places_[i], x, y);
    looked.lanterns += start_[cell + 1] - start_[cell];
  }

  std::int64_t across_;
  float edge_m_;
  std::vector<std::uint32_t> start_, next_, cell_of_, places_;
};

}  // namespace mileage::festival::moths
