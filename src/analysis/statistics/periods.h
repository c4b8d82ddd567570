// Whether rare events are periodic.
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

namespace mileage {

/// Ascending places of events, and the run's length.
struct EventRun {
  std::vector<std::size_t> at;
  std::size_t length = 0;
};

struct Period {
  double every = 0;      ///< Distance.
  std::size_t hits = 0;  ///< Due places with an event.
  std::size_t due = 0;   ///< Due places within the runs.
  double p_value = 1;    ///< Upper bound.
};

/// The distance, equal in all runs with a phase per run, whose due places hold events with the smallest binomial
/// p-value, corrected for every distance and phase tried. Nothing above 0.1 % or if fewer than half hold one.
/// Tolerance: 1, or 2 % of the distance. Quadratic in events, at most 200 per run.
std::optional<Period> period_of(const std::vector<EventRun>& runs);

}  // namespace mileage
