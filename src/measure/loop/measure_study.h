// The measuring loop: checks, a range finding pass, then blocks of runs in shuffled order.
#pragma once

#include <vector>

#include "measure/loop/progress.h"
#include "measure/machine/clock.h"
#include "measure/runners/runner.h"

namespace mileage {

/// Measures a plan. First come the checks of outcomes (check_plan.h); series that they exclude are measured no further.
/// Then every series is placed: one short run per count, upwards, until it is far over the budget (1.6 times); counts
/// beyond are excluded for that series (not without plan.aim), and so are cells that fail. Then come the blocks: in
/// each, the counts in shuffled order, and at each count its series side by side in random order. With plan.aim, a few
/// more short runs find where the figures of the goal lie (aiming.h; larger counts than planned are tried for a
/// budget that is not crossed), and counts are put around them. Counts of the plan that lie close below a capacity or
/// beyond it are excluded then, and more where time is short (block_plan.h). Everything before the blocks takes a third
/// of plan.time_s at most, as far as the smallest counts allow. All series of a count in a block get the same seed. A
/// cell whose frames are far over the budget gets fewer of them, three at least, so that it takes no longer than one at
/// the edge.
///
/// Cells of which every run is condemned (disturbance_filter.h) are measured again at the end of their block, in three
/// rounds at most (one where plan.time_s is set), and again at the end of the study where the slowdown has moved
/// since; a cell that is still disturbed then is excluded of the block.
///
/// Blocks end after plan.blocks of them, or with the last run that fits into plan.time_s, which may leave the last
/// block unfinished, and even the first one; a runner may stop in the middle of one (Runner::Stopped).
/// With plan.precision, their number is planned in stages (blocks_wanted()): five, then as many as the width reached so
/// far asks for. `keep` and `stop` may throw; nothing is lost then but the run in work.
///
/// Where a person makes the runs there are neither checks nor range-finding runs: the blocks run every count of the
/// plan.
///
/// `head` holds scenario, plan and the remembered full speed of the yardstick. `made` holds the runs of an interrupted
/// study with the same head: they are taken in their order instead of being made again (and not told to `keep`), so
/// that measuring goes on where it stopped. Throws Error (bad input) when they are not the beginning of this study.
Summary measure_study(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock, const Watch& watch);

}  // namespace mileage
