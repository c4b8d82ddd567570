#include "measure/measure_study.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <random>
#include <vector>

#include <fmt/format.h>

#include "analysis/disturbance.h"
#include "analysis/evidence.h"
#include "measure/check_plan.h"
#include "measure/process_facts.h"
#include "types/error.h"

namespace mileage {
namespace {

/// A series is not placed beyond a count whose placing visit is so far over the budget; the first such count stays in,
/// since a placing visit is short and easily too slow.
constexpr double far_over_budget = 1.6;
constexpr double surely_over_budget = 1.2;
/// Placing visits of a count that looks over the budget; the fastest decides.
constexpr int looks_at_an_end = 2;
constexpr int placing_frames = 2;
constexpr int rounds_of_repeats = 3;
/// Where time is short, a whole further block tells more than the last disturbed cells of this one.
constexpr int rounds_when_time_is_short = 1;
/// Longest wait of one visit for a quiet moment, and the share of the time allowed that waiting may take in all.
constexpr double patience_of_visit_s = 2;
constexpr double share_for_waiting = 0.15;
constexpr double least_limit_s = 10;
constexpr double limit_over_predicted = 20;
/// What a visit costs besides its frames, until it is known: starting a process.
constexpr double start_of_visit_s = 0.02;

/// A cell that takes part in the blocks.
struct Cell {
  std::size_t series = 0;
  std::int64_t count = 0;
  double predicted_s = 0;  ///< Of a visit in a block, from the placing visit.
};

/// splitmix64 (Steele, Lea and Flood 2014): seeds of worlds that are unlike for neighbouring numbers.
std::uint64_t mixed(std::uint64_t value) {
  value += 0x9e3779b97f4a7c15U;
  value = (value ^ (value >> 30)) * 0xbf58476d1ce4e5b9U;
  value = (value ^ (value >> 27)) * 0x94d049bb133111ebU;
  return value ^ (value >> 31);
}

/// Below 2^53, so that no reader of the file rounds it.
std::uint64_t world_seed(std::uint64_t plan_seed, int block, std::int64_t count) {
  return mixed(mixed(plan_seed ^ static_cast<std::uint64_t>(block + 1)) ^ static_cast<std::uint64_t>(count)) >> 11;
}

/// All cells of one block in the order of their visits.
std::vector<Cell> shuffled(std::vector<Cell> cells, std::uint64_t plan_seed, int block) {
  std::mt19937_64 random(mixed(plan_seed + 1000003U * static_cast<std::uint64_t>(block + 1)));
  std::shuffle(cells.begin(), cells.end(), random);
  std::vector<std::int64_t> counts;
  for (const Cell& cell : cells)
    if (std::find(counts.begin(), counts.end(), cell.count) == counts.end()) counts.push_back(cell.count);
  const auto turn = [&](const Cell& cell) { return std::find(counts.begin(), counts.end(), cell.count); };
  std::stable_sort(cells.begin(), cells.end(), [&](const Cell& a, const Cell& b) { return turn(a) < turn(b); });
  return cells;
}

class StudyLoop {
 public:
  StudyLoop(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch)
      : scenario_(head.scenario),
        plan_(head.plan),
        made_(made),
        runner_(runner),
        clock_(clock),
        watch_(watch),
        judge_(head.remembered_yardstick_ns),
        start_ns_(clock.now_ns()) {}

  Summary run() {
    check();
    place();
    if (cells_.empty()) return finished();
    blocks_since_s_ = elapsed_s();
    for (int block = 0; !block_cut_short_ && is_wanted(block); ++block) run_block(block);
    return finished();
  }

 private:
  double elapsed_s() const { return made_before_s_ + static_cast<double>(clock_.now_ns() - start_ns_) * 1e-9; }

  Summary finished() {
    summary_.elapsed_s = elapsed_s();
    summary_.yardstick_ns = judge_.level_ns();
    return summary_;
  }

  bool stop_asked() {
    if (watch_.stop && watch_.stop()) summary_.stopped = true;
    return summary_.stopped;
  }

  /// What one visit is for.
  struct Order {
    Series series;  ///< As planned.
    Knobs varied;
    std::int64_t count = 0;
    int block = -1;
    VisitStatus intended = VisitStatus::kept;
    double predicted_s = least_limit_s / limit_over_predicted;
  };

  /// Short worlds whose outcomes are compared, before any timing.
  void check() {
    Progress progress;
    progress.checking = true;
    const std::vector<Check> checks = checks_of(scenario_, plan_);
    progress.cells = checks.size();
    for (const Check& one : checks)
      if (!stop_asked()) make_visit({one.series, one.varied, one.count, -1, VisitStatus::check}, progress);
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
    const Order order{plan_.series[series], {}, count, -1, VisitStatus::placing};
    const Visit visit = make_visit(order, progress);
    if (visit.status == VisitStatus::failed) return std::nullopt;
    double frame_ms = typical_frame_ms(visit);
    for (int look = 1; look < looks_at_an_end && frame_ms > surely_over_budget * plan_.budget_ms; ++look) {
      const Visit again = make_visit(order, progress);
      if (again.status != VisitStatus::failed) frame_ms = std::min(frame_ms, typical_frame_ms(again));
    }
    return Placed{{series, count, predicted_s(visit)}, frame_ms};
  }

  /// Time of a visit in a block: everything of the placing visit but its frames, and the frames of a whole visit.
  double predicted_s(const Visit& placing) const {
    const double frame_s = typical_frame_ms(placing) * 1e-3;
    const auto placing_total = static_cast<double>(placing.warmup_ns.size()) + static_cast<double>(placing.measured_frames());
    const double beside_s = std::max(start_of_visit_s / 4, placing.took_s - placing_total * frame_s);
    const double measured_s = std::max(plan_.least_frames * frame_s, plan_.least_ms * 1e-3);
    return beside_s + static_cast<double>(placing.warmup_ns.size()) * frame_s + measured_s;
  }

  double block_s() const {
    if (summary_.blocks > 0) return (elapsed_s() - blocks_since_s_) / summary_.blocks;
    double sum = 0;
    for (const Cell& cell : cells_) sum += cell.predicted_s;
    return sum;
  }

  /// Blocks foreseen in all, the last one perhaps in part.
  int blocks_foreseen() const {
    if (plan_.time_s <= 0) return plan_.blocks;
    const int in_time = std::max(1, static_cast<int>(std::ceil((plan_.time_s - blocks_since_s_) / block_s())));
    return plan_.blocks > 0 ? std::min(plan_.blocks, in_time) : in_time;
  }

  bool is_wanted(int block) const {
    if (plan_.blocks > 0 && block >= plan_.blocks) return false;
    return block == 0 || !is_out_of_time(0);
  }

  /// Whether a visit of so many seconds would pass the time allowed. Visits made before are taken whatever their time.
  bool is_out_of_time(double visit_s) const {
    return plan_.time_s > 0 && next_made_ >= made_.size() && elapsed_s() + visit_s > plan_.time_s;
  }

  /// One pass over the cells, then over those that were disturbed, until none is left or the rounds are used up.
  void run_block(int block) {
    Progress progress;
    progress.block = block;
    progress.blocks = blocks_foreseen();
    std::vector<Cell> cells = shuffled(cells_, plan_.seed, block);
    const int rounds = plan_.time_s > 0 ? rounds_when_time_is_short : rounds_of_repeats;
    for (int round = 0; round <= rounds && !cells.empty(); ++round) {
      progress.repeating = round > 0;
      progress.cells = cells.size();
      progress.done = 0;
      cells = visit_cells(cells, block, progress);
    }
    summary_.blocks += !block_cut_short_;
  }

  /// Visits the cells; returns those that the yardstick condemns. Past the first block, time may cut it short.
  std::vector<Cell> visit_cells(const std::vector<Cell>& cells, int block, Progress& progress) {
    std::vector<Cell> disturbed;
    for (const Cell& cell : cells) {
      block_cut_short_ = stop_asked() || (block > 0 && is_out_of_time(cell.predicted_s));
      if (block_cut_short_) return {};
      progress.left_s = std::max(0.0, blocks_since_s_ + progress.blocks * block_s() - elapsed_s());
      const Visit visit = make_visit({plan_.series[cell.series], {}, cell.count, block, VisitStatus::kept, cell.predicted_s}, progress);
      if (visit.status == VisitStatus::repeated) disturbed.push_back(cell);
    }
    return disturbed;
  }

  VisitRequest request_for(const Order& order) const {
    VisitRequest request{scenario_.name, order.series, order.count, world_seed(plan_.seed, order.block, order.count),
                         plan_.least_frames, plan_.least_ms};
    for (const auto& [name, value] : order.varied.values()) request.series.knobs.set(name, value);
    if (order.intended == VisitStatus::check) request.check_frames = check_frames;
    if (order.intended == VisitStatus::kept) {
      request.quiet_below_ns = judge_.limit_ns().value_or(0);
      request.patience_s = patience_s();
    }
    if (order.intended == VisitStatus::placing) {
      request.least_frames = placing_frames;
      request.least_ms = 0;
    }
    return request;
  }

  double patience_s() const {
    if (plan_.time_s <= 0) return patience_of_visit_s;
    return std::clamp(share_for_waiting * plan_.time_s - waited_s_, 0.0, patience_of_visit_s);
  }

  Visit make_visit(const Order& order, Progress& progress) {
    ++progress.done;
    const bool was_made = next_made_ < made_.size();
    const Visit visit = was_made ? visit_made_before(order) : fresh_visit(order, progress);
    judge_.add(visit);
    waited_s_ += visit.waited_s;
    ++order_;
    summary_.kept += visit.status == VisitStatus::kept;
    summary_.failed += visit.status == VisitStatus::failed;
    summary_.repeated += visit.status == VisitStatus::repeated;
    if (!was_made && watch_.keep) watch_.keep(visit);
    return visit;
  }

  /// The next visit of the earlier run, which must be the one ordered.
  const Visit& visit_made_before(const Order& order) {
    const Visit& visit = made_[next_made_++];
    if (!(visit.series == order.series) || visit.count != order.count || visit.block != order.block)
      throw Error({.problem = "the visits in the file are not the beginning of this study; measure into another file",
                   .found = fmt::format("{} at {} in block {}", visit.series.variant, visit.count, visit.block),
                   .accepted = fmt::format("{} at {} in block {}", order.series.variant, order.count, order.block)});
    made_before_s_ += visit.took_s;
    return visit;
  }

  Visit fresh_visit(const Order& order, Progress& progress) {
    progress.elapsed_s = elapsed_s();
    progress.series = &order.series;
    progress.count = order.count;
    if (watch_.progress) watch_.progress(progress);

    const double before_s = elapsed_s();
    const LoadReading load = read_load();
    const VisitRequest request = request_for(order);
    Visit visit = runner_.run(request, request.patience_s + std::max(least_limit_s, limit_over_predicted * order.predicted_s));
    visit.load = load_between(load, read_load());
    visit.took_s = elapsed_s() - before_s;
    visit.series = order.series;
    visit.varied = order.varied;
    visit.block = order.block;
    visit.order = order_;
    visit.process = order_;
    if (visit.status != VisitStatus::failed) visit.status = order.intended;
    if (visit.status == VisitStatus::kept && judge_.condemns(visit)) visit.status = VisitStatus::repeated;
    return visit;
  }

  const Scenario& scenario_;
  const Plan& plan_;
  const std::vector<Visit>& made_;
  std::size_t next_made_ = 0;
  double made_before_s_ = 0;
  double waited_s_ = 0;
  Runner& runner_;
  Clock& clock_;
  const Watch& watch_;
  YardstickJudge judge_;
  std::int64_t start_ns_;
  double blocks_since_s_ = 0;
  bool block_cut_short_ = false;
  int order_ = 0;
  std::vector<Cell> cells_;
  Summary summary_;
};

}  // namespace

Summary measure_study(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch) {
  return StudyLoop(head, made, runner, clock, watch).run();
}

}  // namespace mileage
