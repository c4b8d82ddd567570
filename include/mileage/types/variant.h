// Variant: one way to implement a scenario. This is what a user writes.
#pragma once

#include <cstdint>
#include <functional>
#include <memory>
#include <string>

#include "mileage/types/frame.h"
#include "mileage/types/knobs.h"
#include "mileage/types/outcome.h"
#include "mileage/types/picture.h"

namespace mileage {

/// What to build.
struct SetUp {
  std::int64_t count = 0;  ///< Entities alive at the start; >= 1.
  std::uint64_t seed = 0;  ///< Everything random must come from it; equal for all variants of a comparison.
  double step_s = 0;       ///< Simulated seconds per frame; fixed during a run.
  Knobs knobs;             ///< A value for every knob of the scenario and of this variant.
  /// This many more come at once in a later frame (Frame::arriving()); 0 where a study asks for none. A variant that
  /// does not let them in fails such runs, and no others.
  std::int64_t arrivals = 0;
  /// The phase that is excluded of every frame, one of VariantFacts::stubs; empty where none is. The outcome is then
  /// not compared.
  std::string skipped_phase;
};

/// A world of entities and one way to bring it forward. Made by a Factory, which does all the setting up (its time is
/// kept apart from the frames), used on one thread, destroyed after the run. An exception that leaves any of these
/// functions ends the run, which is recorded as failed with its message.
class Variant {
 public:
  virtual ~Variant() = default;

  /// Brings the world forward by one time step. This call is what is measured; it must do the whole work of the
  /// frame before it returns.
  virtual void run_frame(Frame& frame) = 0;

  /// How many entities are alive now: counted, not remembered from the set-up.
  virtual std::int64_t alive() const = 0;

  /// What the world looks like now. Not measured.
  virtual Outcome outcome() const = 0;

  /// Adds the counters of a frame that would alter its time if it counted them itself, such as pixels drawn. Called
  /// once, after the measured frames; what it adds holds for each of them. Not measured.
  virtual void count_untimed(Frame&) const {}

  /// The world drawn, where the variant draws. Not measured.
  virtual Picture picture() const { return {}; }
};

/// Builds a variant from a set-up. May use all the time and memory that setting up needs; both are recorded.
using Factory = std::function<std::unique_ptr<Variant>(const SetUp&)>;

/// The Factory of a world whose constructor takes a SetUp: `make_world<Lanterns>`.
template <class World>
std::unique_ptr<Variant> make_world(const SetUp& set_up) {
  return std::make_unique<World>(set_up);
}

}  // namespace mileage
