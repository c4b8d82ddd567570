// World of drift: initial lanterns, work per frame, outcome. Memory layout and scheduling are up to each variant.
#pragma once

#include <cstdint>
#include <vector>

#include "festival/drift/drift_kernel.h"
#include "festival/drift/sorting.h"
#include "festival/mixing.h"
#include "mileage/types/variant.h"

namespace mileage::festival {

/// For the fields see carry().
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

/// Depends on seed and index only.
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

/// Knob `work` inner steps; a heavy lantern has a multiple.
FrameWork work_of_frame(const SetUp& set_up, const Sorting& sorting, std::int64_t frame);

/// Common part of drift's variants. Knobs work, kinds, uneven, touched, rest.
class DriftVariant : public Variant {
 public:
  explicit DriftVariant(const SetUp& set_up) : set_up_(set_up), sorting_(set_up.knobs) {}

  void run_frame(Frame& frame) final;
  Outcome outcome() const final;

 protected:
  const SetUp& set_up() const { return set_up_; }
  const Sorting& sorting() const { return sorting_; }

  /// Whether a phase is not skipped.
  bool has(const char* phase) const { return set_up_.skipped_phase != phase; }

  /// Other work of the main thread: knob rest. Once per frame.
  void do_the_rest(Frame& frame);

 private:
  /// Updates every lantern and does the rest of the frame before, after or concurrently. Returns the number of updates.
  virtual std::int64_t bring_forward(const FrameWork& work, Frame& frame) {
    const std::int64_t updates = carry_all(work, frame);
    do_the_rest(frame);
    return updates;
  }
  /// Returns the number of updates.
  virtual std::int64_t carry_all(const FrameWork& work, Frame& frame) = 0;
  /// Numbered on from the existing ones. Without it a variant cannot have arrivals.
  virtual void add_lanterns(std::int64_t) {}
  /// Sets the velocity of lantern `index`.
  virtual void push(std::int64_t index, float vx, float vy) = 0;
  /// 0 <= index < alive().
  virtual Lantern lantern(std::int64_t index) const = 0;

  void push_some(Frame& frame);

  SetUp set_up_;
  Sorting sorting_;
  std::int64_t frame_ = 0;
  Lantern carried_by_hand_;  ///< Used by the rest of the frame.
};

}  // namespace mileage::festival
