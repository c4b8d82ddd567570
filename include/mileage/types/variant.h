// Variant: one implementation of a scenario, written by the user.
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

struct SetUp {
  std::int64_t count = 0;  ///< >= 1.
  std::uint64_t seed = 0;  ///< Source of all randomness; equal for compared variants.
  double step_s = 0;       ///< Simulated seconds per frame.
  Knobs knobs;             ///< Every knob of scenario and variant.
  /// Entities that arrive in a later frame (Frame::arriving()). Ignoring them fails such runs only.
  std::int64_t arrivals = 0;
  /// One of VariantFacts::stubs, or empty. The outcome is then not compared.
  std::string skipped_phase;
};

/// A world and a way to advance it. Made by a Factory (timed separately), used on one thread. An exception fails the
/// run with its message.
class Variant {
 public:
  virtual ~Variant() = default;

  /// Advances one time step; this is measured. All work must be done on return.
  virtual void run_frame(Frame& frame) = 0;

  /// Counted, not remembered.
  virtual std::int64_t alive() const = 0;

  /// Not measured.
  virtual Outcome outcome() const = 0;

  /// Counters too expensive for a frame, such as pixels drawn. Called once after the measured frames, for each of them.
  /// Not measured.
  virtual void count_untimed(Frame&) const {}

  /// Not measured.
  virtual Picture picture() const { return {}; }
};

/// Sets up; time and memory are recorded.
using Factory = std::function<std::unique_ptr<Variant>(const SetUp&)>;

/// For a constructor that takes a SetUp: `make_world<Lanterns>`.
template <class World>
std::unique_ptr<Variant> make_world(const SetUp& set_up) {
  return std::make_unique<World>(set_up);
}

}  // namespace mileage
