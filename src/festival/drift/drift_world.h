// The world of drift, as all its variants see it: lanterns as they are set afloat, what a frame asks of them, and the
// outcome. How lanterns lie in memory and who brings them forward is up to each variant.
#pragma once

#include <cstdint>
#include <vector>

#include "festival/drift/drift_kernel.h"
#include "festival/drift/sorting.h"
#include "festival/mixing.h"
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

template <int kind>
inline void carry(const Moment& now, Lantern& one) {
  carry<kind>(now, one.x_m, one.y_m, one.height_m, one.vx, one.vy, one.vz, one.age_s, one.flicker, one.lean, one.key);
}

/// Lantern number `index` as it is set afloat. Depends on seed and index alone.
inline Lantern lantern_set_afloat(std::uint64_t seed, std::int64_t index) {
  const std::uint64_t own = splitmix64(seed ^ splitmix64(static_cast<std::uint64_t>(index)));
  Lantern one;
  one.x_m = pond_edge_m * share_of(own);
  one.y_m = pond_edge_m * share_of(splitmix64(own + 1));
  one.height_m = 0.3F + 0.1F * share_of(splitmix64(own + 2));
  one.vx = share_of(splitmix64(own + 3)) - 0.5F;
  one.vy = share_of(splitmix64(own + 4)) - 0.5F;
  one.flicker = share_of(splitmix64(own + 5));
  one.key = static_cast<std::uint32_t>(splitmix64(own + 6));
  return one;
}

/// The inner steps of frame number `frame`: knob `work` of them, and for a heavy lantern this many times more.
FrameWork work_of_frame(const SetUp& set_up, const Sorting& sorting, std::int64_t frame);

/// What all variants of drift share: counting frames, what happens from outside, and stating the outcome. Knobs work,
/// kinds, uneven, touched and rest.
class DriftVariant : public Variant {
 public:
  explicit DriftVariant(const SetUp& set_up) : set_up_(set_up), sorting_(set_up.knobs) {}

  void run_frame(Frame& frame) final;
  Outcome outcome() const final;

 protected:
  const SetUp& set_up() const { return set_up_; }
  const Sorting& sorting() const { return sorting_; }

  /// Whether a phase that can be excluded is not.
  bool has(const char* phase) const { return set_up_.skipped_phase != phase; }

  /// What the main thread does besides the lanterns: knob rest. Called once a frame.
  void do_the_rest(Frame& frame);

 private:
  /// Brings every lantern through the frame, and does the rest of the frame before, after or during that time. Returns
  /// how many lanterns were updated.
  virtual std::int64_t bring_forward(const FrameWork& work, Frame& frame) {
    const std::int64_t updates = carry_all(work, frame);
    do_the_rest(frame);
    return updates;
  }
  /// Takes every lantern through all inner steps of a frame. Returns how many lanterns were updated.
  virtual std::int64_t carry_all(const FrameWork& work, Frame& frame) = 0;
  /// Sets this many more afloat, numbered on from those alive. Without it a variant knows no arrivals.
  virtual void add_lanterns(std::int64_t) {}
  /// Someone gives lantern number `index` a push: its velocity over the water is this from now on.
  virtual void push(std::int64_t index, float vx, float vy) = 0;
  /// Lantern number `index`, 0 <= index < alive().
  virtual Lantern lantern(std::int64_t index) const = 0;

  void push_some(Frame& frame);

  SetUp set_up_;
  Sorting sorting_;
  std::int64_t frame_ = 0;
  Lantern carried_by_hand_;  ///< What the rest of the frame works on.
};

}  // namespace mileage::festival
