#include "measure/loop/rounds.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "analysis/answers/goal.h"
#include "analysis/statistics/constants.h"
#include "measure/loop/checking.h"

namespace mileage {
namespace {

/// Of the time: more rounds show more of the machine's drift, and fits between them take a twentieth.
constexpr double share_of_a_round = 1.0 / 16;
/// Of a round, for the plan's counts with fewest runs: the curve away from figures.
constexpr double share_of_plan_counts = 0.1;
/// Counts around a figure: within 35 %, where curves are nearly straight, and on both sides.
constexpr double around_figures[] = {0.74, 0.86, 1.0, 1.16, 1.35};
/// They follow a figure that moves by more than the distance of two of them.
constexpr double moved_by = 1.16;
/// Half of that distance: closer ones share a count.
constexpr double same_count = 1.07;
/// Runs of a cell around a figure that the others there may lack.
constexpr int max_lead = 2;
/// Runs in the middle of a jump: the fewest that a jump is seen with.
constexpr int runs_in_a_jump = 2;
/// Narrower jumps need not be searched: ratio of their ends.
constexpr double jump_is_known_within = 1.02;
/// Without a time, disturbed runs are repeated at the end of their round, as often as a bad minute takes.
constexpr int max_passes = 4;
/// Rows by which curves outgrow their hyperparameters.
constexpr double rows_before_a_new_fit = 1.5;

/// Runs of rounds, and of range finding beyond these.
std::vector<ModelRow> rows_so_far(const StudyState& state) {
  std::vector<ModelRow> rows = state.rows;
  std::vector<double> largest(state.plan.series.size());
  for (const ModelRow& row : rows) {
    double& of_series = largest[static_cast<std::size_t>(row.series)];
    of_series = std::max(of_series, row.log_x);
  }
  for (const ModelRow& row : state.range_rows)
    if (row.log_x > largest[static_cast<std::size_t>(row.series)]) rows.push_back(row);
  std::stable_sort(rows.begin(), rows.end(), [](const ModelRow& a, const ModelRow& b) { return a.order < b.order; });
  return rows;
}

void fit_curves(StudyState& state) {
  const std::vector<ModelRow> rows = rows_so_far(state);
  if (rows.empty()) return;
  const bool is_grown = !state.curves || static_cast<double>(rows.size()) >
                                             rows_before_a_new_fit * static_cast<double>(state.curves->fitted_rows());
  state.curves = std::make_unique<RoughCurves>(rows, is_grown ? nullptr : state.curves.get());
}

std::vector<Figure> figures_so_far(StudyState& state) {
  const bool is_wanted = state.plan.aim || state.plan.precision > 0 || !state.plan.tune.empty() || state.watch.progress;
  if (!is_wanted) return {};
  fit_curves(state);
  std::vector<Figure> figures = state.curves ? figures_of(state) : std::vector<Figure>();
  for (Figure& figure : figures) {
    double& middle = state.middles.emplace(figure.key(), figure.place()).first->second;
    if (std::fabs(std::log(figure.place() / middle)) > std::log(moved_by)) middle = figure.place();
    figure.middle = middle;
  }
  return figures;
}

/// A known one nearby, or the count itself.
std::int64_t shared_count(const StudyState& state, const std::set<std::int64_t>& counts, double wanted) {
  std::int64_t nearest = std::max<std::int64_t>(1, std::llround(wanted));
  double distance = std::log(same_count);
  for (const std::set<std::int64_t>* known : {&state.added, &counts})
    for (const std::int64_t count : *known)
      if (const double away = std::fabs(std::log(static_cast<double>(count) / wanted)); away < distance) {
        distance = away;
        nearest = count;
      }
  return nearest;
}

/// The middle of a jump at a figure.
std::optional<std::int64_t> middle_of_jump(const StudyState& state, const Figure& figure, std::size_t series) {
  const auto jump = state.curves->step_around(static_cast<int>(series), figure.contrast.log_x);
  if (!jump || jump->second - jump->first < std::log(jump_is_known_within)) return std::nullopt;
  return std::llround(std::exp((jump->first + jump->second) / 2));
}

Cell cell_around(const StudyState& state, std::size_t series, std::int64_t count, bool is_pooled) {
  const KnownCosts& known = state.known[series];
  const RunCost cost = known.at(count);
  const int frames =
      is_pooled ? pooled_frames_for(state.plan, cost) : frames_for(state.plan, known.fast_ms(count), cost);
  return {series, count, frames, predicted_s(state.plan, state.plan.series[series], cost, frames), is_pooled};
}

/// A cell with pooled frames replaces one without.
void add_cell(std::vector<Cell>& cells, const Cell& cell) {
  const auto there = std::find_if(cells.begin(), cells.end(), [&](const Cell& one) {
    return one.series == cell.series && one.count == cell.count;
  });
  if (there == cells.end())
    cells.push_back(cell);
  else if (cell.pooled)
    *there = cell;
}

bool is_around(const Figure& figure, const Cell& cell) {
  const double ratio = static_cast<double>(cell.count) / figure.middle;
  return figure.is_place() && figure.concerns(cell.series) && ratio > std::begin(around_figures)[0] / same_count &&
         ratio < *std::rbegin(around_figures) * same_count;
}

/// Plan counts near a capacity or beyond are dear and say less than those around it.
bool is_replaced(const StudyState& state, const std::vector<Figure>& figures, const Cell& cell) {
  if (state.plan.listed || !state.plan.aim) return false;
  return std::any_of(figures.begin(), figures.end(), [&](const Figure& figure) {
    return figure.of == Figure::Of::capacity && figure.frames == FramesOf::typical && figure.concerns(cell.series) &&
           static_cast<double>(cell.count) > around_figures[0] / same_count * figure.middle;
  });
}

int runs_of(const StudyState& state, const Cell& cell) {
  const auto found = state.runs_of.find({cell.series, cell.count});
  return found == state.runs_of.end() ? 0 : found->second;
}

bool is_planned(const Plan& plan, std::int64_t count) {
  return std::find(plan.counts.begin(), plan.counts.end(), count) != plan.counts.end();
}

/// The choice of a round's cells. First what is owed: a run of every series, of every listed count, of two in the
/// middle of a jump at a figure, and a thousand frames for 99 %; then plan counts; then by how much a run narrows the
/// figures per second, assuming those chosen before. No cell around a figure is more than two runs ahead of the others
/// there.
class Choice {
 public:
  Choice(const StudyState& state, const std::vector<Figure>& figures, const std::vector<Cell>& candidates)
      : state_(state), figures_(figures), candidates_(candidates), runs_(candidates.size()) {
    std::vector<Contrast> contrasts;
    for (const Figure& figure : figures) contrasts.push_back(figure.contrast);
    std::vector<FurtherRun> runs;
    for (std::size_t i = 0; i < candidates.size(); ++i) {
      runs.push_back({static_cast<int>(candidates[i].series), std::log(static_cast<double>(candidates[i].count))});
      runs_[i] = runs_of(state, candidates[i]);
    }
    if (state.curves) narrowing_ = std::make_unique<Narrowing>(*state.curves, contrasts, runs);
  }

  std::vector<Cell> up_to(double seconds) {
    const auto gain = [&](std::size_t i) { return gain_per_s(i); };
    take_while(
        seconds, [&](std::size_t i) { return is_owed_a_run(i); }, gain);
    take_while(
        used_s_ + share_of_plan_counts * seconds, [&](std::size_t i) { return is_planned(i); },
        [&](std::size_t i) { return -runs_[i] - candidates_[i].predicted_s / seconds; });
    take_while(
        seconds, [&](std::size_t i) { return !is_ahead(i); }, gain);
    return chosen_;
  }

  /// Without values of a knob that are clearly not the best, after enough runs for an interval.
  std::vector<Cell> undecided() const {
    std::vector<Cell> cells;
    for (std::size_t i = 0; i < candidates_.size(); ++i)
      if (runs_[i] < rounds_needed || gain_per_s(i) > 0) cells.push_back(candidates_[i]);
    return cells;
  }

 private:
  /// The best first, while time lasts; the first in any case.
  template <class May, class Worth>
  void take_while(double seconds, const May& may, const Worth& worth) {
    while (true) {
      std::optional<std::size_t> best;
      for (std::size_t i = 0; i < candidates_.size(); ++i) {
        const bool fits = chosen_.empty() || used_s_ + candidates_[i].predicted_s <= seconds;
        if (fits && is_chosen_.count(i) == 0 && may(i) && (!best || worth(i) > worth(*best))) best = i;
      }
      if (!best) return;
      chosen_.push_back(candidates_[*best]);
      used_s_ += candidates_[*best].predicted_s;
      is_chosen_.insert(*best);
      ++runs_[*best];
      if (narrowing_) narrowing_->take(*best);
    }
  }

  double gain_per_s(std::size_t cell) const {
    double gain = 0;
    for (std::size_t i = 0; narrowing_ && i < figures_.size(); ++i) {
      const double variance = narrowing_->variance(i);
      gain += loss_of(figures_[i], variance) - loss_of(figures_[i], variance - narrowing_->gain(i, cell));
    }
    return gain / candidates_[cell].predicted_s;
  }

  bool is_owed_a_run(std::size_t i) const {
    const Cell& cell = candidates_[i];
    const auto of_series = state_.runs_of.lower_bound({cell.series, 0});
    const bool has_runs = of_series != state_.runs_of.end() && of_series->first.first == cell.series;
    if (!has_runs && !is_series_chosen(cell.series)) return true;
    if (runs_[i] == 0 && state_.plan.listed && is_planned(i)) return true;
    return std::any_of(figures_.begin(), figures_.end(), [&](const Figure& figure) {
      if (!figure.concerns(cell.series)) return false;
      if (figure.frames == FramesOf::max && is_around(figure, cell))
        return pooled_frames(state_, cell.series, figure.place()) < frames_for_tail;
      return figure.is_place() && middle_of_jump(state_, figure, cell.series) == cell.count &&
             runs_[i] < runs_in_a_jump;
    });
  }

  bool is_planned(std::size_t i) const { return mileage::is_planned(state_.plan, candidates_[i].count); }

  bool is_series_chosen(std::size_t series) const {
    return std::any_of(is_chosen_.begin(), is_chosen_.end(),
                       [&](std::size_t one) { return candidates_[one].series == series; });
  }

  bool is_ahead(std::size_t i) const {
    return std::any_of(figures_.begin(), figures_.end(), [&](const Figure& figure) {
      if (!is_around(figure, candidates_[i])) return false;
      for (std::size_t other = 0; other < candidates_.size(); ++other)
        if (candidates_[other].series == candidates_[i].series && is_around(figure, candidates_[other]) &&
            runs_[i] >= runs_[other] + max_lead)
          return true;
      return false;
    });
  }

  const StudyState& state_;
  const std::vector<Figure>& figures_;
  const std::vector<Cell>& candidates_;
  std::vector<int> runs_;
  std::vector<Cell> chosen_;
  std::set<std::size_t> is_chosen_;
  double used_s_ = 0;
  std::unique_ptr<Narrowing> narrowing_;
};

/// The widest figure that is no cost; nothing without one.
std::vector<FigureSoFar> widths_of(const StudyState& state, const std::vector<Figure>& figures) {
  std::vector<FigureSoFar> widths;
  if (!state.curves) return widths;
  std::vector<Contrast> contrasts;
  for (const Figure& figure : figures) contrasts.push_back(figure.contrast);
  const Narrowing narrowing(*state.curves, contrasts, {});
  for (std::size_t i = 0; i < figures.size(); ++i) {
    const Figure& figure = figures[i];
    const double half_width = std::expm1(normal_95 * std::sqrt(std::max(0.0, narrowing.variance(i))));
    const auto other = figure.contrast.other < 0 ? std::nullopt : std::optional<std::size_t>(figure.contrast.other);
    if (figure.is_place() && figure.frames == FramesOf::typical)
      widths.push_back({static_cast<std::size_t>(figure.contrast.one), other, figure.place(), half_width});
  }
  return widths;
}

double left_s(const StudyState& state) { return state.plan.time_s - state.recorder.runs_s(); }

bool is_chosen_by_gain(const Plan& plan) { return plan.time_s > 0 && (plan.aim || !plan.tune.empty()); }

void plan_round(StudyState& state, const std::vector<Figure>& figures) {
  const std::vector<Cell> all = candidates_of(state, figures);
  for (const Cell& cell : all)
    if (!is_planned(state.plan, cell.count)) state.added.insert(cell.count);
  Choice choice(state, figures, all);
  state.cells = is_chosen_by_gain(state.plan)
                    ? choice.up_to(std::min(share_of_a_round * state.plan.time_s, left_s(state)) / state.overrun)
                : state.plan.tune.empty() ? all
                                          : choice.undecided();
}

double foreseen_left_s(const StudyState& state) {
  if (state.plan.time_s > 0) return std::max(0.0, state.plan.time_s - state.recorder.elapsed_s());
  const int rounds = state.summary.blocks, left = std::max(0, state.plan.blocks - rounds);
  const double round_s =
      rounds > 0 ? (state.recorder.elapsed_s() - state.rounds_since_s) / rounds : predicted_round_s(state);
  return left * round_s;
}

/// Fast cells first where the time may not suffice for all.
std::vector<Cell> in_order(const StudyState& state, int round) {
  std::vector<Cell> cells = block_order(state.cells, state.plan.seed, round);
  if (state.plan.time_s > 0 && rounds_needed * state.overrun * predicted_round_s(state) > left_s(state) &&
      !is_chosen_by_gain(state.plan))
    std::stable_sort(cells.begin(), cells.end(),
                     [](const Cell& a, const Cell& b) { return a.predicted_s < b.predicted_s; });
  return cells;
}

/// By the time of the runs so far, so that a resumed study decides alike. The first run is made in any case.
bool is_too_long(const StudyState& state, const Order& order) {
  const double takes_s = std::min(state.overrun * order.predicted_s, state.recorder.limit_s(order));
  return state.plan.time_s > 0 && !state.runs_of.empty() && state.recorder.runs_s() + takes_s > state.plan.time_s;
}

bool is_disturbed(const StudyState& state, const Cell& cell, int round) {
  const std::vector<Run>& runs = state.recorder.study().runs;
  bool is_measured = false;
  for (auto run = runs.rbegin(); run != runs.rend() && run->block == round; ++run) {
    if (run->count != cell.count || !(run->series == state.plan.series[cell.series])) continue;
    if (run->status == RunStatus::failed || !state.recorder.judge().condemns(*run)) return false;
    is_measured = true;
  }
  return is_measured;
}

void run_cells(StudyState& state, int round, const std::vector<Cell>& cells, const std::vector<FigureSoFar>& figures) {
  Progress progress;
  progress.block = round;
  progress.cells = cells.size();
  progress.figures = figures;
  for (const Cell& cell : cells) {
    if (!state.may_run(cell.series, cell.count)) continue;
    const Order order{
        state.plan.series[cell.series], {}, cell.count, round, RunStatus::kept, cell.min_frames, cell.predicted_s};
    const bool is_too_late = state.is_stop_asked() || state.is_out_of_time();
    state.is_cut_short = state.is_cut_short || is_too_late || is_too_long(state, order);
    if (is_too_late) return;
    if (is_too_long(state, order)) continue;  // Shorter ones may fit.
    progress.left_s = foreseen_left_s(state);
    state.run(order, cell.predicted_s, progress);
    ++progress.done;
  }
}

void make_round(StudyState& state, int round, const std::vector<FigureSoFar>& figures) {
  const double before_s = state.recorder.runs_s();
  const std::size_t runs_before = state.recorder.study().runs.size();
  std::vector<Cell> cells = in_order(state, round);
  for (int pass = 0; pass < max_passes && !cells.empty() && !state.is_cut_short; ++pass) {
    run_cells(state, round, cells, figures);
    std::erase_if(cells, [&](const Cell& cell) { return state.plan.time_s > 0 || !is_disturbed(state, cell, round); });
  }
  if (state.recorder.study().runs.size() == runs_before) state.is_cut_short = true;
  if (state.is_cut_short) return;
  ++state.summary.blocks;
  state.overrun = std::max(1.0, (state.recorder.runs_s() - before_s) / predicted_round_s(state));
  check_a_run(state, round);
}

/// With more time, five rounds of every cell.
void note_if_too_short(StudyState& state) {
  if (state.plan.time_s <= 0 || !state.watch.too_short || is_chosen_by_gain(state.plan)) return;
  const double needed_s = state.recorder.runs_s() + rounds_needed * predicted_round_s(state);
  if (needed_s <= state.plan.time_s) return;
  std::map<std::size_t, double> seconds;
  for (const Cell& cell : state.cells) seconds[cell.series] += cell.predicted_s;
  const auto slowest = std::max_element(seconds.begin(), seconds.end(),
                                        [](const auto& a, const auto& b) { return a.second < b.second; });
  if (slowest != seconds.end()) state.watch.too_short({needed_s, slowest->first, slowest->second});
}

/// First by rough curves, which take little time; then by the answers themselves.
bool is_precise(StudyState& state, const std::vector<FigureSoFar>& figures) {
  if (state.plan.precision <= 0 || state.summary.blocks < rounds_needed) return false;
  if (std::any_of(figures.begin(), figures.end(),
                  [&](const FigureSoFar& figure) { return figure.half_width > state.plan.precision; }))
    return false;
  state.summary.reached = reached(state.recorder.study(), state.plan.goal).half_width;
  return state.summary.reached && *state.summary.reached <= state.plan.precision;
}

}  // namespace

std::vector<Cell> candidates_of(const StudyState& state, const std::vector<Figure>& figures) {
  std::vector<Cell> cells;
  std::set<std::int64_t> counts;
  for (const Cell& cell : state.ladder) {
    if (!state.may_run(cell.series, cell.count) || is_replaced(state, figures, cell)) continue;
    cells.push_back(cell);
    counts.insert(cell.count);
  }
  if (!state.plan.aim) return cells;
  for (const Figure& figure : figures)
    for (std::size_t series = 0; figure.is_place() && series < state.plan.series.size(); ++series) {
      if (!figure.concerns(series)) continue;
      const auto add = [&](std::int64_t count) {
        if (state.may_be_tried(series, static_cast<double>(count)))
          add_cell(cells, cell_around(state, series, count, figure.frames == FramesOf::max));
      };
      for (const double factor : around_figures) {
        const std::int64_t count = shared_count(state, counts, factor * figure.middle);
        counts.insert(count);
        add(count);
      }
      if (const auto middle = middle_of_jump(state, figure, series)) add(*middle);
    }
  return cells;
}

double predicted_round_s(const StudyState& state) {
  double sum = 0;
  for (const Cell& cell : state.cells) sum += cell.predicted_s;
  return sum;
}

void find_cells(StudyState& state) { state.cells = candidates_of(state, figures_so_far(state)); }

void make_rounds(StudyState& state) {
  const Plan& plan = state.plan;
  state.rounds_since_s = state.recorder.elapsed_s();
  const int max = plan.blocks > 0 ? plan.blocks : plan.precision > 0 ? max_rounds : std::numeric_limits<int>::max();
  for (int round = 0; round < max && !state.is_cut_short; ++round) {
    const std::vector<Figure> figures = figures_so_far(state);
    const std::vector<FigureSoFar> widths = widths_of(state, figures);
    if (is_precise(state, widths)) break;
    plan_round(state, figures);
    if (state.cells.empty()) break;
    if (round == 0) note_if_too_short(state);
    make_round(state, round, widths);
  }
}

}  // namespace mileage
