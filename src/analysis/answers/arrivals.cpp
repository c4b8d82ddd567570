#include "analysis/answers/arrivals.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

struct Arrival {
  double x = 0;
  std::int64_t run = 0;  ///< Block or recording.
  std::int64_t arriving = 0;
  double peak_ms = 0;
  std::optional<double> settled_ms;  ///< Warmed-up frame there, if known.
  std::optional<double> settles_frames;
  std::optional<double> settles_ms;
};

double in_ms(std::int64_t ns) { return static_cast<double>(ns) * 1e-6; }

/// Frames from an arrival until they settled; all frames if no warm-up was marked.
std::vector<double> frames_ms(const Run& run) {
  std::vector<double> frames;
  for (const std::int64_t ns : run.warmup_ns) frames.push_back(in_ms(ns));
  if (frames.empty())
    for (const std::int64_t ns : run.samples_ns) frames.push_back(in_ms(ns) / run.frames_per_sample);
  return frames;
}

void describe_settling(const std::vector<double>& frames, double settled_ms, Arrival& arrival) {
  const auto last =
      std::find_if(frames.rbegin(), frames.rend(), [&](double ms) { return ms > calm_within * settled_ms; });
  arrival.settles_frames = static_cast<double>(frames.rend() - last);
  arrival.settles_ms = 0;
  for (auto frame = frames.begin(); frame != last.base(); ++frame) *arrival.settles_ms += *frame;
}

Arrival arrival_of(const JudgedRun& one, const SeriesCurve& curve, bool by_process) {
  const Run& run = *one.run;
  const std::vector<double> frames = frames_ms(run);
  Arrival arrival;
  arrival.x = one.x;
  arrival.run = by_process ? run.process : one.block;
  arrival.arriving = run.arrived;
  arrival.peak_ms = *std::max_element(frames.begin(), frames.end());
  if (one.is_evidence)
    arrival.settled_ms = one.typical_ms;
  else if (curve.covers(one.x))
    arrival.settled_ms = curve.ms_at(one.x);
  if (one.is_evidence && !run.warmup_ns.empty()) describe_settling(frames, one.typical_ms, arrival);
  return arrival;
}

/// Ascending.
std::vector<Arrival> arrivals_of(const Analysis& analysis, std::size_t series) {
  const EvidenceSet& evidence = analysis.evidence;
  const bool by_process = evidence.head.made_by == MadeBy::tables;
  std::vector<Arrival> arrivals;
  for (const JudgedRun& one : evidence.runs) {
    const bool tells = one.is_evidence || one.run->status == RunStatus::ramp;
    if (tells && one.run->arrived > 0 && one.series == evidence.series[series].series)
      arrivals.push_back(arrival_of(one, analysis.curves[series], by_process));
  }
  std::stable_sort(arrivals.begin(), arrivals.end(), [](const Arrival& a, const Arrival& b) { return a.x < b.x; });
  return arrivals;
}

struct BudgetCrossing {
  double log_place = 0;
  double uncertainty = 0;  ///< Half of the gap between the two places.
};

/// Between the two arrivals with the fewest on the wrong side, halfway between a linear and a power interpolation.
/// Nothing before the first or after the last.
std::optional<BudgetCrossing> passes_at(const std::vector<Arrival>& run, double budget_ms) {
  std::ptrdiff_t wrong =
      std::count_if(run.begin(), run.end(), [&](const Arrival& one) { return one.peak_ms <= budget_ms; });
  std::ptrdiff_t fewest = wrong;
  std::size_t split = 0;  // Arrivals below this index are within the budget.
  for (std::size_t i = 0; i < run.size(); ++i) {
    wrong += run[i].peak_ms <= budget_ms ? -1 : 1;
    if (wrong < fewest) {
      fewest = wrong;
      split = i + 1;
    }
  }
  if (split == 0 || split == run.size()) return std::nullopt;
  const Arrival& below = run[split - 1];
  const Arrival& above = run[split];
  const double log_ratio = std::log(above.x / below.x);
  if (below.peak_ms > budget_ms || above.peak_ms <= budget_ms)
    return BudgetCrossing{std::log(below.x) + log_ratio / 2, 0};
  const double by_power = log_ratio * std::log(budget_ms / below.peak_ms) / std::log(above.peak_ms / below.peak_ms);
  const double share = (budget_ms - below.peak_ms) / (above.peak_ms - below.peak_ms);
  const double by_line = std::log1p(share * std::expm1(log_ratio));
  return BudgetCrossing{std::log(below.x) + (by_power + by_line) / 2, std::fabs(by_power - by_line) / 2};
}

void read_runs(const std::vector<BudgetCrossing>& passings, WorstFrames& worst) {
  const double n = static_cast<double>(passings.size());
  double mean = 0, uncertainty = 0, squares = 0;
  for (const BudgetCrossing& one : passings) {
    mean += one.log_place / n;
    uncertainty += one.uncertainty / n;
  }
  for (const BudgetCrossing& one : passings) squares += (one.log_place - mean) * (one.log_place - mean);
  worst.at = std::exp(mean);
  if (passings.size() < min_processes_for_interval) return;
  const double half = t_factor(passings.size()) * std::sqrt(squares / (n - 1) / n) + uncertainty;
  worst.interval = {std::exp(mean - half), std::exp(mean + half)};
}

WorstFrames worst_frames(const std::vector<Arrival>& arrivals, std::size_t series, double budget_ms) {
  WorstFrames worst{series, budget_ms, {}, {}, {}, arrivals.front().x, arrivals.back().x, false};
  std::map<std::int64_t, std::vector<Arrival>> runs;
  for (const Arrival& one : arrivals) {
    runs[one.run].push_back(one);
    if (one.peak_ms > budget_ms && !worst.first_over) worst.first_over = one.x;
  }
  std::vector<BudgetCrossing> passings;
  for (const auto& [number, run] : runs)
    if (const auto passing = passes_at(run, budget_ms)) passings.push_back(*passing);
  if (2 * passings.size() > runs.size()) {
    read_runs(passings, worst);
  } else if (const auto of_all = passes_at(arrivals, budget_ms)) {  // Most runs do not cross it themselves.
    worst.at = std::exp(of_all->log_place);
  } else {
    worst.over_at_once = arrivals.front().peak_ms > budget_ms;
  }
  return worst;
}

std::vector<std::vector<const Arrival*>> alike_in_size(const std::vector<const Arrival*>& arrivals) {
  std::vector<const Arrival*> ascending = arrivals;
  std::stable_sort(ascending.begin(), ascending.end(),
                   [](const Arrival* a, const Arrival* b) { return a->arriving < b->arriving; });
  std::vector<std::vector<const Arrival*>> alike;
  for (const Arrival* one : ascending) {
    const bool is_new = alike.empty() || static_cast<double>(one->arriving) >
                                             alike_sizes_within * static_cast<double>(alike.back().front()->arriving);
    if (is_new) alike.emplace_back();
    alike.back().push_back(one);
  }
  return alike;
}

template <class Value>
std::vector<double> values_of(const std::vector<const Arrival*>& arrivals, Value value) {
  std::vector<double> values;
  for (const Arrival* one : arrivals)
    if (const std::optional<double> found = value(*one)) values.push_back(*found);
  return values;
}

std::optional<double> middle(const std::vector<double>& values) {
  return values.empty() ? std::nullopt : std::optional(median(values));
}

ArrivalSize size_of(const std::vector<const Arrival*>& alike, std::size_t series) {
  ArrivalSize size;
  size.series = series;
  size.seen = alike.size();
  size.arriving = std::llround(
      median(values_of(alike, [](const Arrival& one) { return std::optional(static_cast<double>(one.arriving)); })));
  size.at = median(values_of(alike, [](const Arrival& one) { return std::optional(one.x); }));
  const auto adds = values_of(alike, [](const Arrival& one) {
    return one.settled_ms ? std::optional(one.peak_ms - *one.settled_ms) : std::nullopt;
  });
  size.adds_ms = middle(adds).value_or(0);
  size.adds_interval = median_interval(adds);
  size.settles_frames = middle(values_of(alike, [](const Arrival& one) { return one.settles_frames; }));
  size.settles_ms = middle(values_of(alike, [](const Arrival& one) { return one.settles_ms; }));
  return size;
}

/// Arrivals near the crossing whose settled frame is known.
std::vector<const Arrival*> near_the_budget(const std::vector<Arrival>& arrivals, const WorstFrames& worst) {
  const double near = worst.at.value_or(worst.over_at_once ? worst.measured_from : worst.measured_to);
  std::vector<const Arrival*> there;
  for (const Arrival& one : arrivals)
    if (one.settled_ms && one.x >= near / near_an_arrival && one.x <= near * near_an_arrival) there.push_back(&one);
  return there;
}

}  // namespace

ArrivalsAnswer arrivals_answer(const Analysis& analysis, const Questions& questions) {
  ArrivalsAnswer answer;
  std::vector<std::vector<Arrival>> of_series;
  for (std::size_t i = 0; i < analysis.curves.size(); ++i) of_series.push_back(arrivals_of(analysis, i));
  for (const double budget_ms : questions.budgets_of(analysis.evidence))
    for (std::size_t i = 0; i < of_series.size(); ++i)
      if (!of_series[i].empty()) answer.worst.push_back(worst_frames(of_series[i], i, budget_ms));
  for (const WorstFrames& worst : answer.worst)
    if (worst.budget_ms == answer.worst.front().budget_ms)
      for (const auto& alike : alike_in_size(near_the_budget(of_series[worst.series], worst)))
        answer.sizes.push_back(size_of(alike, worst.series));
  return answer;
}

}  // namespace mileage
