// The world of drift, as all its variants see it: lanterns as they are set afloat, the moments of a frame, and the
// outcome. How lanterns lie in memory and who brings them forward is up to each variant.
#pragma once

#include <cstdint>
#include <vector>

#include "festival/drift_kernel.h"
#include "mileage/types/variant.h"

namespace mileage::festival {

/// One lantern by value; for the fields see carry().
struct Lantern {
  float x_m = 0;
  float y_m = 0;
  float height_m = 0;
  float vx = 0;
  float vy = 0;
  float vz = 0;
  float age_s = 0;
  float flicker = 0;
  float lean = 0;
  std::uint32_t key = 0;
};

inline void carry(const Moment& now, Lantern& one) {
  carry(now, one.x_m, one.y_m, one.height_m, one.vx, one.vy, one.vz, one.age_s, one.flicker, one.lean, one.key);
}

/// Lantern number `index` as it is set afloat. Depends on seed and index alone.
Lantern lantern_set_afloat(std::uint64_t seed, std::int64_t index);

/// The inner steps of frame number `frame`: `work` of them, which together make the frame's time step.
std::vector<Moment> moments_of_frame(const SetUp& set_up, std::int64_t frame);

/// What all variants of drift share: counting frames and stating the outcome.
class DriftVariant : public Variant {
 public:
  explicit DriftVariant(const SetUp& set_up) : set_up_(set_up) {}

  void run_frame(Frame& frame) final;
  Outcome outcome() const final;

 protected:
  const SetUp& set_up() const { return set_up_; }

 private:
  /// Takes every lantern through all inner steps of a frame. Returns how many lanterns were updated.
  virtual std::int64_t carry_all(const std::vector<Moment>& moments, Frame& frame) = 0;
  /// Sets so many more afloat, numbered on from those alive. Without it a variant knows no arrivals.
  virtual void add_lanterns(std::int64_t) {}
  /// Lantern number `index`, 0 <= index < alive().
  virtual Lantern lantern(std::int64_t index) const = 0;

  SetUp set_up_;
  std::int64_t frame_ = 0;
};

}  // namespace mileage::festival
