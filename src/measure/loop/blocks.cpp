#include "measure/loop/blocks.h"

#include <algorithm>
#include <cmath>

#include "analysis/answers/goal.h"
#include "measure/loop/aim_counts.h"
#include "measure/loop/block_plan.h"
#include "measure/loop/checking.h"
#include "measure/loop/precision.h"
#include "measure/loop/tuning.h"

namespace mileage {
namespace {

constexpr int rounds_of_repeats = 3;
/// A further block is worth more than repeating the last disturbed cells.
constexpr int rounds_when_time_is_short = 1;
constexpr int blocks_for_an_interval = 3;
constexpr int any_number = 1'000'000;
/// Share of block time for estimating precision nobody asked for.
constexpr double share_for_telling = 0.02;

/// From the blocks so far, or predicted.
double block_s(const StudyState& state) {
  const int blocks = state.summary.blocks;
  return blocks > 0 ? (state.recorder.elapsed_s() - state.blocks_since_s) / blocks : predicted_block_s(state);
}

/// The last one may be partial.
int blocks_foreseen(const StudyState& state) {
  if (state.plan.time_s <= 0) return state.blocks_planned;
  const double in_time = std::ceil((state.plan.time_s - state.blocks_since_s) / block_s(state));
  return static_cast<int>(std::clamp(in_time, 1.0, static_cast<double>(state.blocks_planned)));
}

/// Share of the time by which the first pass may overrun, so that every cell has a cost.
constexpr double may_pass_by = 0.1;

/// Recorded runs count whatever their time.
bool is_out_of_time(const StudyState& state, double run_s) {
  return state.plan.time_s > 0 && !state.recorder.is_replaying() &&
         state.recorder.elapsed_s() + run_s > state.plan.time_s;
}

double foreseen_left_s(const StudyState& state, int blocks) {
  double end_s = state.blocks_since_s + blocks * block_s(state);
  if (state.plan.time_s > 0) end_s = std::min(end_s, state.plan.time_s);
  return std::max(0.0, end_s - state.recorder.elapsed_s());
}

/// Time reserved for faster cells to get enough blocks; a cell that would use it waits.
double kept_for_faster_s(const StudyState& state, const Cell& cell, int block) {
  double faster_s = 0;
  for (const Cell& other : state.cells)
    if (other.predicted_s < cell.predicted_s) faster_s += state.overrun * other.predicted_s;
  return faster_s * std::max(0, blocks_needed - 1 - block);
}

/// If a block takes too much of the remaining time, fast cells run first.
std::vector<Cell> in_order(const StudyState& state, std::vector<Cell> cells) {
  const double left_s = state.plan.time_s - state.recorder.runs_s();
  const bool is_short = state.plan.time_s > 0 && blocks_needed * state.overrun * predicted_block_s(state) > left_s;
  if (is_short)
    std::stable_sort(cells.begin(), cells.end(),
                     [](const Cell& a, const Cell& b) { return a.predicted_s < b.predicted_s; });
  return cells;
}

void run_cells(StudyState& state, const std::vector<Cell>& cells, int block, bool repeating) {
  Progress progress;
  progress.block = block;
  progress.blocks = blocks_foreseen(state);
  progress.repeating = repeating;
  progress.cells = cells.size();
  progress.reached = state.summary.reached;
  const bool is_first_pass = block == 0 && !repeating;
  for (const Cell& cell : cells) {
    if (!state.may_run(cell.series, cell.count)) continue;
    const Order order{
        state.plan.series[cell.series], {}, cell.count, block, RunStatus::kept, cell.min_frames, cell.predicted_s};
    const double takes_s = std::min(state.overrun * cell.predicted_s, state.recorder.limit_s(order));
    const bool is_first = is_first_pass && progress.done == 0;
    const double may_pass_s = is_first ? takes_s : is_first_pass ? may_pass_by * state.plan.time_s : 0;
    state.is_cut_short = state.is_stop_asked() || is_out_of_time(state, std::max(0.0, takes_s - may_pass_s));
    if (state.is_cut_short) return;
    if (!is_first_pass && is_out_of_time(state, takes_s + kept_for_faster_s(state, cell, block))) continue;
    progress.left_s = foreseen_left_s(state, progress.blocks);
    state.run(order, cell.predicted_s, progress);
  }
}

bool is_lost(const StudyState& state, int block) {
  const std::vector<Run>& runs = state.recorder.study().runs;
  return std::none_of(runs.begin(), runs.end(),
                      [&](const Run& run) { return run.block == block && !state.recorder.judge().condemns(run); });
}

/// Measured in the block, but all runs discarded by the current slowdown.
bool lacks_evidence(const StudyState& state, const Cell& cell, int block) {
  bool is_measured = false;
  for (const Run& run : state.recorder.study().runs) {
    if (run.block != block || run.count != cell.count || !(run.series == state.plan.series[cell.series])) continue;
    if (run.status == RunStatus::failed || !state.recorder.judge().condemns(run)) return false;
    is_measured = true;
  }
  return is_measured;
}

/// Of a lost block: all measured cells.
std::vector<Cell> cells_without_evidence(const StudyState& state, int block) {
  if (is_lost(state, block)) return state.cells;
  std::vector<Cell> lacking;
  for (const Cell& cell : state.cells)
    if (lacks_evidence(state, cell, block)) lacking.push_back(cell);
  return lacking;
}

/// One pass, then repeats of cells without evidence, limited in rounds.
void make_block(StudyState& state, int block) {
  std::vector<Cell> cells = in_order(state, block_order(state.cells, state.plan.seed, block));
  const int rounds = state.plan.time_s > 0 ? rounds_when_time_is_short : rounds_of_repeats;
  for (int round = 0; round <= rounds && !cells.empty() && !state.is_cut_short; ++round) {
    run_cells(state, cells, block, round > 0);
    cells = cells_without_evidence(state, block);
  }
  state.summary.blocks += !state.is_cut_short;
}

/// Full speed changes as a study proceeds, which may discard early runs.
void repeat_what_lacks_evidence(StudyState& state) {
  for (int block = 0; block < state.summary.blocks && !state.is_cut_short; ++block)
    run_cells(state, cells_without_evidence(state, block), block, true);
}

/// Analyses the study again: expensive for large ones.
void check_precision(StudyState& state, int made) {
  const double before_s = state.recorder.elapsed_s();
  state.summary.reached = reached(state.recorder.study(), state.plan.goal).half_width;
  state.look_took_s = state.recorder.elapsed_s() - before_s;
  state.blocks_looked_at = made;
  if (state.plan.precision > 0)
    state.summary.blocks_lacking = std::max(0, blocks_wanted(made, state.summary.reached, state.plan.precision) - made);
}

/// If someone listens, and the last estimate was cheap.
bool may_be_told(const StudyState& state) {
  return state.watch.progress && state.look_took_s <= share_for_telling * block_s(state);
}

/// Between stages the precision is only reported.
void plan_next_stage(StudyState& state, int made, int max) {
  if (made < blocks_for_an_interval) return;
  const bool is_stage_done = state.plan.precision > 0 && made >= state.blocks_planned;
  if (!is_stage_done && !may_be_told(state)) return;
  check_precision(state, made);
  if (is_stage_done)
    state.blocks_planned = std::min(max, blocks_wanted(made, state.summary.reached, state.plan.precision));
}

bool may_run_any(const StudyState& state) {
  return std::any_of(state.cells.begin(), state.cells.end(),
                     [&](const Cell& cell) { return state.may_run(cell.series, cell.count); });
}

}  // namespace

void make_blocks(StudyState& state) {
  const Plan& plan = state.plan;
  state.blocks_since_s = state.recorder.elapsed_s();
  plan_tuning_block(state);
  if (!plan.aim) note_if_too_short(state);
  const int max = plan.blocks > 0 ? plan.blocks : plan.precision > 0 ? max_blocks : any_number;
  state.blocks_planned = plan.precision > 0 ? std::min(max, first_stage_blocks) : max;
  for (int block = 0; block < state.blocks_planned && !state.is_cut_short; ++block) {
    if (block > 0 && is_out_of_time(state, 0)) break;
    if (!may_run_any(state)) break;  // Reported as skipped.
    const double before_s = state.recorder.runs_s();
    make_block(state, block);
    if (!state.is_cut_short) check_a_run(state, block);
    if (!state.is_cut_short)
      state.overrun = std::max(1.0, (state.recorder.runs_s() - before_s) / predicted_block_s(state));
    correct_aims(state, block);
    if (plan.aim) plan_block(state, block + 1);
    plan_tuning_block(state);
    plan_next_stage(state, block + 1, max);
  }
  if (plan.time_s <= 0 && !state.is_cut_short) repeat_what_lacks_evidence(state);
}

void check_final_precision(StudyState& state) {
  const int made = state.summary.blocks;
  const bool is_wanted = state.plan.precision > 0 || state.watch.progress;
  if (is_wanted && made >= blocks_for_an_interval && made > state.blocks_looked_at) check_precision(state, made);
}

}  // namespace mileage
