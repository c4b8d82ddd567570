// Which short worlds are run before any timing, so that outcomes can be compared.
#pragma once

#include <vector>

#include "study/study.h"

namespace mileage {

/// A check to be made: a series, with some knobs set otherwise, at a count.
struct Check {
  Series series;
  Knobs varied;
  std::int64_t count = 0;

  /// The series with the varied knobs set.
  Series as_run() const;
};

/// Frames of every check.
inline constexpr int check_frames = 20;

/// Counts at which a plan is checked: its smallest, and a larger one up to 3,000.
std::vector<std::int64_t> counts_checked(const Plan& plan);

/// Plain checks at a count: of every series, and of its reference under the same conditions.
std::vector<Check> plain_checks(const Scenario& scenario, const Plan& plan, const std::vector<Series>& of,
                                std::int64_t count);
/// Checks of a plan at a count: the reference under the conditions of every series, and every series. A variant with a
/// knob called "workers" is checked with 1, 2 and all of them (the knob's default), twice each; every other one once.
std::vector<Check> checks_at(const Scenario& scenario, const Plan& plan, std::int64_t count);
/// Those at all counts_checked().
std::vector<Check> checks_of(const Scenario& scenario, const Plan& plan);

}  // namespace mileage
