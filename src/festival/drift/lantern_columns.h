// Structure of arrays, with staggered columns.
#pragma once

#include <cstdint>
#include <vector>

#include "festival/drift/drift_world.h"
#include "festival/drift/line_aligned.h"
#include "festival/drift/strips.h"

namespace mileage::festival {

/// Columns are whole pages and a stagger apart; keys half a page further.
inline constexpr std::size_t page_floats = 1024;
inline constexpr std::size_t keys_begin = page_floats / 2;

class LanternColumns {
 public:
  std::int64_t size() const { return count_; }
  /// Total capacity; growing moves every column.
  void reserve(std::int64_t count);
  /// Needs capacity.
  void append(const Lantern& one) { set(count_++, one); }
  void clear() { count_ = 0; }

  void set(std::int64_t index, const Lantern& one);
  void set_velocity(std::int64_t index, float vx_now, float vy_now);
  Lantern lantern(std::int64_t index) const;

  /// Runs lanterns [from, to) through all moments, in strips that stay in L1. Disjoint ranges may run concurrently.
  void carry_range(std::int64_t from, std::int64_t to, const std::vector<Moment>& moments, CarryStrip carry_strip);

 private:
  /// Except the key, in column order.
  enum Field { x_m, y_m, height_m, vx, vy, vz, age_s, flicker, lean, fields };

  float* column(Field field) { return numbers_.data() + static_cast<std::size_t>(field) * stride_; }
  const float* column(Field field) const { return numbers_.data() + static_cast<std::size_t>(field) * stride_; }
  std::uint32_t* keys() { return keys_.data() + keys_begin; }
  const std::uint32_t* keys() const { return keys_.data() + keys_begin; }

  std::int64_t count_ = 0;
  std::int64_t room_ = 0;
  std::size_t stride_ = 0;  ///< Floats between columns.
  LineVector<float> numbers_;
  LineVector<std::uint32_t> keys_;
};

inline void LanternColumns::set(std::int64_t i, const Lantern& one) {
  column(x_m)[i] = one.x_m;
  column(y_m)[i] = one.y_m;
  column(height_m)[i] = one.height_m;
  column(vx)[i] = one.vx;
  column(vy)[i] = one.vy;
  column(vz)[i] = one.vz;
  column(age_s)[i] = one.age_s;
  column(flicker)[i] = one.flicker;
  column(lean)[i] = one.lean;
  keys()[i] = one.key;
}

inline Lantern LanternColumns::lantern(std::int64_t i) const {
  return {column(x_m)[i], column(y_m)[i],   column(height_m)[i], column(vx)[i],   column(vy)[i],
          column(vz)[i],  column(age_s)[i], column(flicker)[i],  column(lean)[i], keys()[i]};
}

}  // namespace mileage::festival
