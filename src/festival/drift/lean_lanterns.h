// Compact blocks of sixteen lanterns with the fields that differ and are touched: nine cache lines, one per field, in
// one stream.
#pragma once

#include <cstdint>
#include <vector>

#include "festival/drift/drift_world.h"

namespace mileage::festival {

inline constexpr int lean_block = 16;

struct alignas(64) LeanBlock {
  float x_m[lean_block], y_m[lean_block], height_m[lean_block];
  float vx[lean_block], vy[lean_block], vz[lean_block];
  float flicker[lean_block], lean[lean_block];
  std::uint32_t key[lean_block];
};

class LeanLanterns {
 public:
  std::int64_t size() const { return count_; }
  void reserve(std::int64_t count);
  void append(const Lantern& one);
  void set_velocity(std::int64_t index, float vx, float vy);
  Lantern lantern(std::int64_t index) const;

  /// With the widest vectors available.
  void carry_all(const std::vector<Moment>& moments, int kind);

 private:
  /// Lanterns set afloat together share one age.
  struct Cohort {
    std::int64_t first;
    float age_s;
  };

  std::int64_t count_ = 0;
  std::vector<LeanBlock> blocks_;
  std::vector<Cohort> cohorts_;
};

}  // namespace mileage::festival
