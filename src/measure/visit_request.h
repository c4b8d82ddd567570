// What a visit is asked to do, and doing it in this process.
#pragma once

#include <cstdint>
#include <string>

#include "measure/clock.h"
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
};

/// Most samples that a visit keeps; very short frames end there even before `least_ms`.
inline constexpr std::size_t most_samples = 20'000;

/// A sample shorter than this many readings of the clock is made of several frames instead.
inline constexpr double readings_per_sample = 100;

/// Sets up, warms up, measures and reads the outcome. Fills everything that happens inside a visit; block, order and
/// status are the caller's. What a variant throws becomes a failed visit with its message as the reason; so does a
/// scenario or variant that the catalogue does not hold.
Visit make_visit(const VisitRequest& request, const Catalogue& catalogue, Clock& clock);

/// The visit that a request would have become, failed for this reason.
Visit failed_visit(const VisitRequest& request, std::string reason);

}  // namespace mileage
