// The measuring loop: checks, range finding, rounds.
#pragma once

#include <vector>

#include "measure/loop/progress.h"
#include "measure/machine/clock.h"
#include "measure/runners/runner.h"

namespace mileage {

/// Checks outcomes (check_plan.h); excluded series are not measured. Range finding then runs each series upwards until
/// it is far over the budget (1.6x); larger counts are excluded (not without plan.aim, or if listed), as are failed
/// cells. Rounds then run cells in shuffled order, with the series of a count adjacent in random order and with one
/// seed: every count of the plan and around the goal's figures, or, with a time, those that narrow the figures most per
/// second (rounds.h). Each round is a block. Frames far over budget get fewer per run, at least three.
/// Ends after plan.blocks, at plan.time_s, or at plan.precision; a runner may stop in between (Runner::Stopped). `keep`
/// and `stop` may throw; only the current run is lost.
/// Recordings by hand have no checks and no range finding.
/// `made`: runs of an interrupted study with the same head; they are taken in order instead of being made (and not
/// passed to `keep`). Throws Error (bad input) if they do not begin this study.
Summary measure_study(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock, const Watch& watch);

}  // namespace mileage
