#include "measure/measure_study.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "analysis/evidence/judged_visit.h"
#include "analysis/answers/goal.h"
#include "analysis/statistics/statistics.h"
#include "analysis/evidence/yardstick_judge.h"
#include "measure/aiming.h"
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
/// A visit that decides where counts are put has more of them.
constexpr int aiming_frames = 8;
constexpr int looks_at_an_aim = 3;
/// An aim that is known this well needs no further look.
constexpr double near_enough = 1.08;
/// Where a series stays within the budget, so many larger counts are tried, each so much larger.
constexpr int steps_beyond = 3;
constexpr double step_beyond = 2.5;
/// Counts of the ladder this close to an aim say nothing besides, and what lies beyond it costs most.
constexpr double beside_an_aim = 1.45;
/// Blocks that should fit into the time allowed; with fewer, aims are made of three counts instead of five.
constexpr double blocks_that_should_fit = 8;
/// After so many blocks aims that lie beside their figures are set anew; later, only those of capacities that were missed.
constexpr int blocks_that_aim = 2;
constexpr double most_entities_aimed = 1e9;
constexpr int fewest_frames = 3;
/// Share of the budget above which frames are heavy.
constexpr double heavy_share = 0.25;
constexpr int rounds_of_repeats = 3;
/// Where time is short, a whole further block tells more than the last disturbed cells of this one.
constexpr int rounds_when_time_is_short = 1;
/// Share of the time allowed in which figures are looked for.
constexpr double share_for_aiming = 0.25;
/// Share of the time allowed in which outcomes are compared at one count, and how much smaller a count is taken where they
/// would take longer.
constexpr double share_for_checks = 0.1;
constexpr std::int64_t smaller_check = 4;
/// What a recording by hand takes.
constexpr double by_hand_s = 40;
/// What a visit costs besides its frames, until it is known: starting a process.
constexpr double start_of_visit_s = 0.02;
/// Fewer blocks give no interval.
constexpr int blocks_for_an_interval = 3;

class StudyLoop {
 public:
  StudyLoop(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch)
      : scenario_(head.scenario), plan_(head.plan), watch_(watch), visiting_(head, made, runner, clock, watch), costs_(plan_.series.size()) {}

  Summary run() {
    try {
      make_visits();
    } catch (const Runner::Stopped&) {
      summary_.stopped = true;
    }
    return finished();
  }

 private:
  void make_visits() {
    if (plan_.by_hand) {
      take_all_cells();
    } else {
      check();
      place();
    }
    if (plan_.aim) aim();
    blocks_since_s_ = visiting_.elapsed_s();
    if (!cells_.empty()) run_blocks();
  }

  bool stop_asked() {
    if (watch_.stop && watch_.stop()) summary_.stopped = true;
    return summary_.stopped;
  }

  /// Short worlds whose outcomes are compared, before any timing. Where a world of the larger count turns out too dear for the
  /// time allowed, a smaller one is taken.
  void check() {
    const std::vector<std::int64_t> counts = counts_checked(plan_);
    for (std::int64_t count : counts)
      while (!check_at(count, count / smaller_check > counts.front())) count /= smaller_check;
  }

  /// False when the first world took too long for all of them to be made, and a smaller count may be taken.
  bool check_at(std::int64_t count, bool may_be_smaller) {
    Progress progress;
    progress.checking = true;
    const std::vector<Check> checks = checks_at(scenario_, plan_, count);
    progress.cells = checks.size();
    for (const Check& one : checks) {
      if (stop_asked()) return true;
      const Visit visit = visiting_.make({one.series, one.varied, one.count, -1, VisitStatus::check}, progress);
      const double all_s = visit.took_s * static_cast<double>(checks.size());
      if (&one == &checks.front() && may_be_smaller && plan_.time_s > 0 && all_s > share_for_checks * plan_.time_s) return false;
    }
    return true;
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
        if (!far_over[series] || !surely_over[series]) ladder_.push_back(placed->cell);
        surely_over[series] = surely_over[series] || placed->frame_ms > surely_over_budget * plan_.budget_ms;
      }
    cells_ = ladder_;
  }

  /// A person records no more than has to be.
  void take_all_cells() {
    for (std::size_t series = 0; series < plan_.series.size(); ++series)
      for (const std::int64_t count : plan_.counts) cells_.push_back({series, count, false, plan_.least_frames, by_hand_s});
  }

  bool may_be_tried(double count) const { return plan_.most_count == 0 || count <= static_cast<double>(plan_.most_count); }

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
    costs_[series][count] = frame_ms;
    return Placed{{series, count, false, frames, predicted_s(visit, frames)}, frame_ms};
  }

  /// Finds where the figures lie, and puts counts around them.
  void aim() {
    aims_ = aims_of(scenario_, plan_);
    Progress progress;
    progress.placing = true;
    for (Aim& aim : aims_) {
      if (!aim.other && has_time_to_aim()) reach_for_budget(aim, progress);
      for (int look = 0; look < looks_at_an_aim && !stop_asked() && has_time_to_aim(); ++look) {
        aim.at = rough_place(aim, costs_);
        if (!aim.at || was_looked_at(aim)) break;
        look_at_aim(aim, progress);
      }
      aim.at = rough_place(aim, costs_);
    }
    put_counts();
  }

  /// Larger counts than asked for, while the budget is not crossed.
  void reach_for_budget(const Aim& aim, Progress& progress) {
    for (int step = 0; step < steps_beyond && !costs_[aim.series].empty() && !stop_asked(); ++step) {
      const auto [count, ms] = *costs_[aim.series].rbegin();
      if (ms > aim.budget_ms || count > most_entities_aimed / step_beyond || !may_be_tried(static_cast<double>(count) * step_beyond)) return;
      if (!look_at(aim.series, std::llround(static_cast<double>(count) * step_beyond), progress)) return;
    }
  }

  bool has_time_to_aim() const {
    return plan_.time_s <= 0 || visiting_.visits_s() < share_for_aiming * plan_.time_s;
  }

  bool was_looked_at(const Aim& aim) const {
    const auto seen = [&](std::size_t series) {
      return std::any_of(costs_[series].begin(), costs_[series].end(), [&](const auto& cost) {
        const double ratio = static_cast<double>(cost.first) / *aim.at;
        return ratio < near_enough && ratio > 1 / near_enough;
      });
    };
    return seen(aim.series) && (!aim.other || seen(*aim.other));
  }

  void look_at_aim(const Aim& aim, Progress& progress) {
    const std::int64_t count = std::max<std::int64_t>(1, std::llround(*aim.at));
    for (std::size_t series = 0; series < plan_.series.size(); ++series) {
      if (!aim.concerns(series)) continue;
      const Visit visit = visiting_.make({plan_.series[series], {}, count, -1, VisitStatus::placing, aiming_frames, true}, progress);
      if (visit.status != VisitStatus::failed) costs_[series][count] = typical_frame_ms(visit);
    }
  }

  /// The cells of all further blocks: the ladder without what an aim makes needless, and the counts around the aims; fewer
  /// of both where time is short.
  void put_counts() {
    choose_places(aims_);
    for (const int thinned : {0, 1, 2}) {
      cells_.clear();
      for (std::size_t i = 0; i < ladder_.size(); ++i)
        if (!is_needless(ladder_[i]) && (thinned < 2 || is_every_second(ladder_[i]))) cells_.push_back(ladder_[i]);
      for (Aim& aim : aims_) {
        aim.by_three = thinned > 0;
        if (aim.at) put_counts_around(aim);
      }
      if (plan_.time_s <= 0 || predicted_block_s() * blocks_that_should_fit < plan_.time_s - visiting_.visits_s()) return;
    }
  }

  void put_counts_around(const Aim& aim) {
    for (const std::int64_t count : aimed_counts(aim))
      for (std::size_t series = 0; series < plan_.series.size(); ++series)
        if (aim.concerns(series)) add_aimed(series, count);
  }

  bool is_every_second(const Cell& cell) const {
    const auto place = std::find(plan_.counts.begin(), plan_.counts.end(), cell.count) - plan_.counts.begin();
    return place % 2 == 0;
  }

  /// In the ladder, close to a capacity or beyond it.
  bool is_needless(const Cell& cell) const {
    return std::any_of(aims_.begin(), aims_.end(), [&](const Aim& aim) {
      return aim.at && !aim.other && aim.series == cell.series && static_cast<double>(cell.count) > aim.around / beside_an_aim;
    });
  }

  void add_aimed(std::size_t series, std::int64_t count) {
    const bool there = std::any_of(cells_.begin(), cells_.end(), [&](const Cell& cell) { return cell.series == series && cell.count == count; });
    if (there || !may_be_tried(static_cast<double>(count))) return;
    const double frame_ms = rough_cost(series, count);
    const int frames = frames_for(frame_ms);
    const double warmup = 4;
    cells_.push_back({series, count, true, frames, start_of_visit_s + (warmup + frames) * frame_ms * 1e-3});
  }

  /// Cost of the nearest count that was looked at, in proportion.
  double rough_cost(std::size_t series, std::int64_t count) const {
    const auto above = costs_[series].lower_bound(count);
    const auto near = above == costs_[series].end() ? std::prev(above) : above;
    return near->second * static_cast<double>(count) / static_cast<double>(near->first);
  }

  /// The first blocks tell better than single visits where the figures lie. Where those were all made while the machine was
  /// slow, all good visits together tell later: the counts would miss the capacity to the end.
  void correct_aims(int block) {
    if (!plan_.aim) return;
    const bool is_early = block < blocks_that_aim;
    take_costs_of(is_early ? std::optional(block) : std::nullopt);
    bool moved = false;
    for (Aim& aim : aims_) {
      if (!is_early && (aim.other || !aim.at)) continue;
      const auto found = place_by_costs(aim);
      if (!found || (aim.at && (is_early ? is_well_aimed(aim, *found, costs_) : !is_missed(aim, *found)))) continue;
      aim.at = found;
      moved = true;
    }
    if (moved) put_counts();
  }

  /// A capacity that turns out to lie beyond everything looked at is taken in proportion, three times as far at most.
  std::optional<double> place_by_costs(const Aim& aim) const {
    const auto place = rough_place(aim, costs_);
    if (place || aim.other || !aim.at || costs_[aim.series].empty()) return place;
    const auto [count, ms] = *costs_[aim.series].rbegin();
    return ms < aim.budget_ms ? std::optional(static_cast<double>(count) * std::min(3.0, aim.budget_ms / ms)) : std::nullopt;
  }

  /// Good visits of a block, or of all, in place of everything that was looked at before, where there are any.
  void take_costs_of(std::optional<int> block) {
    std::vector<std::map<std::int64_t, std::vector<double>>> good(plan_.series.size());
    for (const Visit* visit : evidence_visits(visiting_.study()))
      if (!block || visit->block == block) good[index_of(visit->series)][visit->count].push_back(typical_frame_ms(*visit));
    for (std::size_t series = 0; series < good.size(); ++series) {
      if (good[series].empty()) continue;
      RoughCosts measured;
      for (const auto& [count, ms] : good[series]) measured[count] = median(ms);
      const auto [largest, largest_ms] = *measured.rbegin();
      const double correction = largest_ms / rough_cost(series, largest);
      for (const auto& [count, ms] : costs_[series])
        if (count > largest) measured.emplace(count, ms * correction);
      costs_[series] = measured;
    }
  }

  std::size_t index_of(const Series& series) const {
    return static_cast<std::size_t>(std::find(plan_.series.begin(), plan_.series.end(), series) - plan_.series.begin());
  }

  double predicted_block_s() const {
    double sum = 0;
    for (const Cell& cell : cells_) sum += cell.predicted_s;
    return sum;
  }

  /// Frames of a visit: fewer where they are heavy, and fewer still where they are far over the budget.
  int frames_for(double frame_ms) const {
    const int frames = frame_ms > heavy_share * plan_.budget_ms ? plan_.heavy_frames : plan_.least_frames;
    const double affordable = frames * far_over_budget * plan_.budget_ms / frame_ms;
    return std::clamp(static_cast<int>(std::min(affordable, 1e6)), std::min(fewest_frames, frames), frames);
  }

  /// Time of a visit in a block: what the placing visit took besides its frames and the walks between them, and the frames
  /// and walks of a whole visit.
  double predicted_s(const Visit& placing, int frames) const {
    const double frame_s = typical_frame_ms(placing) * 1e-3;
    const auto warmup = static_cast<double>(placing.warmup_ns.size());
    const double placing_frames_made = warmup + static_cast<double>(placing.measured_frames());
    const double walk_s = placing.walked_ms * 1e-3 / placing_frames_made;
    // A visit that had to be ended took longer than it needed.
    const double needed_s = placing.left_behind > 0 ? 0 : placing.took_s - placing_frames_made * (frame_s + walk_s);
    const double beside_s = std::max(start_of_visit_s / 4, needed_s);
    const double least_s = placing.series.is_cold() ? 0 : plan_.least_ms * 1e-3;
    return beside_s + warmup * (frame_s + walk_s) + std::max(frames * (frame_s + walk_s), least_s);
  }

  /// Time of one block: as the whole ones so far took, else as predicted.
  double block_s() const {
    return summary_.blocks > 0 ? (visiting_.elapsed_s() - blocks_since_s_) / summary_.blocks : predicted_block_s();
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
      correct_aims(block);
      look_at_precision(block + 1, most);
    }
    if (plan_.time_s <= 0 && !cut_short_) repeat_what_lacks_evidence();
  }

  /// After a stage is done, the next one is planned from what it gave.
  void look_at_precision(int made, int most) {
    if (made < blocks_for_an_interval || (plan_.precision <= 0 && !watch_.progress)) return;
    summary_.reached = reached(visiting_.study(), plan_.goal).half_width;
    if (plan_.precision <= 0) return;
    const int wanted = blocks_wanted(made, summary_.reached, plan_.precision);
    if (made >= blocks_planned_) blocks_planned_ = std::min(most, wanted);
    summary_.blocks_lacking = std::max(0, wanted - made);
  }

  /// One pass over the cells, then over those without evidence, until none is left or the rounds are used up.
  void run_block(int block) {
    std::vector<Cell> cells = block_order(cells_, plan_.seed, block);
    const int rounds = plan_.time_s > 0 ? rounds_when_time_is_short : rounds_of_repeats;
    for (int round = 0; round <= rounds && !cells.empty() && !cut_short_; ++round) {
      visit_cells(cells, block, round > 0);
      cells = without_evidence(block);
    }
    summary_.blocks += !cut_short_;
  }

  /// Visits the cells, as far as time allows; the first pass goes on whatever the time, so that there is an answer.
  void visit_cells(const std::vector<Cell>& cells, int block, bool repeating) {
    Progress progress;
    progress.block = block;
    progress.blocks = blocks_foreseen();
    progress.repeating = repeating;
    progress.cells = cells.size();
    progress.reached = summary_.reached;
    const bool whole = block == 0 && !repeating;
    for (const Cell& cell : cells) {
      cut_short_ = stop_asked() || (!whole && is_out_of_time(cell.predicted_s));
      if (cut_short_) return;
      progress.left_s = std::max(0.0, blocks_since_s_ + progress.blocks * block_s() - visiting_.elapsed_s());
      visiting_.make({plan_.series[cell.series], {}, cell.count, block, VisitStatus::kept, cell.least_frames, true, cell.predicted_s}, progress);
    }
  }

  /// Whether no visit of a block is good.
  bool is_lost(int block) const {
    const std::vector<Visit>& visits = visiting_.study().visits;
    return std::none_of(visits.begin(), visits.end(), [&](const Visit& visit) { return visit.block == block && !visiting_.judge().condemns(visit); });
  }

  /// Cells that were visited in a block, and whose every visit is condemned by the level that the machine holds by now. Of a
  /// block that is lost as a whole: all that are visited by now.
  std::vector<Cell> without_evidence(int block) const {
    if (is_lost(block)) return cells_;
    std::vector<Cell> lacking;
    for (const Cell& cell : cells_) {
      bool visited = false;
      bool good = false;
      for (const Visit& visit : visiting_.study().visits) {
        if (visit.block != block || visit.count != cell.count || !(visit.series == plan_.series[cell.series])) continue;
        visited = true;
        good = good || visit.status == VisitStatus::failed || !visiting_.judge().condemns(visit);
      }
      if (visited && !good) lacking.push_back(cell);
    }
    return lacking;
  }

  /// The level moves while a study is made: what was good enough in early blocks may be condemned in the end.
  void repeat_what_lacks_evidence() {
    for (int block = 0; block < summary_.blocks && !cut_short_; ++block) visit_cells(without_evidence(block), block, true);
  }

  Summary finished() {
    summary_.kept = evidence_visits(visiting_.study()).size();
    for (const Visit& visit : visiting_.study().visits) {
      summary_.failed += visit.status == VisitStatus::failed;
      summary_.condemned += visit.block >= 0 && visit.status != VisitStatus::failed;
    }
    summary_.condemned -= summary_.kept;
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
  std::vector<RoughCosts> costs_;  ///< By series.
  std::vector<Cell> ladder_;       ///< The counts of the plan, as far as each series was placed.
  std::vector<Aim> aims_;
  std::vector<Cell> cells_;        ///< What a block visits.
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
