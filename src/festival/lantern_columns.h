// Lanterns as columns: one array per field.
#pragma once

#include <cstdint>
#include <vector>

#include "festival/drift_world.h"

namespace mileage::festival {

class LanternColumns {
 public:
  LanternColumns(std::uint64_t seed, std::int64_t count);

  std::int64_t size() const { return static_cast<std::int64_t>(key_.size()); }
  Lantern lantern(std::int64_t index) const;

  /// Takes the lanterns [from, to) through all moments. Disjoint ranges may be carried by different threads at once.
  /// Works through strips that stay in the nearest cache, so that several moments cost one walk through memory.
  void carry_range(std::int64_t from, std::int64_t to, const std::vector<Moment>& moments);

 private:
  std::vector<float> x_m_, y_m_, height_m_, vx_, vy_, vz_, age_s_, flicker_, lean_;
  std::vector<std::uint32_t> key_;
};

}  // namespace mileage::festival
