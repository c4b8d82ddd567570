// Whether rare events come back at a steady distance.
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

namespace mileage {

/// Places of events in one run, ascending, and how long the run is.
struct EventRun {
  std::vector<std::size_t> at;
  std::size_t length = 0;
};

struct Period {
  double every = 0;      ///< Distance of neighbours.
  std::size_t hits = 0;  ///< Places at that distance that hold an event,
  std::size_t due = 0;   ///< of this many within the runs.
  double p_value = 1;    ///< Probability of such a period among events without one, at most.
};

/// The distance at which events come back, the same in all runs, each with a beginning of its own: the one whose due
/// places hold events against the largest odds (binomial; every distance and beginning that was tried counts). Nothing
/// where events without any order would look like it at 0.1 %, or where half of the due places hold none. An event may
/// be early or late by 1, or by 2 % of the distance. Cost: events of a run squared times their number, 200 events at
/// most are looked at in each.
std::optional<Period> period_of(const std::vector<EventRun>& runs);

}  // namespace mileage
