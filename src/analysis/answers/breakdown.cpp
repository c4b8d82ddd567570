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
constexpr const char* thread_works = "the frame's thread works";
constexpr const char* thread_in_system = "it is inside the system's calls";
constexpr const char* thread_waits = "it waits";

/// A number with what it becomes without each block.
struct Read {
  double all = 0;
  std::vector<double> without;

  Read operator-(const Read& other) const {
    Read difference{all - other.all, without};
    for (std::size_t i = 0; i < without.size(); ++i) difference.without[i] -= other.without[i];
    return difference;
  }
};

/// Shares of the frames of one series at one place, block by block.
class Shares {
 public:
  Shares(const EvidenceSet& evidence, std::size_t series, double x)
      : blocks_(evidence.blocks), by_block_(evidence.blocks.size()) {
    for (const JudgedVisit* one : evidence.series[series].visits)
      if (one->x == x) take(*one);
  }

  const std::set<std::string>& phases() const { return phases_; }
  const std::set<std::string>& inner_phases() const { return inner_; }
  bool tells_of_thread() const { return tells_of_thread_ && visits_ > 0; }
  bool tells_of_system() const { return tells_of_system_ && visits_ > 0; }

  /// Of a phase, or of what the thread did; of all visits, without one block's where that is given.
  double share(const std::string& name, std::optional<std::size_t> without) const {
    double sum = 0;
    int blocks = 0;
    for (std::size_t block = 0; block < by_block_.size(); ++block) {
      if (block == without || by_block_[block].visits == 0) continue;
      const auto found = by_block_[block].sums.find(name);
      sum += found == by_block_[block].sums.end() ? 0 : found->second / by_block_[block].visits;
      ++blocks;
    }
    return blocks > 0 ? sum / blocks : 0;
  }

  /// Not a share: pages touched first, a frame.
  static constexpr const char* page_faults = "page faults";

 private:
  struct Sums {
    std::map<std::string, double> sums;
    int visits = 0;
  };

  void take(const JudgedVisit& judged) {
    const Visit& visit = *judged.visit;
    const double wall_ms = measured_wall_ms(visit);
    const double own_ms = measured_wall_ms(visit, true);
    const auto block = std::find(blocks_.begin(), blocks_.end(), judged.block) - blocks_.begin();
    if (wall_ms <= 0 || block == static_cast<std::ptrdiff_t>(blocks_.size())) return;
    Sums& own = by_block_[static_cast<std::size_t>(block)];
    ++own.visits;
    ++visits_;
    own.sums[whole_frame] += 1;
    inner_.insert(visit.inner_phases.begin(), visit.inner_phases.end());
    for (const auto& [name, ms] : visit.phases_ms) {
      phases_.insert(name);
      own.sums[name] += ms / wall_ms;  // what it waited for a core lies in any of them
    }
    tells_of_thread_ = tells_of_thread_ && visit.thread_busy_ms;
    tells_of_system_ = tells_of_system_ && visit.kernel_ms;
    const double busy = std::clamp(visit.thread_busy_ms.value_or(0) / own_ms, 0.0, 1.0);
    const double system = std::min(busy, visit.kernel_ms.value_or(0) / own_ms);
    own.sums[thread_works] += busy - system;
    own.sums[thread_in_system] += system;
    own.sums[thread_waits] += 1 - busy;
    own.sums[page_faults] += visit.page_faults.value_or(0) / static_cast<double>(visit.measured_frames());
  }

  const std::vector<int>& blocks_;
  std::vector<Sums> by_block_;
  std::set<std::string> phases_, inner_;
  int visits_ = 0;
  bool tells_of_thread_ = true;
  bool tells_of_system_ = true;
};

/// One series of a pair at its place.
struct Side {
  const SeriesCurve* curve;
  Shares shares;
  double x;

  double cost_ms(const Curve& of) const {
    const auto point = of.point_at(x);
    return std::exp(point ? of.points.log_ms(*point) : of.log_ms_at(x));
  }
  Read read(const std::string& name) const {
    Read read{shares.share(name, {}) * cost_ms(curve->all), {}};
    for (std::size_t block = 0; block < curve->without.size(); ++block)
      read.without.push_back(shares.share(name, block) * cost_ms(curve->without[block]));
    return read;
  }
};

std::vector<std::size_t> counting_blocks(const std::vector<const Side*>& sides) {
  std::vector<std::size_t> blocks;
  for (std::size_t block = 0; block < sides.front()->curve->without.size(); ++block)
    if (std::any_of(sides.begin(), sides.end(), [&](const Side* side) { return side->curve->block_counts[block]; }))
      blocks.push_back(block);
  return blocks;
}

/// Besides the spread without each block: what is assumed of series that nothing repeated, and the doubt of the level.
/// `parts_ms`: of each side.
double half_width_ms(const Read& read, const std::vector<const Side*>& sides, const std::vector<double>& parts_ms) {
  const std::vector<std::size_t> blocks = counting_blocks(sides);
  double assumed = 0, levels = 0;
  bool is_assumed = true;
  for (std::size_t i = 0; i < sides.size(); ++i) {
    is_assumed = is_assumed && sides[i]->curve->assumed_error;
    assumed = std::hypot(assumed, parts_ms[i] * sides[i]->curve->assumed_error.value_or(0));
    levels = std::hypot(levels, parts_ms[i] * sides[i]->curve->adjusted_error_at(sides[i]->x));
  }
  if (is_assumed) return sum_of({{assumed, assumed_degrees}, {levels}}).half_width();
  std::vector<double> values;
  for (const std::size_t block : blocks) values.push_back(read.without[block]);
  if (values.size() < 3) return HUGE_VAL;
  return sum_of({{jackknife_error(values), static_cast<double>(values.size() - 1)}, {levels}}).half_width();
}

Part part_of(const std::string& name, const Read& read, const std::vector<const Side*>& sides,
             const std::vector<double>& parts_ms) {
  Part part{name, read.all, {}, parts_ms.front(), parts_ms.back()};
  const double half = half_width_ms(read, sides, parts_ms);
  if (std::isfinite(half)) part.interval = {read.all - half, read.all + half};
  return part;
}

Part difference_of(const std::string& shown, const std::string& name, const Side& first, const Side& second) {
  const Read one = first.read(name);
  const Read other = second.read(name);
  return part_of(shown, other - one, {&first, &second}, {one.all, other.all});
}

Part cost_of(const Side& side) {
  const Read read = side.read(whole_frame);
  return part_of("", read, {&side}, {read.all});
}

/// The frame without those phases that lie in no other one.
Read outside_of(const Side& side) {
  Read rest = side.read(whole_frame);
  for (const std::string& phase : side.shares.phases())
    if (side.shares.inner_phases().count(phase) == 0) rest = rest - side.read(phase);
  return rest;
}

void sort_by_size(std::vector<Part>& parts) {
  std::stable_sort(parts.begin(), parts.end(),
                   [](const Part& a, const Part& b) { return std::fabs(a.ms) > std::fabs(b.ms); });
}

void split_by_phases(const Side& first, const Side& second, PairBreakdown& pair) {
  std::set<std::string> phases = first.shares.phases();
  phases.insert(second.shares.phases().begin(), second.shares.phases().end());
  if (phases.empty()) return;
  for (const std::string& phase : phases) {
    const bool is_inner = first.shares.inner_phases().count(phase) > 0 || second.shares.inner_phases().count(phase) > 0;
    (is_inner ? pair.inside : pair.phases).push_back(difference_of(phase, phase, first, second));
  }
  sort_by_size(pair.phases);
  sort_by_size(pair.inside);
  const Read one = outside_of(first);
  const Read other = outside_of(second);
  pair.outside = part_of("outside any phase", other - one, {&first, &second}, {one.all, other.all});
}

void split_by_thread(const Side& first, const Side& second, PairBreakdown& pair) {
  if (!first.shares.tells_of_thread() || !second.shares.tells_of_thread()) return;
  pair.thread.push_back(difference_of(thread_works, thread_works, first, second));
  if (first.shares.tells_of_system() && second.shares.tells_of_system())
    pair.thread.push_back(difference_of(thread_in_system, thread_in_system, first, second));
  pair.thread.push_back(difference_of(thread_waits, thread_waits, first, second));
}

/// Page faults are counted, not timed: their number a frame, not a share of one.
void compare_page_faults(const Side& first, const Side& second, PairBreakdown& pair) {
  if (!first.shares.tells_of_system() || !second.shares.tells_of_system()) return;
  Read read{second.shares.share(Shares::page_faults, {}) - first.shares.share(Shares::page_faults, {}), {}};
  for (std::size_t block = 0; block < first.curve->without.size(); ++block)
    read.without.push_back(second.shares.share(Shares::page_faults, block) -
                           first.shares.share(Shares::page_faults, block));
  if (std::fabs(read.all) < page_faults_told) return;
  pair.page_faults = part_of("page faults a frame", read, {&first, &second}, {0, 0});
  pair.page_faults->first_ms = first.shares.share(Shares::page_faults, {});
  pair.page_faults->second_ms = second.shares.share(Shares::page_faults, {});
}

/// Counters of a series at a place, for each entity and frame.
std::map<std::string, double> counters_per_entity(const SeriesEvidence& evidence, double x) {
  std::map<std::string, std::vector<double>> values;
  for (const JudgedVisit* one : evidence.visits) {
    if (one->x != x) continue;
    const double entity_frames = static_cast<double>(one->visit->measured_frames() * one->visit->count);
    for (const auto& [name, sum] : one->visit->counters) values[name].push_back(sum / entity_frames);
  }
  std::map<std::string, double> counters;
  for (const auto& [name, of_visits] : values) counters[name] = median(of_visits);
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

/// The place that both were measured at, nearest to the one asked for; the largest where none is.
std::optional<double> shared_place(const SeriesEvidence& first, const SeriesEvidence& second,
                                   const std::optional<double>& asked) {
  std::optional<double> nearest;
  for (const double x : first.x) {
    if (std::find(second.x.begin(), second.x.end(), x) == second.x.end()) continue;
    const auto distance = [&](double place) { return std::fabs(std::log(place / *asked)); };
    if (!nearest || !asked || distance(x) < distance(*nearest)) nearest = x;
  }
  return nearest;
}

PairBreakdown breakdown_of(const Analysis& analysis, std::size_t one, std::size_t other, double asked_at, double x) {
  const EvidenceSet& evidence = analysis.evidence;
  PairBreakdown pair;
  pair.first = one;
  pair.second = other;
  pair.asked_at = asked_at;
  pair.x = x;
  const Side first{&analysis.curves[one], Shares(evidence, one, x), x};
  const Side second{&analysis.curves[other], Shares(evidence, other, x), x};
  pair.first_ms = cost_of(first);
  pair.second_ms = cost_of(second);
  pair.whole = difference_of("", whole_frame, first, second);
  split_by_phases(first, second, pair);
  split_by_thread(first, second, pair);
  compare_page_faults(first, second, pair);
  compare_counters(evidence, pair);
  return pair;
}

/// The place of a series nearest to another one.
double nearest_place(const SeriesEvidence& evidence, double x) {
  return *std::min_element(evidence.x.begin(), evidence.x.end(),
                           [&](double a, double b) { return std::fabs(std::log(a / x)) < std::fabs(std::log(b / x)); });
}

/// How far the series would go if the phase cost nothing: as far as it goes in a budget that is larger by the share of
/// the phase, at the place where that capacity lies.
Capacity capacity_without(const Analysis& analysis, std::size_t series, const std::string& phase, double x,
                          double budget_ms) {
  const SeriesCurve& curve = analysis.curves[series];
  Capacity found;
  for (int look = 0; look < 2; ++look) {
    const Shares shares(analysis.evidence, series, nearest_place(analysis.evidence.series[series], x));
    const double share = std::min(shares.share(phase, {}), most_share_of_a_phase);
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
  wanted.without = phase;
  for (std::size_t i = 0; i < evidence.series.size(); ++i)
    if (evidence.series[i].series == wanted) return i;
  return std::nullopt;
}

void add_floors(const Analysis& analysis, std::size_t series, double x, BreakdownAnswer& answer) {
  const EvidenceSet& evidence = analysis.evidence;
  const Side side{&analysis.curves[series], Shares(evidence, series, x), x};
  std::vector<PhaseFloor> floors;
  for (const std::string& phase : side.shares.phases()) {
    const Read of_phase = side.read(phase);
    const Read rest = side.read(whole_frame) - of_phase;
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

/// The variant that was named first is what the other is held against.
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
      const auto x = shared_place(evidence.series[one], evidence.series[other], at);
      if (!x) {
        answer.not_measured_together.push_back(evidence.series[one].label + " and " + evidence.series[other].label);
        break;
      }
      answer.pairs.push_back(breakdown_of(analysis, one, other, at.value_or(*x), *x));
      explained[one] = explained[other] = *x;
    }
  }
  for (const auto& [one, x] : explained) add_floors(analysis, one, x, answer);
  return answer;
}

}  // namespace mileage
