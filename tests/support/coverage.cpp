#include "support/coverage.h"
#include "analysis/analysis.h"
#include "analysis/answers/ladder.h"
#include "analysis/answers/report.h"
#include "analysis/answers/tuning.h"
#include "analysis/answers/pays_off_from.h"
#include "analysis/curves/difference.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/crossings.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <random>
#include <thread>

namespace mileage::simulated {
namespace {

void score(Tally& tally, double truth, const Interval& interval) {
  ++tally.asked;
  if (!interval.low && !interval.high) return;
  ++tally.answered;
  const bool above = interval.low && *interval.low > truth;
  const bool below = interval.high && *interval.high < truth;
  tally.above += above;
  tally.below += below;
  tally.held += !above && !below;
  tally.open_ended += !interval.closed();
  if (interval.closed()) tally.widths.push_back(std::log(*interval.high / *interval.low));
}

/// Whether the law that was named differs from the truth by more than twice the noise of a cell's mean, however it is
/// fitted to the truth.
bool is_separable(const Truth& truth, const SeriesCurve& curve, const SeriesGrowth& growth) {
  Points points = curve.all.points;
  for (Eigen::Index i = 0; i < points.x.size(); ++i) points.log_ms(i) = std::log(truth.one_ms(points.x(i)));
  const auto fit = fit_law(growth.law->kind, points);
  const double misses_by = std::sqrt(fit->squared_residuals / points.weight.sum());
  std::vector<double> errors;
  for (const CurvePoint& point : growth.points)
    if (point.interval.closed())
      errors.push_back(std::log(*point.interval.high / *point.interval.low) / 2 /
                       t_factor(static_cast<std::size_t>(curve.blocks())));
  return errors.empty() || misses_by > 2 * median(errors);
}

void score_law(CellTally& cell, const Truth& truth, const SeriesCurve& curve, const SeriesGrowth& growth) {
  if (!truth.law || growth.names.empty()) return;
  ++cell.laws_named;
  for (const Law& name : growth.names)
    if (name.kind == *truth.law) return;
  cell.laws_wrong += is_separable(truth, curve, growth);
}

/// Where the one takes this many milliseconds.
double count_within(const Truth& truth, double ms) {
  double from = 10;
  double to = 1e7;
  for (int step = 0; step < 200; ++step) {
    const double middle = std::sqrt(from * to);
    (truth.one_ms(middle) > ms ? to : from) = middle;
  }
  return std::sqrt(from * to);
}

/// Nothing is asked where no law tells anything beyond the counts measured.
void score_capacity(Tally& tally, const Truth& truth, const Capacity& capacity) {
  if (capacity.at) score(tally, count_within(truth, capacity.budget_ms), capacity.interval);
}

const Capacity& capacity_of_one(const CapacityAnswer& answer, std::size_t budget) {
  return answer.capacities[budget * answer.capacities.size() / answer.budgets_ms.size()].capacity;
}

void score_costs(CellTally& cell, const Truth& truth, const PlaceCosts& place) {
  const SeriesCost& one = place.costs.front();
  const SeriesCost& other = place.costs[1];
  if (one.cost) score(cell.figure[cost], truth.one_ms(place.x), one.cost->interval);
  if (one.cost && other.cost)
    score(cell.figure[share], truth.other_ms(place.x) / truth.one_ms(place.x), other.share_interval);
}

/// From where on the faster one at the upper end of the measured range saves more than the worth; nothing where the
/// truth has no such place inside of it.
void score_worth(Tally& tally, const Truth& truth, const Analysis& analysis, double min_saving_ms) {
  const SeriesCurve* one = &analysis.curves[0];
  const SeriesCurve* other = &analysis.curves[1];
  const double end = std::min(one->all.max(), other->all.max());
  const bool one_saves = truth.one_ms(end) < truth.other_ms(end);
  const auto saves = [&](double x) {
    const double more = truth.other_ms(x) - truth.one_ms(x);
    return (one_saves ? more : -more) - min_saving_ms;
  };
  const auto places = places_between(std::max(one->all.min(), other->all.min()), end, 400);
  const auto last_less = std::find_if(places.rbegin(), places.rend(), [&](double x) { return saves(x) <= 0; });
  if (last_less == places.rend() || last_less == places.rbegin()) return;
  double from = *last_less;
  double to = *std::prev(last_less);
  for (int step = 0; step < 50; ++step) (saves(std::sqrt(from * to)) > 0 ? to : from) = std::sqrt(from * to);
  const auto found = pays_off_from(one_saves ? Pair(*other, *one) : Pair(*one, *other), min_saving_ms);
  score(tally, to, found ? found->interval : Interval{});
}

void run_study(const Truth& truth, const Disturbance& noise, std::uint64_t seed, CellTally& cell) {
  std::mt19937_64 random(seed);
  const Study study =
      simulated::measured_study(truth, noise, simulated::usual_head(5 + static_cast<int>(random() % 8), seed));
  Questions questions;
  questions.at = {truth.capacity / 2};
  questions.budgets_ms = {budget_ms, budget_ms / 2, 1.8 * budget_ms};
  const Analysis analysis = analyse(study);
  const PartsAnswer parts = parts_answer(analysis);
  const GrowthAnswer growth = growth_answer(analysis, parts, false);
  const CapacityAnswer capacities = capacity_answer(analysis, questions);
  if (truth.exponent) score(cell.figure[exponent], *truth.exponent, growth.series.front().exponent_interval);
  score(cell.figure[capacity_at_budget], truth.capacity, capacities.capacities.front().capacity.interval);
  const auto evens = break_even_answer(analysis, questions).pairs.front().answer.break_evens;
  if (truth.break_even > 0)
    score(cell.figure[break_even], truth.break_even, evens.empty() ? Interval{} : evens.front().interval);
  cell.never += truth.break_even <= 0;
  cell.told_anyway += truth.break_even <= 0 && !evens.empty();
  score_capacity(cell.figure[capacity_at_half], truth, capacity_of_one(capacities, 1));
  score_capacity(cell.figure[capacity_beyond], truth, capacity_of_one(capacities, 2));
  score_costs(cell, truth, cost_answer(analysis, parts, questions).groups.front().places.front());
  score_worth(cell.figure[pays_off_from_text], truth, analysis, questions.min_saving_ms(analysis.evidence));
  score_law(cell, truth, analysis.curves.front(), growth.series.front());
}

constexpr int frames_of_tail_runs = 200;
/// How much longer studies of such runs take than usual ones: 91 to 135 s on the virtual clock, instead of 22 to 31.
constexpr double times_as_long = 4.2;

double share_above(double log_time, double deviation) { return std::erfc(log_time / deviation / std::sqrt(2.0)) / 2; }

/// How slow the machine was at each frame of the one around a place, log scale.
std::vector<float> slowness_around(const Study& study, const std::vector<std::vector<float>>& of_runs, double place) {
  std::vector<float> around;
  for (std::size_t i = 0; i < study.runs.size(); ++i) {
    const Run& run = study.runs[i];
    const double away = std::fabs(std::log(static_cast<double>(run.count) / place));
    if (run.block < 0 || run.series.variant != "one" || away > std::log(tail_pooled_within)) continue;
    around.insert(around.end(), of_runs[i].begin(), of_runs[i].end());
  }
  return around;
}

/// What 99 % of frames take at most, above those of the fast machine, log scale: frames scatter about its speed of that
/// moment.
double slowness_of_99(const Disturbance& noise, const std::vector<float>& slowness) {
  std::map<int, double> in_bins;  // of a thousandth
  for (const float slow : slowness) ++in_bins[static_cast<int>(std::lround(1000 * slow))];
  double from = 0, to = 3;
  for (int step = 0; step < 60; ++step) {
    const double middle = (from + to) / 2;
    double above = 0;
    for (const auto& [bin, frames] : in_bins) above += frames * share_above(middle - bin / 1000.0, noise.frame);
    (above > 0.01 * static_cast<double>(slowness.size()) ? from : to) = middle;
  }
  return from;
}

void run_tail_study(const Truth& truth, Disturbance noise, std::uint64_t seed, CellTally& cell) {
  std::mt19937_64 random(seed);
  Head head = usual_head(5 + static_cast<int>(random() % 8), seed);
  head.plan.series.resize(1);
  head.plan.min_frames = head.plan.heavy_frames = frames_of_tail_runs;
  noise.drift_length *= times_as_long;
  noise.slow_length *= times_as_long;
  std::vector<std::vector<float>> slowness;
  const Study study = measured_study(truth, noise, head, &slowness);
  const Analysis analysis = analyse(study);
  score(cell.figure[capacity_for_99], truth_for_99(truth, noise, study, slowness),
        capacity_answer(analysis, {}).capacities.front().tail.value_or(Capacity{}).interval);
}

/// Whether a set holds what it is to hold.
void score_set(Tally& tally, bool holds) {
  ++tally.asked;
  ++tally.answered;
  tally.held += holds;
}

Head head_at_one_count(std::uint64_t seed) {
  Head head = usual_head(8, seed);
  head.plan.counts = {1000};
  head.plan.aim = false;
  head.plan.series.clear();
  return head;
}

/// Series of "one" over the values of a knob.
Head head_over(Knob knob, const std::vector<double>& values, std::uint64_t seed) {
  Head head = head_at_one_count(seed);
  for (const double value : values) {
    Series one{"one", {}};
    one.knobs.set(knob.name, value);
    head.plan.series.push_back(one);
  }
  head.scenario.variants.front().knobs = {std::move(knob)};
  return head;
}

Truth truth_over(const std::string& knob, std::function<double(double)> ms) {
  Truth truth;
  truth.of_series = [=](const Series& series) { return ms(series.knobs.number(knob)); };
  return truth;
}

/// Least at 1,000; from 100 to 10,000 at most 1.5 % more.
double over_batch(double batch) { return 1 + 0.015 * std::pow(std::log10(batch / 1000), 2); }

void run_tuning_study(const Disturbance& noise, std::uint64_t seed, CellTally& cell) {
  Head head = head_over(Knob::integer("batch", "", {.default_value = 100'000, .min = 1, .max = 1'000'000}),
                        {1, 10, 100, 300, 1000, 3000, 10'000, 100'000, 1'000'000}, seed);
  head.plan.tune = {"batch"};
  const Study study = measured_study(truth_over("batch", over_batch), noise, head);
  const Analysis analysis = analyse(study);
  const TuningAnswer answer = tuning_answer(analysis, {"batch"}, {});
  if (answer.places.empty()) return;
  bool holds_best = false, holds_plateau = true;
  int told = 0, as_good = 0;
  for (const TunedValue& value : answer.places.front().values) {
    const double batch = analysis.evidence.series[value.series].series.knobs.number("batch");
    const bool is_as_good = over_batch(batch) <= 1 + answer.min_saving_share;
    if (batch == 1000) holds_best = value.may_be_best;
    holds_plateau = holds_plateau && (value.is_as_good || !is_as_good);
    told += value.is_as_good;
    as_good += is_as_good;
  }
  score_set(cell.figure[best_value], holds_best);
  score_set(cell.figure[plateau], holds_plateau);
  if (told > 0) cell.figure[plateau].widths.push_back(std::log(static_cast<double>(told) / as_good));
}

void run_workers_study(const Disturbance& noise, std::uint64_t seed, CellTally& cell) {
  constexpr double serial = 0.2, contention = 0.02;
  const auto ms = [](double workers) { return 2 * (serial + (1 - serial) / workers + contention * (workers - 1)); };
  const Study study = measured_study(
      truth_over("workers", ms), noise,
      head_over(Knob::integer("workers", "", {.default_value = 1, .min = 1, .max = 8}), {1, 2, 3, 4, 6, 8}, seed));
  const Analysis analysis = analyse(study);
  const TuningAnswer answer = tuning_answer(analysis, {"workers"}, {});
  if (!answer.scaling.empty()) score(cell.figure[serial_share], serial, answer.scaling.front().serial_interval);
}

/// 30 % off without scatter, half with the other variant, nothing with the batch.
double of_ladder(const Series& series) {
  return 4 * (series.knobs.number("scatter") > 0 ? 1 : 0.7) * (series.variant == "other" ? 0.5 : 1);
}

void run_ladder_study(const Disturbance& noise, std::uint64_t seed, CellTally& cell) {
  Head head = head_at_one_count(seed);
  head.scenario.knobs = {Knob::integer("scatter", "", {.default_value = 1, .min = 0, .max = 1}),
                         Knob::integer("batch", "", {.default_value = 1, .min = 1, .max = 9})};
  Series base{"one", {}};
  base.knobs.set("scatter", 1.0);
  base.knobs.set("batch", 1.0);
  Rung tidy{"scatter=0", {}, ""}, batch{"batch=9", {}, ""};
  tidy.knobs.set("scatter", 0.0);
  batch.knobs.set("batch", 9.0);
  head.plan.series = {base};
  head.plan.rungs = {tidy, batch, {"variant=other", {}, "other"}};
  head.plan.series = Ladder(head.scenario, head.plan).all();
  Truth truth;
  truth.of_series = of_ladder;
  const Study study = measured_study(truth, noise, head);
  const Analysis analysis = analyse(study);
  const LadderAnswer answer = ladder_answer(analysis, {});
  const double brings[] = {0.7, 1, 0.5};
  for (std::size_t i = 1; i < answer.rungs.size(); ++i) {
    const RungAt& rung = answer.rungs[i];
    const double truth_of_rung = brings[i - 1];
    if (rung.on_top) score(cell.figure[rung_on_top], truth_of_rung, rung.on_top->takes_interval);
    if (rung.alone) score(cell.figure[rung_alone], truth_of_rung, rung.alone->takes_interval);
    if (rung.taken_away) score(cell.figure[rung_taken_away], truth_of_rung, rung.taken_away->takes_interval);
  }
}

/// Slopes by which frames of settings follow the yardstick differ by so much, on any machine, by their counts and
/// otherwise: what is known of one setting tells nothing of another. Spread of the analysis's prior.
constexpr double settings_differ_by = 0.3;

/// As many studies of one cell as are wanted, on all cores.
template <class RunStudy>
CellTally in_parallel(int studies, std::uint64_t seed, RunStudy run) {
  std::array<CellTally, 2> parts;
  std::vector<std::thread> threads;
  const auto step = static_cast<int>(parts.size());
  for (int part = 0; part < step; ++part)
    threads.emplace_back([=, &parts, &run] {
      CellTally& tally = parts[static_cast<std::size_t>(part)];
      const int wanted = (studies + part) / step;
      for (int made = 0; made < wanted; ++made)
        run(1'000'003 * seed + 7919 * static_cast<std::uint64_t>(made * step + part + 1), tally);
    });
  for (std::thread& thread : threads) thread.join();
  CellTally sum = parts[0];
  for (std::size_t i = 0; i < figures; ++i) sum.figure[i].add(parts[1].figure[i]);
  sum.laws_named += parts[1].laws_named;
  sum.laws_wrong += parts[1].laws_wrong;
  sum.never += parts[1].never;
  sum.told_anyway += parts[1].told_anyway;
  return sum;
}

}  // namespace

double truth_for_99(const Truth& truth, const Disturbance& noise, const Study& study,
                    const std::vector<std::vector<float>>& log_slowness) {
  std::map<double, double> slow_at;
  for (const Run& run : study.runs) {
    const auto count = static_cast<double>(run.count);
    if (run.block < 0 || run.series.variant != "one" || slow_at.count(std::log(count)) > 0) continue;
    const std::vector<float> around = slowness_around(study, log_slowness, count);
    if (around.size() >= frames_for_tail) slow_at[std::log(count)] = slowness_of_99(noise, around);
  }
  const auto slow = [&](double log_place) {
    const auto above = slow_at.lower_bound(log_place);
    if (above == slow_at.end()) return slow_at.rbegin()->second;
    if (above == slow_at.begin()) return above->second;
    const auto below = std::prev(above);
    const double share = (log_place - below->first) / (above->first - below->first);
    return below->second + share * (above->second - below->second);
  };
  double from = slow_at.begin()->first - 3, to = slow_at.rbegin()->first + 1;
  for (int step = 0; step < 60; ++step) {
    const double middle = (from + to) / 2;
    (std::log(truth.one_ms(std::exp(middle)) / budget_ms) + slow(middle) > 0 ? to : from) = middle;
  }
  return std::exp(from);
}

CellTally run_cell(const Truth& truth, const Disturbance& noise, int studies) {
  return in_parallel(studies, truth.seed,
                     [&](std::uint64_t seed, CellTally& cell) { run_study(truth, noise, seed, cell); });
}

CellTally run_tail_cell(const Truth& truth, const Disturbance& noise, int studies) {
  return in_parallel(studies, truth.seed,
                     [&](std::uint64_t seed, CellTally& cell) { run_tail_study(truth, noise, seed, cell); });
}

CellTally run_explaining_cell(Disturbance noise, int studies) {
  const double otherwise = std::sqrt(settings_differ_by * settings_differ_by - std::pow(noise.place_sd, 2));
  noise.slope_sd = std::max(noise.slope_sd, otherwise);
  return in_parallel(studies, 0, [&](std::uint64_t seed, CellTally& cell) {
    run_tuning_study(noise, seed, cell);
    run_workers_study(noise, seed, cell);
    run_ladder_study(noise, seed, cell);
  });
}

}  // namespace mileage::simulated
