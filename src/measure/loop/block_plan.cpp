#include "measure/loop/block_plan.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "measure/loop/range_finding.h"

namespace mileage {
namespace {

/// Blocks that should fit; blocks_needed must.
constexpr int blocks_that_should_fit = 8;
/// For checks and precision estimates between blocks, which vary.
constexpr double room_between_blocks = 1.05;
/// Ratio to an aim within which plan counts are redundant.
constexpr double beside_an_aim = 1.45;
/// Of the time in all blocks: such counts stay.
constexpr double cheap_share = 0.01;
/// Every fourth plan count stays as an anchor below the figures, within this share of the time; short studies lost
/// their low costs without it.
constexpr std::ptrdiff_t rungs_to_a_foothold = 4;
constexpr double share_of_footholds = 0.25;
/// Per series when all is skipped.
constexpr std::size_t min_counts = 3;
constexpr int min_frames = 5;

bool gives_up(const StudyState& state, Skipped what) { return state.summary.skipped >= what; }

bool is_pursued(const StudyState& state, const Aim& aim) {
  if (gives_up(state, Skipped::aims)) return false;
  const bool is_skipped = aim.other && gives_up(state, Skipped::break_evens) && state.plan.goal.figure != "breakeven";
  return aim.at && !is_skipped;
}

bool is_within_reach(const StudyState& state, const Aim& aim, std::size_t series) {
  const std::vector<std::int64_t> counts = aimed_counts(aim);
  return std::any_of(counts.begin(), counts.end(),
                     [&](std::int64_t count) { return may_be_tried(state, series, static_cast<double>(count)); });
}

bool is_aimed_at(const StudyState& state, std::size_t series) {
  return std::any_of(state.aims.begin(), state.aims.end(), [&](const Aim& aim) {
    return is_pursued(state, aim) && aim.concerns(series) && is_within_reach(state, aim, series);
  });
}

/// Close to a capacity or beyond.
bool is_beside_an_aim(const StudyState& state, const Cell& cell) {
  return std::any_of(state.aims.begin(), state.aims.end(), [&](const Aim& aim) {
    return aim.at && !aim.other && aim.frames == FramesOf::typical && aim.series == cell.series &&
           static_cast<double>(cell.count) > aim.around / beside_an_aim;
  });
}

std::ptrdiff_t rung_of(const Plan& plan, std::int64_t count) {
  return std::find(plan.counts.begin(), plan.counts.end(), count) - plan.counts.begin();
}

/// Smallest, middle and largest count: they span the curve.
bool is_end_or_middle(const StudyState& state, const Cell& cell) {
  std::ptrdiff_t smaller = 0;
  std::ptrdiff_t larger = 0;
  for (const Cell& other : state.ladder) {
    if (other.series != cell.series) continue;
    smaller += other.count < cell.count;
    larger += other.count > cell.count;
  }
  return smaller == 0 || larger == 0 || larger - smaller == 0 || larger - smaller == 1;
}

/// Mean per series.
double mean_s(const std::vector<const Cell*>& at_count) {
  double sum = 0;
  for (const Cell* cell : at_count) sum += cell->predicted_s;
  return sum / static_cast<double>(at_count.size());
}

bool is_cheap(const StudyState& state, const std::vector<const Cell*>& at_count) {
  return mean_s(at_count) * blocks_that_should_fit < cheap_share * state.plan.time_s;
}

bool is_foothold(const StudyState& state, const std::vector<const Cell*>& at_count) {
  const Plan& plan = state.plan;
  if (rung_of(plan, at_count.front()->count) % rungs_to_a_foothold != 0) return false;
  const double rungs = std::ceil(static_cast<double>(plan.counts.size()) / rungs_to_a_foothold);
  const double all_alike_s = mean_s(at_count) * rungs * static_cast<double>(plan.series.size());
  return blocks_needed * all_alike_s < share_of_footholds * plan.time_s;
}

/// For all series alike, since they are compared there.
bool is_skipped(const StudyState& state, const std::vector<const Cell*>& at_count) {
  if (!gives_up(state, Skipped::half_the_ladder)) return false;
  const auto is_aimed = [&](const Cell* cell) { return is_aimed_at(state, cell->series); };
  const bool is_half = rung_of(state.plan, at_count.front()->count) % 2 != 0;
  const bool is_any_aimed = std::any_of(at_count.begin(), at_count.end(), is_aimed);
  if (!gives_up(state, Skipped::ladder)) return is_half && is_any_aimed;
  const bool is_last_of_any = std::any_of(at_count.begin(), at_count.end(), [&](const Cell* cell) {
    return !is_aimed(cell) && is_end_or_middle(state, *cell);
  });
  if (is_last_of_any || !is_any_aimed) return !is_last_of_any;
  return !is_foothold(state, at_count) && (is_half || !is_cheap(state, at_count));
}

/// Listed counts all stay.
void take_ladder(StudyState& state) {
  std::map<std::int64_t, std::vector<const Cell*>> by_count;
  for (const Cell& cell : state.ladder) by_count[cell.count].push_back(&cell);
  for (const auto& [count, at_count] : by_count) {
    const bool is_beside_all =
        std::all_of(at_count.begin(), at_count.end(), [&](const Cell* cell) { return is_beside_an_aim(state, *cell); });
    for (const Cell* cell : at_count) {
      if (is_beside_all && !state.plan.listed)
        state.leave_out(cell->series, count, LeftOutWhy::beside_aim);
      else if (!state.plan.listed && is_skipped(state, at_count))
        state.leave_out(cell->series, count, LeftOutWhy::block_time);
      else
        state.cells.push_back(*cell);
    }
  }
}

void add_aimed(StudyState& state, const Aim& aim, std::size_t series, std::int64_t count) {
  const bool is_pooled = aim.frames == FramesOf::max;
  std::vector<Cell>& cells = state.cells;
  const auto there = std::find_if(cells.begin(), cells.end(),
                                  [&](const Cell& cell) { return cell.series == series && cell.count == count; });
  if (!may_be_tried(state, series, static_cast<double>(count))) return;
  if (there != cells.end() && (there->pooled || !is_pooled)) return;
  if (there != cells.end()) cells.erase(there);
  const RunCost cost = cost_near(state, series, count);
  const int frames = is_pooled ? pooled_frames_for(state.plan, cost)
                               : frames_for(state.plan, rough_cost(state.costs[series], count), cost);
  cells.push_back(
      {series, count, true, frames, predicted_s(state.plan, state.plan.series[series], cost, frames), is_pooled});
}

/// The series with fewer remaining plan counts needs more around the figure.
std::size_t min_counts_around(const StudyState& state, const Aim& aim) {
  std::size_t fewest = 1;
  for (std::size_t series = 0; series < state.plan.series.size(); ++series) {
    if (!aim.concerns(series)) continue;
    const auto others =
        static_cast<std::size_t>(std::count_if(state.cells.begin(), state.cells.end(),
                                               [&](const Cell& cell) { return cell.series == series && !cell.aimed; }));
    fewest = std::max(fewest, min_counts - std::min(others, min_counts));
  }
  return fewest;
}

/// Whether counts above the figure are possible for every series.
bool may_be_passed(const StudyState& state, Aim aim) {
  aim.counts_around = 2;
  for (std::size_t series = 0; series < state.plan.series.size(); ++series)
    if (aim.concerns(series) && !may_be_tried(state, series, static_cast<double>(aimed_counts(aim).back())))
      return false;
  return true;
}

std::size_t counts_around(const StudyState& state, const Aim& aim) {
  if (!gives_up(state, Skipped::ends)) return 5;
  if (!gives_up(state, Skipped::middles) || !may_be_passed(state, aim)) return 3;
  const bool needs_both_sides = aim.frames == FramesOf::worst;  // From arrivals on either of them.
  return std::max<std::size_t>(gives_up(state, Skipped::sides) && !needs_both_sides ? 1 : 2,
                               min_counts_around(state, aim));
}

void put_counts_around(StudyState& state, Aim& aim) {
  if (!is_pursued(state, aim)) return;
  aim.counts_around = counts_around(state, aim);
  for (const std::int64_t count : aimed_counts(aim))
    for (std::size_t series = 0; series < state.plan.series.size(); ++series)
      if (aim.concerns(series) && !state.costs[series].empty()) add_aimed(state, aim, series, count);
}

void thin_frames(StudyState& state) {
  if (!gives_up(state, Skipped::half_the_frames)) return;
  for (Cell& cell : state.cells) {
    if (cell.pooled) continue;
    const int thinned = gives_up(state, Skipped::max_of_the_frames) ? min_frames : cell.min_frames / 2;
    const int frames = std::min(cell.min_frames, std::max(min_frames, thinned));
    const RunCost cost = cost_near(state, cell.series, cell.count);
    cell.predicted_s -= (cell.min_frames - frames) * cost.frame_s;
    cell.min_frames = frames;
  }
}

void put_cells(StudyState& state) {
  state.cells.clear();
  take_ladder(state);
  for (Aim& aim : state.aims) put_counts_around(state, aim);
  thin_frames(state);
}

double corrected_block_s(const StudyState& state) {
  return predicted_block_s(state) * state.overrun * room_between_blocks;
}

/// Shorter runs need more blocks for the same number of frames.
int blocks_needed_for(const StudyState& state) {
  int frames = max_pooled_frames;
  for (const Cell& cell : state.cells)
    if (cell.pooled) frames = std::min(frames, cell.min_frames);
  return (blocks_needed * max_pooled_frames + frames - 1) / frames;
}

bool fits(const StudyState& state, int made) {
  const int needed = blocks_needed_for(state);
  if (made >= needed) return true;
  const int wanted = gives_up(state, Skipped::ends) ? needed : std::max(needed, blocks_that_should_fit);
  const double left_s = state.plan.time_s - state.recorder.runs_s();
  return corrected_block_s(state) * std::max(1, wanted - made) <= left_s;
}

/// Seconds of block and range finding missing for the fewest counts of every series.
double missing_s(const StudyState& state) {
  const std::size_t wanted = std::min(min_counts, state.plan.counts.size());
  double missing = 0;
  for (std::size_t series = 0; series < state.plan.series.size(); ++series) {
    std::size_t counts = 0;
    double dearest_s = 0;
    for (const Cell& cell : state.cells) {
      if (cell.series != series) continue;
      ++counts;
      dearest_s = std::max(dearest_s, cell.predicted_s);
    }
    const bool was_time_short = std::any_of(state.left_out.begin(), state.left_out.end(), [&](const auto& left_out) {
      return left_out.first.first == series && left_out.second == LeftOutWhy::range_finding_time;
    });
    if (was_time_short && counts < wanted) missing += static_cast<double>(wanted - counts) * dearest_s;
  }
  return missing;
}

TooShort slowest_of(const StudyState& state) {
  std::map<std::size_t, double> seconds;
  for (const Cell& cell : state.cells) seconds[cell.series] += cell.predicted_s;
  TooShort told;
  for (const auto& [series, sum] : seconds)
    if (sum > told.slowest_s) {
      told.slowest = series;
      told.slowest_s = sum;
    }
  return told;
}

}  // namespace

void plan_block(StudyState& state, int made) {
  Skipped& skipped = state.summary.skipped;
  // Next to pooled frames, counts with few frames are cheap.
  const bool may_move_counts = made == 0 && !state.plan.goal.for_99;
  const Skipped last = state.plan.listed ? Skipped::aims : Skipped::sides;
  const Skipped max = std::max(skipped, may_move_counts ? last : Skipped::break_evens);
  put_cells(state);
  if (state.plan.time_s <= 0) return;
  while (!fits(state, made) && skipped != max) {
    skipped = static_cast<Skipped>(static_cast<int>(skipped) + 1);
    put_cells(state);
  }
  if (made == 0) note_if_too_short(state);
}

/// With more time, range finding uses its whole share.
void note_if_too_short(StudyState& state) {
  if (state.plan.time_s <= 0 || state.cells.empty() || !state.watch.too_short) return;
  const double missing = missing_s(state);
  const double before_s = state.recorder.runs_s() + missing;
  const double blocks_s = blocks_needed_for(state) * (corrected_block_s(state) + missing);
  TooShort told = slowest_of(state);
  told.needed_s = before_s + blocks_s;
  if (missing > 0)
    told.needed_s =
        std::max({told.needed_s, before_s / share_for_range_finding, blocks_s / (1 - share_for_range_finding)});
  if (missing > 0 || told.needed_s > state.plan.time_s) state.watch.too_short(told);
}

double predicted_block_s(const StudyState& state) {
  double sum = 0;
  for (const Cell& cell : state.cells) sum += cell.predicted_s;
  return sum;
}

bool may_be_tried(const StudyState& state, std::size_t series, double count) {
  return state.may_run(series, std::llround(count)) &&
         (state.plan.max_count == 0 || count <= static_cast<double>(state.plan.max_count));
}

double rough_cost(const RoughCosts& costs, std::int64_t count) {
  const auto above = costs.lower_bound(count);
  const auto near = above == costs.end() ? std::prev(above) : above;
  return near->second * static_cast<double>(count) / static_cast<double>(near->first);
}

RunCost cost_near(const StudyState& state, std::size_t series, std::int64_t count) {
  return cost_near(state.costs[series], state.run_costs[series], count);
}

RunCost cost_near(const RoughCosts& costs, const std::map<std::int64_t, RunCost>& run_costs, std::int64_t count) {
  const double frame_s = rough_cost(costs, count) * 1e-3;
  if (run_costs.empty()) return RunCost{}.at(1, frame_s);
  const auto above = run_costs.lower_bound(count);
  const auto near = above == run_costs.end() ? std::prev(above) : above;
  const double slowness = std::max(1.0, 1e3 * near->second.frame_s / rough_cost(costs, near->first));
  return near->second.at(static_cast<double>(count) / static_cast<double>(near->first), frame_s * slowness);
}

}  // namespace mileage
