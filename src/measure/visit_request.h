// What a visit is asked to do, and doing it in this process.
#pragma once

#include <cstdint>
#include <string>

#include "measure/clock.h"
#include "measure/process_facts.h"
#include "measure/yardstick.h"
#include "mileage/types/catalogue.h"
#include "study/study.h"

namespace mileage {

/// One visit, as it is sent to whoever runs it.
struct VisitRequest {
  std::string scenario;
  Series series;
  std::int64_t count = 0;
  std::uint64_t seed = 0;
  int least_frames = 20;  ///< Measured frames, at least.
  double least_ms = 20;   ///< Measured time in milliseconds, at least.
  /// Above 0: a check instead of a measurement. Exactly so many frames from the set-up on, without warm-up, so that
  /// outcomes can be compared.
  int check_frames = 0;
  /// Above 0: wait with the frames until the yardstick is below this, for `patience_s` at most.
  double quiet_below_ns = 0;
  double patience_s = 0;
};

/// What a visit process waits between two looks at the yardstick.
inline constexpr double pause_between_looks_s = 0.02;

/// What a visit is timed with. All but the clock may be missing (nullptr).
struct Instruments {
  Clock* clock = nullptr;
  Yardstick* yardstick = nullptr;
  LoadReading (*load)() = nullptr;  ///< Tells what the whole machine does; read_load, where that is a real machine.
};

/// Most samples that a visit keeps; very short frames end there even before `least_ms`.
inline constexpr std::size_t most_samples = 20'000;

/// A sample shorter than this many readings of the clock is made of several frames instead.
inline constexpr double readings_per_sample = 100;

/// Shortest time in nanoseconds that one core can take for touching one entity: no processor reads or writes memory
/// faster. A frame whose "updates" would have taken less is too fast to be true.
inline constexpr double fastest_touch_ns = 0.005;

/// Sets up, takes the yardstick, warms up, measures, takes it again and reads the outcome. Fills everything that happens
/// inside a visit; block, order and status are the caller's. What a variant throws becomes a failed visit with its
/// message as the reason. So does a scenario or variant that the catalogue does not hold, an outcome with a value that
/// is no number, a world that does not hold as many entities as asked for, and a frame that is too fast to be true.
Visit make_visit(const VisitRequest& request, const Catalogue& catalogue, const Instruments& instruments);

/// The yardstick before the frames; waits for a quiet moment where the request wants that, and adds to `waited_s`.
YardstickTimes take_when_quiet(const VisitRequest& request, const Instruments& instruments, double& waited_s);

/// The visit that a request would have become, failed for this reason. Reasons may come from programs: paths in them
/// are cut to their last part, characters that control a terminal become "?", and long ones are cut.
Visit failed_visit(const VisitRequest& request, const std::string& reason);

}  // namespace mileage
