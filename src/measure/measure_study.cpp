#include "measure/measure_study.h"

#include <algorithm>
#include <cmath>

#include "analysis/evidence.h"
#include "analysis/goal.h"
#include "measure/block_order.h"
#include "measure/check_plan.h"

namespace mileage {
namespace {

/// A series is not placed beyond a count whose placing visit is so far over the budget; the first such count stays in,
/// since a placing visit is short and easily too slow.
constexpr double far_over_budget = 1.6;
constexpr double surely_over_budget = 1.2;
/// Placing visits of a count that looks over the budget; the fastest decides.
constexpr int looks_at_an_end = 2;
constexpr int placing_frames = 2;
constexpr int fewest_frames = 3;
constexpr int rounds_of_repeats = 3;
/// Where time is short, a whole further block tells more than the last disturbed cells of this one.
constexpr int rounds_when_time_is_short = 1;
/// What a visit costs besides its frames, until it is known: starting a process.
constexpr double start_of_visit_s = 0.02;
/// Fewer blocks give no interval.
constexpr int blocks_for_an_interval = 3;

class StudyLoop {
 public:
  StudyLoop(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch)
      : scenario_(head.scenario), plan_(head.plan), watch_(watch), visiting_(head, made, runner, clock, watch) {}

  Summary run() {
    check();
    place();
    blocks_since_s_ = visiting_.elapsed_s();
    if (!cells_.empty()) run_blocks();
    return finished();
  }

 private:
  bool stop_asked() {
    if (watch_.stop && watch_.stop()) summary_.stopped = true;
    return summary_.stopped;
  }

  /// Short worlds whose outcomes are compared, before any timing.
  void check() {
    Progress progress;
    progress.checking = true;
    const std::vector<Check> checks = checks_of(scenario_, plan_);
    progress.cells = checks.size();
    for (const Check& one : checks)
      if (!stop_asked()) visiting_.make({one.series, one.varied, one.count, -1, VisitStatus::check}, progress);
  }

  /// Brackets the budget for each series with short visits that take part in no answer.
  void place() {
    Progress progress;
    progress.placing = true;
    std::vector<bool> far_over(plan_.series.size(), false);
    std::vector<bool> surely_over(plan_.series.size(), false);
    for (const std::int64_t count : plan_.counts)
      for (std::size_t series = 0; series < plan_.series.size(); ++series) {
        if (far_over[series] || stop_asked()) continue;
        const auto placed = look_at(series, count, progress);
        if (!placed) continue;
        far_over[series] = placed->frame_ms > far_over_budget * plan_.budget_ms;
        if (!far_over[series] || !surely_over[series]) cells_.push_back(placed->cell);
        surely_over[series] = surely_over[series] || placed->frame_ms > surely_over_budget * plan_.budget_ms;
      }
  }

  struct Placed {
    Cell cell;
    double frame_ms;
  };

  /// A placing visit, and another one where it looks over the budget; nothing when the first one fails.
  std::optional<Placed> look_at(std::size_t series, std::int64_t count, Progress& progress) {
    const Order order{plan_.series[series], {}, count, -1, VisitStatus::placing, placing_frames};
    const Visit visit = visiting_.make(order, progress);
    if (visit.status == VisitStatus::failed) return std::nullopt;
    double frame_ms = typical_frame_ms(visit);
    for (int look = 1; look < looks_at_an_end && frame_ms > surely_over_budget * plan_.budget_ms; ++look) {
      const Visit again = visiting_.make(order, progress);
      if (again.status != VisitStatus::failed) frame_ms = std::min(frame_ms, typical_frame_ms(again));
    }
    const int frames = frames_for(frame_ms);
    return Placed{{series, count, frames, predicted_s(visit, frames)}, frame_ms};
  }

  /// Frames of a visit: fewer where they are far over the budget.
  int frames_for(double frame_ms) const {
    const double affordable = plan_.least_frames * far_over_budget * plan_.budget_ms / frame_ms;
    return std::clamp(static_cast<int>(affordable), std::min(fewest_frames, plan_.least_frames), plan_.least_frames);
  }

  /// Time of a visit in a block: what the placing visit took besides its frames and the walks between them, and the frames
  /// and walks of a whole visit.
  double predicted_s(const Visit& placing, int frames) const {
    const double frame_s = typical_frame_ms(placing) * 1e-3;
    const auto warmup = static_cast<double>(placing.warmup_ns.size());
    const double placing_frames_made = warmup + static_cast<double>(placing.measured_frames());
    const double walk_s = placing.walked_ms * 1e-3 / placing_frames_made;
    const double beside_s = std::max(start_of_visit_s / 4, placing.took_s - placing_frames_made * (frame_s + walk_s));
    const double least_s = placing.series.is_cold() ? 0 : plan_.least_ms * 1e-3;
    return beside_s + warmup * (frame_s + walk_s) + std::max(frames * (frame_s + walk_s), least_s);
  }

  /// Time of one block: as the whole ones so far took, else as predicted.
  double block_s() const {
    if (summary_.blocks > 0) return (visiting_.elapsed_s() - blocks_since_s_) / summary_.blocks;
    double sum = 0;
    for (const Cell& cell : cells_) sum += cell.predicted_s;
    return sum;
  }

  /// Blocks foreseen in all, the last one perhaps in part.
  int blocks_foreseen() const {
    if (plan_.time_s <= 0) return blocks_planned_;
    const double blocks_in_time = std::ceil((plan_.time_s - blocks_since_s_) / block_s());
    return static_cast<int>(std::clamp(blocks_in_time, 1.0, static_cast<double>(blocks_planned_)));
  }

  /// Whether a visit of so many seconds would pass the time allowed. Visits made before are taken whatever their time.
  bool is_out_of_time(double visit_s) const {
    return plan_.time_s > 0 && !visiting_.is_replaying() && visiting_.elapsed_s() + visit_s > plan_.time_s;
  }

  void run_blocks() {
    const int most = plan_.blocks > 0 ? plan_.blocks : plan_.precision > 0 ? most_blocks : 1'000'000;
    blocks_planned_ = plan_.precision > 0 ? std::min(most, first_stage_blocks) : most;
    for (int block = 0; block < blocks_planned_ && !cut_short_ && (block == 0 || !is_out_of_time(0)); ++block) {
      run_block(block);
      look_at_precision(block + 1, most);
    }
    if (plan_.time_s <= 0 && !cut_short_) repeat_what_was_kept_too_early();
  }

  /// After a stage is done, the next one is planned from what it gave.
  void look_at_precision(int made, int most) {
    if (made < blocks_for_an_interval) return;
    summary_.reached = reached(visiting_.study(), plan_.goal).half_width;
    if (plan_.precision <= 0) return;
    const int wanted = blocks_wanted(made, summary_.reached, plan_.precision);
    if (made >= blocks_planned_) blocks_planned_ = std::min(most, wanted);
    summary_.blocks_lacking = std::max(0, wanted - made);
  }

  /// One pass over the cells, then over those that were disturbed, until none is left or the rounds are used up.
  void run_block(int block) {
    std::vector<Cell> cells = block_order(cells_, plan_.seed, block);
    const int rounds = plan_.time_s > 0 ? rounds_when_time_is_short : rounds_of_repeats;
    for (int round = 0; round <= rounds && !cells.empty(); ++round) cells = visit_cells(cells, block, round > 0);
    summary_.blocks += !cut_short_;
  }

  /// Visits the cells; returns those that the yardstick condemns. Past the first block, time may cut it short.
  std::vector<Cell> visit_cells(const std::vector<Cell>& cells, int block, bool repeating) {
    Progress progress;
    progress.block = block;
    progress.blocks = blocks_foreseen();
    progress.repeating = repeating;
    progress.cells = cells.size();
    progress.reached = summary_.reached;
    std::vector<Cell> disturbed;
    for (const Cell& cell : cells) {
      cut_short_ = stop_asked() || (block > 0 && is_out_of_time(cell.predicted_s));
      if (cut_short_) return {};
      progress.left_s = std::max(0.0, blocks_since_s_ + progress.blocks * block_s() - visiting_.elapsed_s());
      const Order order{plan_.series[cell.series], {}, cell.count, block, VisitStatus::kept, cell.least_frames, cell.predicted_s};
      if (visiting_.make(order, progress).status == VisitStatus::repeated) disturbed.push_back(cell);
    }
    return disturbed;
  }

  void repeat_what_was_kept_too_early() {
    for (int block = 0; block < summary_.blocks && !cut_short_; ++block) {
      const std::vector<Cell> cells = kept_too_early(block);
      if (!cells.empty()) visit_cells(cells, block, true);
    }
  }

  /// Cells whose kept visit in a block is condemned by the level that the study ended with.
  std::vector<Cell> kept_too_early(int block) const {
    std::vector<Cell> cells;
    for (const Cell& cell : cells_)
      for (const Visit& visit : visiting_.study().visits)
        if (visit.block == block && visit.status == VisitStatus::kept && visit.count == cell.count &&
            visit.series == plan_.series[cell.series] && visiting_.judge().condemns(visit))
          cells.push_back(cell);
    return cells;
  }

  Summary finished() {
    for (const Visit& visit : visiting_.study().visits) {
      summary_.kept += visit.status == VisitStatus::kept;
      summary_.failed += visit.status == VisitStatus::failed;
      summary_.repeated += visit.status == VisitStatus::repeated;
    }
    summary_.elapsed_s = visiting_.elapsed_s();
    summary_.yardstick_ns = visiting_.judge().level_ns();
    return summary_;
  }

  const Scenario& scenario_;
  const Plan& plan_;
  const Watch& watch_;
  Visiting visiting_;
  double blocks_since_s_ = 0;
  int blocks_planned_ = 0;
  bool cut_short_ = false;
  std::vector<Cell> cells_;
  Summary summary_;
};

}  // namespace

Summary measure_study(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch) {
  return StudyLoop(head, made, runner, clock, watch).run();
}

int blocks_wanted(int made, std::optional<double> reached, double wanted) {
  if (!reached) return made + 2;
  const double ratio = std::log1p(*reached) / std::log1p(wanted);
  return ratio <= 1 ? made : std::max(made + 1, static_cast<int>(std::ceil(made * ratio * ratio)));
}

}  // namespace mileage
