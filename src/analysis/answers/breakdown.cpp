#include "analysis/answers/breakdown.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <random>
#include <set>

#include <boost/random/exponential_distribution.hpp>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/pair.h"
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

struct PartRead {
  double ms = 0;
  Drawn drawn;

  PartRead operator-(const PartRead& other) const { return {ms - other.ms, drawn - other.drawn}; }
};

/// Weight of each block (columns) in each draw (rows); rows sum to 1 (D. B. Rubin, "The Bayesian bootstrap", Annals of
/// Statistics 9, 1981). Shared by all parts, so that they add up to the frame draw by draw.
Eigen::ArrayXXd block_weights(Eigen::Index draws, Eigen::Index blocks) {
  std::mt19937_64 random(1);
  boost::random::exponential_distribution<double> exponential;
  Eigen::ArrayXXd weights(draws, blocks);
  for (double& one : weights.reshaped()) one = exponential(random);
  return weights.colwise() / weights.rowwise().sum().eval();
}

/// Share of each part in the frames of one series at one place, by block.
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

  /// Of a phase or thread state.
  PartRead share(const std::string& name, const Eigen::ArrayXXd& weights) const {
    PartRead read{0, Drawn::Zero(weights.rows())};
    Drawn sum = Drawn::Zero(weights.rows());
    int blocks = 0;
    for (std::size_t block = 0; block < by_block_.size(); ++block) {
      if (by_block_[block].runs == 0) continue;
      const auto found = by_block_[block].sums.find(name);
      const double share = found == by_block_[block].sums.end() ? 0 : found->second / by_block_[block].runs;
      const Drawn weight = weights.col(static_cast<Eigen::Index>(block));
      read.ms += share;
      read.drawn += share * weight;
      sum += weight;
      ++blocks;
    }
    if (blocks > 0) read = {read.ms / blocks, read.drawn / sum};
    return read;
  }

  /// A count per frame instead of a share.
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
      own.sums[name] += ms / wall_ms;  // Includes waiting for a core.
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

/// One series of a pair, interpolated between measured places.
class Side {
 public:
  Side(const Analysis& analysis, std::size_t series, double at)
      : curve(&analysis.curves[series]),
        x(at),
        weights_(block_weights(curve->draws(), static_cast<Eigen::Index>(analysis.evidence.blocks.size()))) {
    const auto places = places_around(at);
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
  /// Linear in log place.
  PartRead share(const std::string& name) const {
    PartRead read{0, Drawn::Zero(weights_.rows())};
    for (const auto& [shares, weight] : shares_) {
      const PartRead one = shares.share(name, weights_);
      read = {read.ms + weight * one.ms, read.drawn + weight * one.drawn};
    }
    return read;
  }
  PartRead read(const std::string& name) const {
    const PartRead of = share(name);
    return {of.ms * curve->ms_at(x), of.drawn * curve->drawn_log_ms(x).exp()};
  }

 private:
  std::vector<double> places_around(double at) const {
    const std::vector<double>& places = curve->places();
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

  Eigen::ArrayXXd weights_;
  std::vector<std::pair<Shares, double>> shares_;
};

Part part_of(const std::string& name, const PartRead& read, double first_ms, double second_ms) {
  return {name, read.ms, interval_of(read.drawn), first_ms, second_ms};
}

Part difference_of(const std::string& name, const PartRead& first, const PartRead& second) {
  return part_of(name, second - first, first.ms, second.ms);
}

Part cost_of(const Side& side) {
  const PartRead read = side.read(whole_frame);
  return part_of("", read, read.ms, read.ms);
}

/// Frame time outside top-level phases.
PartRead outside_of(const Side& side) {
  PartRead rest = side.read(whole_frame);
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
    (is_inner ? pair.inside : pair.phases).push_back(difference_of(phase, first.read(phase), second.read(phase)));
  }
  sort_by_size(pair.phases);
  sort_by_size(pair.inside);
  pair.outside = difference_of("outside phases", outside_of(first), outside_of(second));
}

void split_by_thread(const Side& first, const Side& second, PairBreakdown& pair) {
  if (!first.all(&Shares::knows_thread_time) || !second.all(&Shares::knows_thread_time)) return;
  pair.thread.push_back(difference_of(thread_works, first.read(thread_works), second.read(thread_works)));
  if (first.all(&Shares::knows_kernel_time) && second.all(&Shares::knows_kernel_time))
    pair.thread.push_back(difference_of(thread_in_system, first.read(thread_in_system), second.read(thread_in_system)));
  pair.thread.push_back(difference_of(thread_waits, first.read(thread_waits), second.read(thread_waits)));
}

/// Page faults are counted, not timed.
void compare_page_faults(const Side& first, const Side& second, PairBreakdown& pair) {
  if (!first.all(&Shares::knows_kernel_time) || !second.all(&Shares::knows_kernel_time)) return;
  const Part faults =
      difference_of("page faults a frame", first.share(Shares::page_faults), second.share(Shares::page_faults));
  if (std::fabs(faults.ms) >= reported_page_faults) pair.page_faults = faults;
}

double nearest_place(const SeriesEvidence& evidence, double x) {
  return *std::min_element(evidence.x.begin(), evidence.x.end(),
                           [&](double a, double b) { return std::fabs(std::log(a / x)) < std::fabs(std::log(b / x)); });
}

/// Per entity and frame.
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

/// The place asked for if both cover it; else the largest that both were measured at, or the end of the common range.
std::optional<double> place_of_both(const SeriesCurve& first, const SeriesCurve& second,
                                    const std::optional<double>& asked) {
  const Pair pair(first, second);
  if (pair.min() > pair.max()) return std::nullopt;
  if (asked) return *asked >= pair.min() && *asked <= pair.max() ? asked : std::nullopt;
  const auto shared =
      std::find_if(first.places().rbegin(), first.places().rend(), [&](double x) { return second.is_measured_at(x); });
  return shared == first.places().rend() ? pair.max() : *shared;
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
  pair.whole = difference_of("", first.read(whole_frame), second.read(whole_frame));
  split_by_phases(first, second, pair);
  split_by_thread(first, second, pair);
  compare_page_faults(first, second, pair);
  compare_counters(evidence, pair);
  return pair;
}

/// Capacity without the phase: that of a budget increased by the phase's share.
Capacity capacity_without(const Analysis& analysis, std::size_t series, const std::string& phase, double x,
                          double budget_ms) {
  const SeriesCurve& curve = analysis.curves[series];
  Capacity found;
  for (int look = 0; look < 2; ++look) {
    const Side there(analysis, series, nearest_place(analysis.evidence.series[series], x));
    const double share = std::min(there.share(phase).ms, max_share_of_a_phase);
    found = capacity(curve, budget_ms / (1 - share));
    if (!found.at) break;
    x = *found.at;
  }
  found.budget_ms = budget_ms;
  return found;
}

/// Series that skips the phase, if measured.
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
    const PartRead of_phase = side.read(phase);
    const PartRead rest = side.read(whole_frame) - of_phase;
    PhaseFloor one{series, phase, of_phase.ms, rest.ms, interval_of(rest.drawn), false, {}};
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

/// The variant named first is the reference.
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
