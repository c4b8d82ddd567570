// The measuring loop: checks, range finding, blocks.
#pragma once

#include <vector>

#include "measure/loop/progress.h"
#include "measure/machine/clock.h"
#include "measure/runners/runner.h"

namespace mileage {

/// Checks outcomes (check_plan.h); excluded series are not measured. Range finding then runs each series upwards until
/// it is far over the budget (1.6x); larger counts are excluded (not with plan.aim), as are failed cells. Blocks run
/// the counts in shuffled order, with the series of a count adjacent in random order and with one seed. With plan.aim,
/// a few more short runs locate the goal's figures (aiming.h), and counts are placed around them; redundant plan counts
/// are skipped, more if time is short (block_plan.h). All before the blocks takes at most a third of plan.time_s.
/// Frames far over budget get fewer per run, at least three.
/// Cells whose runs are all discarded (disturbance_filter.h) are repeated at the end of the block, up to three rounds
/// (one with plan.time_s), and again at the end of the study if full speed has changed.
/// Ends after plan.blocks, with the last run that fits into plan.time_s (possibly within a block), or at
/// plan.precision, for which blocks are planned in stages (blocks_wanted()); a runner may stop in between
/// (Runner::Stopped). `keep` and `stop` may throw; only the current run is lost.
/// Recordings by hand have no checks and no range finding.
/// `made`: runs of an interrupted study with the same head; they are taken in order instead of being made (and not
/// passed to `keep`). Throws Error (bad input) if they do not begin this study.
Summary measure_study(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock, const Watch& watch);

}  // namespace mileage
