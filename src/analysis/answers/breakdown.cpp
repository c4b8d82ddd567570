#include "analysis/answers/breakdown.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/difference.h"
#include "analysis/evidence/labels.h"
#include "analysis/evidence/pairs.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

constexpr const char* whole_frame = "";
constexpr const char* thread_works = "main thread: user";
constexpr const char* thread_in_system = "main thread: kernel";
constexpr const char* thread_waits = "main thread: waiting";

/// A number with what it becomes without each block.
struct BreakdownInputs {
  double all = 0;
  std::vector<double> leave_one_out;

  BreakdownInputs operator-(const BreakdownInputs& other) const {
    BreakdownInputs difference{all - other.all, leave_one_out};
    for (std::size_t i = 0; i < leave_one_out.size(); ++i) difference.leave_one_out[i] -= other.leave_one_out[i];
    return difference;
  }
};

/// Shares of the frames of one series at one place, block by block.
class Shares {
 public:
  Shares(const EvidenceSet& evidence, std::size_t series, double x)
      : blocks_(evidence.blocks), by_block_(evidence.blocks.size()) {
    for (const JudgedRun* one : evidence.series[series].runs)
      if (one->x == x) take(*one);
  }

  const std::set<std::string>& phases() const { return phases_; }
  const std::set<std::string>& inner_phases() const { return inner_; }
  bool knows_thread_time() const { return knows_thread_time_ && runs_ > 0; }
  bool knows_kernel_time() const { return knows_kernel_time_ && runs_ > 0; }

  /// Of a phase, or of what the thread did; of all runs, without one block's where that is given.
  double share(const std::string& name, std::optional<std::size_t> leave_one_out) const {
    double sum = 0;
    int blocks = 0;
    for (std::size_t block = 0; block < by_block_.size(); ++block) {
      if (block == leave_one_out || by_block_[block].runs == 0) continue;
      const auto found = by_block_[block].sums.find(name);
      sum += found == by_block_[block].sums.end() ? 0 : found->second / by_block_[block].runs;
      ++blocks;
    }
    return blocks > 0 ? sum / blocks : 0;
  }

  /// Not a share: pages touched first, a frame.
  static constexpr const char* page_faults = "page faults";

 private:
  struct Sums {
    std::map<std::string, double> sums;
    int runs = 0;
  };

  void take(const JudgedRun& judged) {
    const Run& run = *judged.run;
    const double wall_ms = measured_wall_ms(run);
    const double own_ms = measured_wall_ms(run, true);
    const auto block = std::find(blocks_.begin(), blocks_.end(), judged.block) - blocks_.begin();
    if (wall_ms <= 0 || block == static_cast<std::ptrdiff_t>(blocks_.size())) return;
    Sums& own = by_block_[static_cast<std::size_t>(block)];
    ++own.runs;
    ++runs_;
    own.sums[whole_frame] += 1;
    inner_.insert(run.inner_phases.begin(), run.inner_phases.end());
    for (const auto& [name, ms] : run.phases_ms) {
      phases_.insert(name);
      own.sums[name] += ms / wall_ms;  // what it waited for a core lies in any of them
    }
    knows_thread_time_ = knows_thread_time_ && run.thread_busy_ms;
    knows_kernel_time_ = knows_kernel_time_ && run.kernel_ms;
    const double busy = std::clamp(run.thread_busy_ms.value_or(0) / own_ms, 0.0, 1.0);
    const double system = std::min(busy, run.kernel_ms.value_or(0) / own_ms);
    own.sums[thread_works] += busy - system;
    own.sums[thread_in_system] += system;
    own.sums[thread_waits] += 1 - busy;
    own.sums[page_faults] += run.page_faults.value_or(0) / static_cast<double>(run.measured_frames());
  }

  const std::vector<int>& blocks_;
  std::vector<Sums> by_block_;
  std::set<std::string> phases_, inner_;
  int runs_ = 0;
  bool knows_thread_time_ = true;
  bool knows_kernel_time_ = true;
};

/// One series of a pair at a place, measured there or between the measured places around it.
class Side {
 public:
  Side(const Analysis& analysis, std::size_t series, double at) : curve(&analysis.curves[series]), x(at) {
    const auto places = places_around(analysis.evidence.series[series], at);
    const double apart = std::log(places.back() / places.front());
    const double share = apart > 0 ? std::log(at / places.front()) / apart : 0;
    for (const double place : places) {
      shares_.emplace_back(Shares(analysis.evidence, series, place), place == places.front() ? 1 - share : share);
      if (apart <= 0) break;
    }
  }

  const SeriesCurve* curve;
  double x;

  std::set<std::string> phases() const { return names(&Shares::phases); }
  std::set<std::string> inner_phases() const { return names(&Shares::inner_phases); }
  bool all(bool (Shares::*of)() const) const {
    return std::all_of(shares_.begin(), shares_.end(), [&](const auto& one) { return (one.first.*of)(); });
  }
  /// Interpolated in the logarithm of the place.
  double share(const std::string& name, std::optional<std::size_t> leave_one_out) const {
    double sum = 0;
    for (const auto& [shares, weight] : shares_) sum += weight * shares.share(name, leave_one_out);
    return sum;
  }

  double cost_ms(const Curve& of) const {
    const auto point = curve->measured_point_at(x) ? of.point_at(x) : std::nullopt;
    return std::exp(point ? of.points.log_ms(*point) : of.log_ms_at(x));
  }
  BreakdownInputs read(const std::string& name) const {
    BreakdownInputs read{share(name, {}) * cost_ms(curve->all), {}};
    for (std::size_t block = 0; block < curve->leave_one_out.size(); ++block)
      read.leave_one_out.push_back(share(name, block) * cost_ms(curve->leave_one_out[block]));
    return read;
  }

 private:
  /// The place itself where it was measured often enough, else the nearest such places around it, else those that are
  /// there.
  std::vector<double> places_around(const SeriesEvidence& evidence, double at) const {
    std::vector<double> often, all;
    for (Eigen::Index i = 0; i < curve->all.points.x.size(); ++i) {
      all.push_back(curve->all.points.x(i));
      if (curve->all.runs(i) >= min_runs_for_spikes) often.push_back(all.back());
    }
    if (all.empty()) all = evidence.x;
    const bool suffices = !often.empty() && often.front() <= at && often.back() >= at;
    const std::vector<double>& places = suffices ? often : all;
    const auto above = std::lower_bound(places.begin(), places.end(), at);
    if (above == places.end()) return {places.back()};
    if (*above == at || above == places.begin()) return {*above};
    return {*std::prev(above), *above};
  }

  std::set<std::string> names(const std::set<std::string>& (Shares::*of)() const) const {
    std::set<std::string> all;
    for (const auto& [shares, weight] : shares_) all.insert((shares.*of)().begin(), (shares.*of)().end());
    return all;
  }

  std::vector<std::pair<Shares, double>> shares_;
};

std::vector<std::size_t> counting_blocks(const std::vector<const Side*>& sides) {
  std::vector<std::size_t> blocks;
  for (std::size_t block = 0; block < sides.front()->curve->leave_one_out.size(); ++block)
    if (std::any_of(sides.begin(), sides.end(), [&](const Side* side) { return side->curve->block_counts[block]; }))
      blocks.push_back(block);
  return blocks;
}

/// Of the spread without each block, and of all that this does not show (SeriesCurve::errors_beside_blocks). Drift
/// of the machine is in the cost of one side, and not in the difference of two that were measured next to each other.
/// `parts_ms`: of each side.
double half_width_ms(const BreakdownInputs& read, const std::vector<const Side*>& sides,
                     const std::vector<double>& parts_ms) {
  std::vector<StandardError> errors;
  bool is_assumed = true;
  for (const Side* side : sides) is_assumed = is_assumed && side->curve->assumed_error;
  for (std::size_t i = 0; i < sides.size(); ++i) {
    const SeriesCurve& curve = *sides[i]->curve;
    std::vector<StandardError> of_side = curve.errors_beside_blocks(sides[i]->x);
    of_side.push_back(
        {std::hypot(curve.uncertainty_at(sides[i]->x), curve.all.interpolation_error(sides[i]->x)) / normal_95});
    if (is_assumed) of_side.push_back({*curve.assumed_error, assumed_degrees});
    if (sides.size() == 1 && !is_assumed) of_side.push_back({curve.drift_error, stretches_of_drift - 1});
    for (const StandardError& one : of_side)
      errors.push_back({one.value * std::fabs(parts_ms[i]), one.degrees_of_freedom});
  }
  if (is_assumed) return sum_of(errors).half_width();
  std::vector<double> values;
  for (const std::size_t block : counting_blocks(sides)) values.push_back(read.leave_one_out[block]);
  if (values.size() < 3) return HUGE_VAL;
  double degrees = static_cast<double>(values.size() - 1);
  for (const Side* side : sides) degrees = std::min(degrees, side->curve->degrees_of_freedom_at(side->x));
  errors.push_back({jackknife_error(values), degrees});
  return sum_of(errors).half_width();
}

Part part_of(const std::string& name, const BreakdownInputs& read, const std::vector<const Side*>& sides,
             const std::vector<double>& parts_ms) {
  Part part{name, read.all, {}, parts_ms.front(), parts_ms.back()};
  const double half = half_width_ms(read, sides, parts_ms);
  if (std::isfinite(half)) part.interval = {read.all - half, read.all + half};
  return part;
}

Part difference_of(const std::string& shown, const std::string& name, const Side& first, const Side& second) {
  const BreakdownInputs one = first.read(name);
  const BreakdownInputs other = second.read(name);
  return part_of(shown, other - one, {&first, &second}, {one.all, other.all});
}

Part cost_of(const Side& side) {
  const BreakdownInputs read = side.read(whole_frame);
  return part_of("", read, {&side}, {read.all});
}

/// The frame without those phases that lie in no other one.
BreakdownInputs outside_of(const Side& side) {
  BreakdownInputs rest = side.read(whole_frame);
  const std::set<std::string> inner = side.inner_phases();
  for (const std::string& phase : side.phases())
    if (inner.count(phase) == 0) rest = rest - side.read(phase);
  return rest;
}

void sort_by_size(std::vector<Part>& parts) {
  std::stable_sort(parts.begin(), parts.end(),
                   [](const Part& a, const Part& b) { return std::fabs(a.ms) > std::fabs(b.ms); });
}

void split_by_phases(const Side& first, const Side& second, PairBreakdown& pair) {
  std::set<std::string> phases = first.phases(), inner = first.inner_phases();
  phases.merge(second.phases());
  inner.merge(second.inner_phases());
  if (phases.empty()) return;
  for (const std::string& phase : phases) {
    const bool is_inner = inner.count(phase) > 0;
    (is_inner ? pair.inside : pair.phases).push_back(difference_of(phase, phase, first, second));
  }
  sort_by_size(pair.phases);
  sort_by_size(pair.inside);
  const BreakdownInputs one = outside_of(first);
  const BreakdownInputs other = outside_of(second);
  pair.outside = part_of("outside phases", other - one, {&first, &second}, {one.all, other.all});
}

void split_by_thread(const Side& first, const Side& second, PairBreakdown& pair) {
  if (!first.all(&Shares::knows_thread_time) || !second.all(&Shares::knows_thread_time)) return;
  pair.thread.push_back(difference_of(thread_works, thread_works, first, second));
  if (first.all(&Shares::knows_kernel_time) && second.all(&Shares::knows_kernel_time))
    pair.thread.push_back(difference_of(thread_in_system, thread_in_system, first, second));
  pair.thread.push_back(difference_of(thread_waits, thread_waits, first, second));
}

/// Page faults are counted, not timed: their number a frame, not a share of one.
void compare_page_faults(const Side& first, const Side& second, PairBreakdown& pair) {
  if (!first.all(&Shares::knows_kernel_time) || !second.all(&Shares::knows_kernel_time)) return;
  BreakdownInputs read{second.share(Shares::page_faults, {}) - first.share(Shares::page_faults, {}), {}};
  for (std::size_t block = 0; block < first.curve->leave_one_out.size(); ++block)
    read.leave_one_out.push_back(second.share(Shares::page_faults, block) - first.share(Shares::page_faults, block));
  if (std::fabs(read.all) < reported_page_faults) return;
  pair.page_faults = part_of("page faults a frame", read, {&first, &second}, {0, 0});
  pair.page_faults->first_ms = first.share(Shares::page_faults, {});
  pair.page_faults->second_ms = second.share(Shares::page_faults, {});
}

/// The place of a series nearest to another one.
double nearest_place(const SeriesEvidence& evidence, double x) {
  return *std::min_element(evidence.x.begin(), evidence.x.end(),
                           [&](double a, double b) { return std::fabs(std::log(a / x)) < std::fabs(std::log(b / x)); });
}

/// Counters of a series at a place, for each entity and frame.
std::map<std::string, double> counters_per_entity(const SeriesEvidence& evidence, double at) {
  const double x = nearest_place(evidence, at);
  std::map<std::string, std::vector<double>> values;
  for (const JudgedRun* one : evidence.runs) {
    if (one->x != x) continue;
    const double entity_frames = static_cast<double>(one->run->measured_frames() * one->run->count);
    for (const auto& [name, sum] : one->run->counters) values[name].push_back(sum / entity_frames);
  }
  std::map<std::string, double> counters;
  for (const auto& [name, of_runs] : values) counters[name] = median(of_runs);
  return counters;
}

std::optional<double> expected_of(const Scenario& scenario, const std::string& counter) {
  for (const Expectation& one : scenario.expects)
    if (one.counter == counter) return one.per_entity;
  return std::nullopt;
}

bool is_off(const std::optional<double>& found, const std::optional<double>& expected) {
  return found && expected && std::fabs(*found - *expected) > expected_within * *expected;
}

bool is_another(const std::optional<double>& one, const std::optional<double>& other) {
  if (!one || !other) return true;
  return std::max(*one, *other) > std::min(*one, *other) * trait_differs_from;
}

void compare_counters(const EvidenceSet& evidence, PairBreakdown& pair) {
  const auto of_first = counters_per_entity(evidence.series[pair.first], pair.x);
  const auto of_second = counters_per_entity(evidence.series[pair.second], pair.x);
  std::set<std::string> names;
  for (const auto* counters : {&of_first, &of_second})
    for (const auto& [name, amount] : *counters) names.insert(name);
  const auto in = [](const std::map<std::string, double>& counters, const std::string& name) {
    const auto found = counters.find(name);
    return found == counters.end() ? std::nullopt : std::optional(found->second);
  };
  for (const std::string& name : names) {
    CounterPair one{name, in(of_first, name), in(of_second, name), expected_of(evidence.head.scenario, name)};
    one.first_is_off = is_off(one.of_first, one.expected);
    one.second_is_off = is_off(one.of_second, one.expected);
    if (one.first_is_off || one.second_is_off || is_another(one.of_first, one.of_second)) pair.counters.push_back(one);
  }
}

/// The place asked for, where both were measured that far; where none is, the largest that both were measured at, or
/// the end of what both cover.
std::optional<double> place_of_both(const SeriesCurve& first, const SeriesCurve& second,
                                    const std::optional<double>& asked) {
  const double min = std::max(first.all.min(), second.all.min());
  const double max = std::min(first.all.max(), second.all.max());
  if (min > max) return std::nullopt;
  if (asked) return *asked >= min && *asked <= max ? asked : std::nullopt;
  std::optional<double> shared;
  for (const bool often : {true, false})
    for (Eigen::Index i = 0; !shared && i < first.all.points.x.size(); ++i) {
      const double x = first.all.points.x(first.all.points.x.size() - 1 - i);
      const bool is_there =
          often ? first.measured_point_at(x) && second.measured_point_at(x) : second.all.point_at(x).has_value();
      if (is_there) shared = x;
    }
  return shared ? shared : std::optional(max);
}

PairBreakdown breakdown_of(const Analysis& analysis, std::size_t one, std::size_t other, double x) {
  const EvidenceSet& evidence = analysis.evidence;
  PairBreakdown pair;
  pair.first = one;
  pair.second = other;
  pair.x = x;
  const Side first(analysis, one, x);
  const Side second(analysis, other, x);
  pair.first_ms = cost_of(first);
  pair.second_ms = cost_of(second);
  pair.whole = difference_of("", whole_frame, first, second);
  split_by_phases(first, second, pair);
  split_by_thread(first, second, pair);
  compare_page_faults(first, second, pair);
  compare_counters(evidence, pair);
  return pair;
}

/// How far the series would go if the phase cost nothing: as far as it goes in a budget that is larger by the share of
/// the phase, at the place where that capacity lies.
Capacity capacity_without(const Analysis& analysis, std::size_t series, const std::string& phase, double x,
                          double budget_ms) {
  const SeriesCurve& curve = analysis.curves[series];
  Capacity found;
  for (int look = 0; look < 2; ++look) {
    const Shares shares(analysis.evidence, series, nearest_place(analysis.evidence.series[series], x));
    const double share = std::min(shares.share(phase, {}), max_share_of_a_phase);
    found = capacity(curve, budget_ms / (1 - share));
    if (!found.at) break;
    x = *found.at;
  }
  found.budget_ms = budget_ms;
  return found;
}

/// The series that leaves the phase out, where one was measured.
std::optional<std::size_t> measured_floor(const EvidenceSet& evidence, std::size_t series, const std::string& phase) {
  Series wanted = evidence.series[series].series;
  wanted.skipped_phase = phase;
  for (std::size_t i = 0; i < evidence.series.size(); ++i)
    if (evidence.series[i].series == wanted) return i;
  return std::nullopt;
}

void add_floors(const Analysis& analysis, std::size_t series, double x, BreakdownAnswer& answer) {
  const EvidenceSet& evidence = analysis.evidence;
  const Side side(analysis, series, x);
  std::vector<PhaseFloor> floors;
  for (const std::string& phase : side.phases()) {
    const BreakdownInputs of_phase = side.read(phase);
    const BreakdownInputs rest = side.read(whole_frame) - of_phase;
    const Part floor = part_of(phase, rest, {&side}, {rest.all});
    PhaseFloor one{series, phase, of_phase.all, floor.ms, floor.interval, false, {}};
    const auto measured = measured_floor(evidence, series, phase);
    const auto cost = measured ? analysis.curves[*measured].cost_at(x) : std::nullopt;
    if (cost) {
      one.is_measured = true;
      one.floor_ms = cost->ms;
      one.floor_interval = cost->interval;
      one.capacity = capacity(analysis.curves[*measured], answer.budget_ms);
    } else {
      one.capacity = capacity_without(analysis, series, phase, x, answer.budget_ms);
    }
    floors.push_back(std::move(one));
  }
  std::stable_sort(floors.begin(), floors.end(),
                   [](const PhaseFloor& a, const PhaseFloor& b) { return a.phase_ms > b.phase_ms; });
  answer.floors.insert(answer.floors.end(), floors.begin(), floors.end());
}

/// The variant that was named first is what the other is compared with.
std::pair<std::size_t, std::size_t> as_named(std::size_t a, std::size_t b, const EvidenceSet& evidence,
                                             const std::vector<std::string>& between) {
  const auto rank = [&](std::size_t series) {
    return std::find_if(between.begin(), between.end(),
                        [&](const std::string& name) { return is_called(evidence.series[series].series, name); });
  };
  return rank(b) < rank(a) ? std::pair(b, a) : std::pair(a, b);
}

}  // namespace

BreakdownAnswer breakdown_answer(const Analysis& analysis, const Questions& questions) {
  const EvidenceSet& evidence = analysis.evidence;
  BreakdownAnswer answer;
  answer.budget_ms = questions.budgets_of(evidence).front();
  if (questions.between.empty()) return answer;
  check_variants(evidence, questions.between, "between");
  std::vector<Series> series;
  for (const SeriesEvidence& one : evidence.series) series.push_back(one.series);
  std::map<std::size_t, double> explained;
  for (const auto& [a, b] : compared_pairs(series, evidence.head.scenario, questions.between)) {
    const auto [one, other] = as_named(a, b, evidence, questions.between);
    std::vector<std::optional<double>> asked(questions.at.begin(), questions.at.end());
    if (asked.empty()) asked.emplace_back();
    for (const auto& at : asked) {
      const auto x = place_of_both(analysis.curves[one], analysis.curves[other], at);
      if (!x) {
        answer.not_measured_together.push_back(evidence.series[one].label + " and " + evidence.series[other].label);
        break;
      }
      answer.pairs.push_back(breakdown_of(analysis, one, other, *x));
      explained[one] = explained[other] = *x;
    }
  }
  for (const auto& [one, x] : explained) add_floors(analysis, one, x, answer);
  return answer;
}

}  // namespace mileage
