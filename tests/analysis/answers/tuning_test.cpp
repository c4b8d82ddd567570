#include "analysis/answers/tuning.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "analysis/answers/known_truths.h"
#include "types/error.h"

namespace mileage {
namespace {

/// Minimum at 1,000.
double over_batch(double batch, double n) { return 1e-5 * n * (1 + 0.3 * std::pow(std::log10(batch / 1000), 2)); }

Study batches_study(double noise = 0.01, std::uint64_t seed = 1) {
  made::Setting setting = made::setting_of({}, noise);
  setting.counts = {3000, 100'000};
  setting.seed = seed;
  for (const double batch : {10, 100, 500, 1000, 2000, 10'000, 100'000}) {
    Knobs knobs;
    knobs.set("batch", batch);
    setting.truths.push_back({"jobs", [batch](double n) { return over_batch(batch, n); }, knobs});
  }
  Study study = made::study_of(setting);
  study.head.scenario.variants.front().knobs = {
      Knob::integer("batch", "", {.default_value = 10'000, .min = 1, .max = 1'000'000})};
  return study;
}

TuningAnswer tuned(const Study& study, std::vector<double> at = {}, std::vector<std::string> knobs = {"batch"}) {
  const AnalysedStudy analysed(study);
  Questions questions;
  questions.at = std::move(at);
  return tuning_answer(analysed.analysis(), knobs, questions);
}

double number(const KnobValue& value) { return std::get<double>(value); }

TEST(Tuning, TheBestValueStandsWithinWhatMayBeIt) {
  const TuningAnswer answer = tuned(batches_study(), {100'000});
  ASSERT_EQ(answer.places.size(), 1U);
  const TunedAt& at = answer.places[0];
  ASSERT_EQ(at.values.size(), 7U);
  EXPECT_LE(number(at.best_between->from), 1000);
  EXPECT_GE(number(at.best_between->to), 1000);
  EXPECT_GT(number(at.best_between->from), 100) << "30 % slower";
  EXPECT_FALSE(at.values.front().may_be_best);
  EXPECT_NEAR(at.values.front().share, over_batch(10, 1) / over_batch(1000, 1), 0.05);
}

/// Some batches with two runs only.
Study seldom_measured(std::vector<double> batches, double noise) {
  Study study = batches_study(noise);
  std::erase_if(study.runs, [&](const mileage::Run& run) {
    const double batch = run.series.knobs.number("batch");
    return run.block >= 2 && std::find(batches.begin(), batches.end(), batch) != batches.end();
  });
  return study;
}

TEST(Tuning, AFarCheaperValueIsTheBestThoughItWasSeldomMeasured) {
  const TunedAt at = tuned(seldom_measured({500, 1000, 2000}, 0.002), {100'000}).places.at(0);
  const TunedValue& best = at.values[at.best];
  EXPECT_EQ(number(best.values.front()), 1000) << "the others take 30 % more";
  EXPECT_EQ(best.share, 1);
}

TEST(Tuning, AValueThatIsLowOnceIsNotTheBest) {
  const TunedAt at = tuned(seldom_measured({1000}, 0.05), {100'000}).places.at(0);
  EXPECT_TRUE(at.values[at.best].cost.interval.closed()) << "by chance 1,000 lies a little below what another may cost";
}

TEST(Tuning, ThePlateauHoldsWhatCostsNoMoreThanIsWorthAnything) {
  const TunedAt at = tuned(batches_study(0.002), {100'000}).places.at(0);
  // 500 and 2,000 cost 2.7 % more.
  EXPECT_EQ(number(at.plateau->from), 1000);
  const AnalysedStudy analysed(batches_study(0.002));
  Questions questions;
  questions.min_saving_share = 0.05;
  const TunedAt wider = tuning_answer(analysed.analysis(), {"batch"}, questions).places.at(0);
  EXPECT_EQ(number(wider.plateau->from), 500);
  EXPECT_EQ(number(wider.plateau->to), 2000);
}

TEST(Tuning, WhatThePresetLosesIsTold) {
  const TunedAt at = tuned(batches_study(), {100'000}).places.at(0);
  ASSERT_TRUE(at.default_value);
  const TunedValue& default_value = at.values[*at.default_value];
  EXPECT_NEAR(default_value.share, 1.3, 0.06);
  EXPECT_FALSE(default_value.is_as_good);
  EXPECT_TRUE(default_value.share_interval.closed());
}

TEST(Tuning, KnobsAreFoundAndWrongOnesRefused) {
  EXPECT_EQ(tuned(batches_study(), {}, {}).knobs, std::vector<std::string>{"batch"});
  EXPECT_THROW(tuned(batches_study(), {}, {"wind"}), Error);
  EXPECT_EQ(tuned(batches_study()).places.size(), 2U) << "all counts without any asked for";
}

TEST(Tuning, TheTruthMayBeBestInMostStudies) {
  int held = 0;
  constexpr int studies = 40;
  for (int seed = 1; seed <= studies; ++seed) {
    const TunedAt at = tuned(batches_study(0.05, static_cast<std::uint64_t>(seed)), {100'000}).places.at(0);
    held += number(at.best_between->from) <= 1000 && number(at.best_between->to) >= 1000;
  }
  EXPECT_GE(held, 36) << "95 % and more are expected";
}

/// A fifth serial, contention 2 %.
Study workers_study(std::vector<double> numbers, double noise = 0.005) {
  made::Setting setting = made::setting_of({}, noise);
  setting.counts = {100'000};
  for (const double workers : numbers) {
    Knobs knobs;
    knobs.set("workers", workers);
    setting.truths.push_back(
        {"jobs", [workers](double) { return 2 * (0.2 + 0.8 / workers + 0.02 * (workers - 1)); }, knobs});
  }
  Study study = made::study_of(setting);
  for (mileage::Run& run : study.runs) {
    run.work = WorkByWorker{};
    const double workers = number(run.series.knobs.values().at("workers"));
    for (double worker = 0; worker < workers; ++worker) {
      run.work->busy_ms.push_back(1);
      run.work->entities.push_back(1);
      run.work->batches.push_back(1);
    }
  }
  return study;
}

TEST(Tuning, SerialShareAndUsefulWorkersComeFromTimeAgainstWorkers) {
  const TuningAnswer answer = tuned(workers_study({1, 2, 3, 4, 6, 8}), {}, {"workers"});
  ASSERT_EQ(answer.scaling.size(), 1U);
  const Scaling& scaling = answer.scaling[0];
  EXPECT_NEAR(scaling.serial, 0.2, 0.03);
  EXPECT_NEAR(scaling.contention, 0.02, 0.006);
  ASSERT_TRUE(scaling.serial_interval.closed());
  EXPECT_LE(*scaling.serial_interval.low, 0.2);
  EXPECT_GE(*scaling.serial_interval.high, 0.2);
  // From 4 to 5 workers: 0.46 to 0.44.
  EXPECT_EQ(scaling.useful_workers, 4);
}

TEST(Tuning, ABusyMachineLeavesTheSerialShareInDoubt) {
  Study study = workers_study({1, 2, 3, 4, 6, 8});
  const Interval quiet = tuned(study, {}, {"workers"}).scaling.at(0).serial_interval;
  study.head.full_speed_ns = 100;
  for (mileage::Run& run : study.runs) run.yardstick = YardstickReading{3, 200, 150, 150, 150};
  const Interval busy = tuned(study, {}, {"workers"}).scaling.at(0).serial_interval;
  // Slope uncertainty at 1.41x slowdown widens the interval.
  EXPECT_GT(*busy.high - *busy.low, 5 * (*quiet.high - *quiet.low));
  EXPECT_GE(*busy.low, 0);
  EXPECT_LE(*busy.high, 1);
}

TEST(Tuning, FewNumbersOfWorkersTellLess) {
  EXPECT_TRUE(tuned(workers_study({1, 2}), {100'000}, {"workers"}).scaling.empty());
  const TuningAnswer three = tuned(workers_study({1, 2, 4}), {}, {"workers"});
  ASSERT_EQ(three.scaling.size(), 1U);
  EXPECT_FALSE(three.scaling[0].serial_interval.closed());
}

TEST(Tuning, WorkersThatDidNotWorkAreNoticed) {
  Study study = workers_study({1, 2, 4});
  for (const Workers& one : tuned(study, {}, {"workers"}).workers) EXPECT_TRUE(one.is_honoured) << one.asked;
  for (mileage::Run& run : study.runs)
    if (run.work->batches.size() == 4) run.work->batches = {3, 1, 0, 0};
  for (const Workers& one : tuned(study, {}, {"workers"}).workers) {
    EXPECT_EQ(one.is_honoured, one.asked != 4);
    if (one.asked == 4) EXPECT_EQ(one.worked, 2);
  }
}

TEST(Tuning, NamedValuesHaveABestAndNoStretch) {
  made::Setting setting = made::setting_of({}, 0.01);
  setting.counts = {100'000};
  for (const auto& [layout, ms] : {std::pair{"rows", 3.0}, {"tiles", 2.0}, {"strips", 2.01}}) {
    Knobs knobs;
    knobs.set("layout", std::string(layout));
    setting.truths.push_back({"plain", [ms = ms](double) { return ms; }, knobs});
  }
  const TunedAt at = tuned(made::study_of(setting), {}, {"layout"}).places.at(0);
  EXPECT_FALSE(at.plateau);
  int as_good = 0;
  for (const TunedValue& one : at.values) as_good += one.is_as_good;
  EXPECT_EQ(as_good, 2);
}

}  // namespace
}  // namespace mileage
