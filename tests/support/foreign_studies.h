// Studies of the simulated machines of foreign_machines.h, with their truths, to check coverage.
#pragma once

#include <functional>
#include <map>
#include <optional>
#include <string>

#include "study/study.h"
#include "support/foreign_machines.h"

namespace mileage::foreign {

/// "objects", "records" (equal to objects in every third world) and "columns" (larger fixed cost, faster at large
/// counts).
struct Truth {
  std::map<std::string, std::function<double(double)>> ms;  ///< Undisturbed frame time at a count.
  bool are_equal = false;                                   ///< objects and records.

  double capacity(const std::string& variant, double budget_ms) const;
  /// The only crossing after which `to` is faster, if there is exactly one.
  std::optional<double> break_even(const std::string& from, const std::string& to, double min, double max) const;
  /// Nothing if it does not at `max`.
  std::optional<double> pays_off_from(const std::string& from, const std::string& to, double saving_ms, double min,
                                      double max) const;
};

struct Simulated {
  Study study;
  Truth truth;
};

/// About 25 cells in blocks of shuffled 20 ms runs. Deterministic by seed.
Simulated simulate(Family family, Load load, int blocks, std::uint64_t seed);

/// "linear", "log_linear", "quadratic" and "root" (power 1.5).
Simulated simulate_laws(Family family, Load load, int blocks, std::uint64_t seed);

/// "jobs" with 1 to 8 workers, and a ladder of two knobs with one worker.
struct SimulatedKnobs {
  Study study;
  double serial = 0;                                ///< Of the frame with one worker.
  std::function<double(const Series&, double)> ms;  ///< Undisturbed frame time at a count.
};
SimulatedKnobs simulate_knobs(Family family, Load load, int blocks, std::uint64_t seed);

}  // namespace mileage::foreign
