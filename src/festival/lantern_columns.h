// Lanterns as columns: one array per field, staggered in memory.
#pragma once

#include <cstdint>
#include <vector>

#include "festival/drift_world.h"

namespace mileage::festival {

class LanternColumns {
 public:
  LanternColumns(std::uint64_t seed, std::int64_t count);

  /// Sets so many more afloat. Every column moves to a place where it has room, as it would without a reserve.
  void add(std::uint64_t seed, std::int64_t more);

  std::int64_t size() const { return count_; }
  Lantern lantern(std::int64_t index) const;

  /// Takes the lanterns [from, to) through all moments. Disjoint ranges may be carried by different threads at once.
  /// Works through strips that stay in the nearest cache, so that several moments cost one walk through memory.
  void carry_range(std::int64_t from, std::int64_t to, const std::vector<Moment>& moments);

 private:
  /// The fields but the key, in the order of their columns.
  enum Field { x_m, y_m, height_m, vx, vy, vz, age_s, flicker, lean, fields };

  float* column(Field field) { return numbers_.data() + static_cast<std::size_t>(field) * stride_; }
  const float* column(Field field) const { return numbers_.data() + static_cast<std::size_t>(field) * stride_; }
  void set(std::int64_t index, const Lantern& one);
  std::uint32_t* keys();
  const std::uint32_t* keys() const;

  std::int64_t count_;
  std::size_t stride_;  ///< Floats from one column to the next.
  std::vector<float> numbers_;
  std::vector<std::uint32_t> keys_;
};

}  // namespace mileage::festival
