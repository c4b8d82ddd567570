// Kind and weight of lanterns, from their keys, so that all layouts agree. Knobs kinds and uneven.
#pragma once

#include <cstdint>
#include <utility>
#include <vector>

#include "festival/drift/drift_kernel.h"
#include "mileage/types/knobs.h"

namespace mileage::festival {

/// One in this number is heavy.
inline constexpr std::uint32_t light_for_each_heavy = 16;

struct Sort {
  int kind = 0;           ///< Below Sorting::kinds.
  bool is_heavy = false;  ///< Takes Sorting::heavy_steps times the inner steps.

  bool operator==(const Sort& other) const { return kind == other.kind && is_heavy == other.is_heavy; }
};

struct Sorting {
  int kinds = 1;                 ///< In [1, max_kinds].
  std::int64_t heavy_steps = 1;  ///< In [1, 32]; at 1 none is heavy.

  Sorting() = default;
  /// Knobs kinds and uneven.
  explicit Sorting(const Knobs& knobs);

  Sort sort_of(std::uint32_t key) const {
    return {static_cast<int>((key >> 8) % static_cast<std::uint32_t>(kinds)),
            heavy_steps > 1 && key % light_for_each_heavy == 0};
  }
  /// Every sort once, and the index of one.
  std::vector<Sort> sorts() const;
  std::size_t place_of(Sort sort) const {
    return static_cast<std::size_t>(heavy_steps > 1 ? 2 * sort.kind + (sort.is_heavy ? 1 : 0) : sort.kind);
  }
};

/// Inner steps of a frame for light and heavy lanterns; either add up to the time step.
struct FrameWork {
  std::vector<Moment> light;
  std::vector<Moment> heavy;  ///< Empty without heavy lanterns.

  const std::vector<Moment>& of(Sort sort) const { return sort.is_heavy ? heavy : light; }
};

/// Calls `work` with `std::integral_constant<int, kind>`.
template <class Work>
void with_kind(int kind, const Work& work) {
  const auto among = [&]<int... kinds>(std::integer_sequence<int, kinds...>) {
    (void)((kind == kinds && (work(std::integral_constant<int, kinds>{}), true)) || ...);
  };
  among(std::make_integer_sequence<int, max_kinds>{});
}

}  // namespace mileage::festival
