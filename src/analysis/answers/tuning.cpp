#include "analysis/answers/tuning.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/pair.h"
#include "analysis/statistics/constants.h"
#include "types/error.h"
#include "types/scenario_knobs.h"

namespace mileage {
namespace {

constexpr const char* workers_knob = "workers";

const KnobValue* value_of(const Series& series, const std::string& knob) {
  const auto found = series.knobs.values().find(knob);
  return found == series.knobs.values().end() ? nullptr : &found->second;
}

/// What must be equal for values to be compared.
Series rest_of(const Series& series, const std::vector<std::string>& knobs) {
  Series rest{series.variant, {}, series.cold_bytes, series.build, series.skipped_phase};
  for (const auto& [name, value] : series.knobs.values())
    if (std::find(knobs.begin(), knobs.end(), name) == knobs.end()) rest.knobs.set(name, value);
  return rest;
}

std::vector<std::string> differing_knobs(const EvidenceSet& evidence) {
  std::map<std::pair<std::string, std::string>, std::set<KnobValue>> values;
  for (const SeriesEvidence& one : evidence.series)
    for (const auto& [name, value] : one.series.knobs.values()) values[{one.series.variant, name}].insert(value);
  std::vector<std::string> knobs;
  for (const auto& [of, several] : values)
    if (several.size() > 1 && std::find(knobs.begin(), knobs.end(), of.second) == knobs.end())
      knobs.push_back(of.second);
  return knobs;
}

/// Largest set of series that differ in the knobs only, by value.
std::vector<std::size_t> family(const EvidenceSet& evidence, const std::vector<std::string>& knobs) {
  std::vector<std::pair<Series, std::vector<std::size_t>>> families;
  for (std::size_t i = 0; i < evidence.series.size(); ++i) {
    const Series& series = evidence.series[i].series;
    const bool has_all = std::all_of(knobs.begin(), knobs.end(),
                                     [&](const std::string& knob) { return value_of(series, knob) != nullptr; });
    if (!has_all || series.is_floor()) continue;
    const Series rest = rest_of(series, knobs);
    auto known = std::find_if(families.begin(), families.end(), [&](const auto& one) { return one.first == rest; });
    if (known == families.end()) known = families.insert(families.end(), {rest, {}});
    known->second.push_back(i);
  }
  std::vector<std::size_t> largest;
  for (const auto& [rest, members] : families)
    if (members.size() > largest.size()) largest = members;
  std::stable_sort(largest.begin(), largest.end(), [&](std::size_t a, std::size_t b) {
    for (const std::string& knob : knobs) {
      const KnobValue& one = *value_of(evidence.series[a].series, knob);
      const KnobValue& other = *value_of(evidence.series[b].series, knob);
      if (one != other) return one < other;
    }
    return false;
  });
  return largest;
}

std::vector<double> places_of(const Analysis& analysis, const std::vector<std::size_t>& members,
                              const Questions& questions) {
  std::map<double, std::size_t> values;
  for (const std::size_t member : members)
    for (const double x : analysis.curves[member].places()) ++values[x];
  std::vector<double> places;
  for (const auto& [x, number] : values) {
    const bool is_asked = questions.at.empty()
                              ? number >= values_to_tune
                              : std::find(questions.at.begin(), questions.at.end(), x) != questions.at.end();
    if (is_asked && number > 1) places.push_back(x);
  }
  return places;
}

Difference difference_at(const Analysis& analysis, const TunedValue& one, const TunedValue& other, double x) {
  return Pair(analysis.curves[one.series], analysis.curves[other.series]).at(x);
}

bool may_be_best(const Analysis& analysis, const TunedAt& at, const TunedValue& one) {
  const std::size_t verdicts = std::max<std::size_t>(1, at.values.size() - 1);
  return std::none_of(at.values.begin(), at.values.end(), [&](const TunedValue& other) {
    return &other != &one && difference_at(analysis, one, other, at.x).verdict(verdicts) > 0;
  });
}

void compare_with_best(const Analysis& analysis, TunedAt& at, double min_saving_share) {
  const std::size_t verdicts = std::max<std::size_t>(1, at.values.size() - 1);
  for (TunedValue& one : at.values) {
    const bool is_best = &one == &at.values[at.best];
    if (!is_best) {
      const Difference difference = difference_at(analysis, one, at.values[at.best], at.x);
      one.share = difference.ratio();
      one.share_interval = difference.ratio_interval(verdicts);
    }
    one.may_be_best = is_best || may_be_best(analysis, at, one);
    one.is_as_good = one.may_be_best || one.share_interval.low.value_or(one.share) <= 1 + min_saving_share;
  }
}

/// By the upper ends of intervals, so that an imprecise value does not win by luck.
std::size_t best_of(const std::vector<TunedValue>& values) {
  const auto best = std::min_element(values.begin(), values.end(), [](const TunedValue& a, const TunedValue& b) {
    return *a.cost.interval.high < *b.cost.interval.high;
  });
  return static_cast<std::size_t>(best - values.begin());
}

template <class Holds>
ValueStretch stretch_around(const TunedAt& at, Holds holds) {
  std::size_t from = at.best, to = at.best;
  while (from > 0 && holds(at.values[from - 1])) --from;
  while (to + 1 < at.values.size() && holds(at.values[to + 1])) ++to;
  return {at.values[from].values.front(), at.values[to].values.front()};
}

TunedAt tuned_at(const Analysis& analysis, const std::vector<std::size_t>& members,
                 const std::vector<std::string>& knobs, double x, double min_saving_share) {
  const EvidenceSet& evidence = analysis.evidence;
  TunedAt at;
  at.x = x;
  for (const std::size_t member : members) {
    if (!analysis.curves[member].is_measured_at(x)) continue;
    const Series& series = evidence.series[member].series;
    TunedValue one{member, {}, *analysis.curves[member].cost_at(x)};
    for (const std::string& knob : knobs) one.values.push_back(*value_of(series, knob));
    one.is_default = std::all_of(knobs.begin(), knobs.end(), [&](const std::string& knob) {
      return is_default_value(evidence.head.scenario, series.variant, knob, *value_of(series, knob));
    });
    if (one.is_default) at.default_value = at.values.size();
    at.values.push_back(std::move(one));
  }
  at.best = best_of(at.values);
  compare_with_best(analysis, at, min_saving_share);
  const bool is_numeric = knobs.size() == 1 && std::holds_alternative<double>(at.values.front().values.front());
  if (is_numeric) {
    at.best_between = stretch_around(at, [](const TunedValue& one) { return one.may_be_best; });
    at.plateau = stretch_around(at, [](const TunedValue& one) { return one.is_as_good; });
  }
  return at;
}

/// Nothing below three numbers of workers >= 1.
std::optional<Scaling> scaling_at(const Analysis& analysis, const TunedAt& at) {
  std::vector<WorkersCurve> curves;
  for (const TunedValue& one : at.values)
    if (const double* workers = std::get_if<double>(&one.values.front()); workers != nullptr && *workers >= 1)
      curves.push_back({*workers, &analysis.curves[one.series]});
  if (curves.size() < values_to_tune) return std::nullopt;
  return scaling_of(curves, at.x);
}

std::optional<Workers> workers_at(const EvidenceSet& evidence, std::size_t series, double x, double asked) {
  Workers workers{series, x, asked, 0, false, true};
  int runs = 0;
  for (const JudgedRun* one : evidence.series[series].runs) {
    if (one->x != x) continue;
    double worked = 0;
    if (one->run->work) {
      workers.by_notes = true;
      for (const double batches : one->run->work->batches) worked += batches > 0;
    } else if (one->run->processor_ms) {
      worked = *one->run->processor_ms / measured_wall_ms(*one->run);
    } else {
      continue;
    }
    workers.worked = std::max(workers.worked, worked);
    ++runs;
  }
  if (runs == 0) return std::nullopt;
  // By notes, fewer may have had a batch if there were few. Not honored: more than asked for, or fewer though each had
  // one.
  const bool is_more = workers.worked > asked * (workers.by_notes ? 1 : 1 + workers_within);
  workers.is_honoured = !is_more && (workers.by_notes ? workers.worked >= asked : workers.worked >= asked * mostly);
  return workers;
}

void describe_workers(const Analysis& analysis, TuningAnswer& answer) {
  if (answer.knobs != std::vector<std::string>{workers_knob}) return;
  for (const TunedAt& at : answer.places) {
    if (const auto scaling = scaling_at(analysis, at)) answer.scaling.push_back(*scaling);
    for (const TunedValue& one : at.values)
      if (const double* asked = std::get_if<double>(&one.values.front()))
        if (const auto workers = workers_at(analysis.evidence, one.series, at.x, *asked))
          answer.workers.push_back(*workers);
  }
}

}  // namespace

TuningAnswer tuning_answer(const Analysis& analysis, const std::vector<std::string>& knobs,
                           const Questions& questions) {
  TuningAnswer answer;
  const std::vector<std::string> known = differing_knobs(analysis.evidence);
  answer.knobs = knobs.empty() ? known : knobs;
  answer.min_saving_share = questions.min_saving_share;
  for (const std::string& knob : answer.knobs)
    if (std::find(known.begin(), known.end(), knob) == known.end())
      throw Error({.kind = FaultKind::usage,
                   .field = "knob",
                   .problem = "nothing was measured over this knob",
                   .found = knob,
                   .accepted = known.empty() ? "a study with several values of a knob"
                                             : fmt::format("{}", fmt::join(known, ", "))});
  if (answer.knobs.empty()) return answer;
  const std::vector<std::size_t> members = family(analysis.evidence, answer.knobs);
  for (const double x : places_of(analysis, members, questions))
    answer.places.push_back(tuned_at(analysis, members, answer.knobs, x, questions.min_saving_share));
  describe_workers(analysis, answer);
  return answer;
}

}  // namespace mileage
