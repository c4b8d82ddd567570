// Lanterns packed as tightly as the outcome allows: blocks of sixteen, that hold what differs from lantern to lantern
// and what a frame touches. A block is nine cache lines, one a field, and a walk over blocks is one stream of memory.
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

/// Lanterns of one sort.
class LeanLanterns {
 public:
  std::int64_t size() const { return count_; }
  void reserve(std::int64_t count);
  void append(const Lantern& one);
  void set_velocity(std::int64_t index, float vx, float vy);
  Lantern lantern(std::int64_t index) const;

  /// Takes all of them through all moments, with the widest vectors of the processor at hand.
  void carry_all(const std::vector<Moment>& moments, int kind);

 private:
  /// Lanterns that were set afloat at one time have one age: a field less for each of them.
  struct Cohort {
    std::int64_t first;
    float age_s;
  };

  std::int64_t count_ = 0;
  std::vector<LeanBlock> blocks_;
  std::vector<Cohort> cohorts_;
};

}  // namespace mileage::festival
