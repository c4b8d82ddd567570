// Short worlds whose outcomes are compared before timing.
#pragma once

#include <vector>

#include "study/study.h"

namespace mileage {

/// A series at a count, with some knobs changed.
struct Check {
  Series series;
  Knobs varied;
  std::int64_t count = 0;

  Series as_run() const;
};

inline constexpr int check_frames = 20;

/// The smallest of the plan, and a larger one up to 3,000.
std::vector<std::int64_t> counts_checked(const Plan& plan);

/// Of every series and of its reference under the same conditions.
std::vector<Check> plain_checks(const Scenario& scenario, const Plan& plan, const std::vector<Series>& of,
                                std::int64_t count);
/// Plain checks; variants with a knob "workers" also run with 1, 2 and all (default) workers, twice each.
std::vector<Check> checks_at(const Scenario& scenario, const Plan& plan, std::int64_t count);
/// At all counts_checked().
std::vector<Check> checks_of(const Scenario& scenario, const Plan& plan);

}  // namespace mileage
