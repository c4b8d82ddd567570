// Which lanterns have code or work of their own: the knobs kinds and uneven, read from a lantern's key alone, so that
// every way of keeping lanterns in memory comes to the same answer.
#pragma once

#include <cstdint>
#include <utility>
#include <vector>

#include "festival/drift/drift_kernel.h"
#include "mileage/types/knobs.h"

namespace mileage::festival {

/// One lantern in this many is heavy where work is uneven.
inline constexpr std::uint32_t light_for_each_heavy = 16;

/// What lanterns are kept apart by.
struct Sort {
  int kind = 0;           ///< Below Sorting::kinds.
  bool is_heavy = false;  ///< It takes Sorting::heavy_steps times the inner steps.

  bool operator==(const Sort& other) const { return kind == other.kind && is_heavy == other.is_heavy; }
};

struct Sorting {
  int kinds = 1;                 ///< In [1, max_kinds].
  std::int64_t heavy_steps = 1;  ///< In [1, 32]; at 1 no lantern is heavy.

  Sorting() = default;
  /// Knobs kinds and uneven.
  explicit Sorting(const Knobs& knobs);

  Sort sort_of(std::uint32_t key) const {
    return {static_cast<int>((key >> 8) % static_cast<std::uint32_t>(kinds)),
            heavy_steps > 1 && key % light_for_each_heavy == 0};
  }
  /// Every sort once, and the place of a sort among them.
  std::vector<Sort> sorts() const;
  std::size_t place_of(Sort sort) const {
    return static_cast<std::size_t>(heavy_steps > 1 ? 2 * sort.kind + (sort.is_heavy ? 1 : 0) : sort.kind);
  }
};

/// What one frame asks of the lanterns: the inner steps of the light ones, and of the heavy ones. Either's steps make
/// the frame's time step together.
struct FrameWork {
  std::vector<Moment> light;
  std::vector<Moment> heavy;  ///< Empty where no lantern is heavy.

  const std::vector<Moment>& of(Sort sort) const { return sort.is_heavy ? heavy : light; }
};

/// Calls `work` with `std::integral_constant<int, kind>`: from a kind at run time to code of its own.
template <class Work>
void with_kind(int kind, const Work& work) {
  const auto among = [&]<int... kinds>(std::integer_sequence<int, kinds...>) {
    (void)((kind == kinds && (work(std::integral_constant<int, kinds>{}), true)) || ...);
  };
  among(std::make_integer_sequence<int, max_kinds>{});
}

}  // namespace mileage::festival
