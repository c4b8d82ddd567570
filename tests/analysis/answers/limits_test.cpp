#include "analysis/answers/limits.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/answers/growth.h"
#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

using testing::Contains;
using testing::HasSubstr;

double wall_ms(const mileage::Run& run) {
  double sum = 0;
  for (const std::int64_t ns : run.samples_ns) sum += static_cast<double>(ns) * 1e-6;
  return sum;
}

/// Frames of 0.1 us per entity with these busy shares.
Study study_with(double thread, double cores) {
  Study study = made::study_of(made::setting_of({{"plain", made::steep}}, 0.01));
  study.head.machine.cores = 4;
  study.head.machine.memory_bytes = 8e9;
  study.head.machine.cache_bytes = {{"L1", 32e3}, {"L2", 1e6}};
  for (mileage::Run& run : study.runs) {
    run.thread_busy_ms = thread * wall_ms(run);
    run.processor_ms = cores * wall_ms(run);
  }
  return study;
}

LimitsAnswer limits_of(const Study& study, const Questions& questions = {}) {
  const AnalysedStudy analysed(study);
  const PartsAnswer parts = parts_answer(analysed.analysis());
  return limits_answer(analysed.analysis(), parts, growth_answer(analysed.analysis(), parts), questions);
}

const ResourceUse* use_of(const SeriesLimit& limit, Resource what) {
  for (const ResourceUse& use : limit.uses)
    if (use.what == what) return &use;
  return nullptr;
}

/// Bytes per entity and 2 MB in addition.
void give_memory(Study& study, double bytes_each) {
  for (mileage::Run& run : study.runs) {
    run.memory.empty_bytes = 2e6;
    run.memory.built_bytes = run.memory.peak_bytes = 2e6 + bytes_each * static_cast<double>(run.count);
  }
}

/// Two workers; the second does this share of the first's work.
void give_work(Study& study, double share) {
  for (mileage::Run& run : study.runs) {
    const double wall = wall_ms(run);
    run.work = WorkByWorker{{wall, share * wall}, {1, 1}, {1, 1}, 1, 0, 0};
  }
}

TEST(Limits, ABusyThreadAloneIsWhatEndsIt) {
  const SeriesLimit limit = limits_of(study_with(1, 1)).limits.at(0);
  EXPECT_EQ(limit.first, Resource::frame_thread);
  EXPECT_NEAR(*use_of(limit, Resource::frame_thread)->alone_at, 166'667, 5000);
  EXPECT_NEAR(*use_of(limit, Resource::all_cores)->alone_at, 4 * 166'667, 20'000) << "one core of four";
  EXPECT_THAT(limit.evidence, Contains(HasSubstr("main thread 100 % busy")));
}

TEST(Limits, AllCoresAre) {
  const SeriesLimit limit = limits_of(study_with(1, 3.8)).limits.at(0);
  EXPECT_EQ(limit.first, Resource::all_cores);
  EXPECT_NEAR(*use_of(limit, Resource::all_cores)->alone_at, 166'667 / 0.95, 6000);
}

TEST(Limits, ThreadsThatWaitDo) {
  EXPECT_EQ(limits_of(study_with(0.5, 0.5)).limits.at(0).first, Resource::waiting) << "a lock, or sleep";
}

TEST(Limits, OneSlowWorkerLetsTheOthersWait) {
  Study study = study_with(1, 2);
  give_work(study, 0.3);
  const SeriesLimit limit = limits_of(study).limits.at(0);
  EXPECT_EQ(limit.first, Resource::waiting);
  EXPECT_THAT(limit.evidence, Contains(HasSubstr("workers idle 35 %")));
  give_work(study, 0.95);
  EXPECT_EQ(limits_of(study).limits.at(0).first, Resource::inconclusive) << "two of four cores, evenly busy";
}

TEST(Limits, MemoryTrafficIsHeldAgainstABarePass) {
  Study study = study_with(1, 1);
  give_memory(study, 200);
  // 166,667 entities have 33 MB, read and written in 16.7 ms: 4 GB/s.
  study.head.machine.pass_bytes_per_s = {{"1", 4.4e9}, {"4", 9e9}};
  const SeriesLimit limit = limits_of(study).limits.at(0);
  EXPECT_EQ(limit.first, Resource::memory_traffic);
  EXPECT_NEAR(*use_of(limit, Resource::memory_traffic)->alone_at, 4.4e9 / 60 / 400, 5000);
  study.head.machine.pass_bytes_per_s = {{"1", 40e9}};
  EXPECT_EQ(limits_of(study).limits.at(0).first, Resource::frame_thread);
  study.head.machine.cache_bytes["L3"] = 1e9;
  EXPECT_EQ(use_of(limits_of(study).limits.at(0), Resource::memory_traffic), nullptr) << "it stays in the cache";
}

TEST(Limits, ACounterTellsTheBytes) {
  Study study = study_with(1, 1);
  study.head.machine.pass_bytes_per_s = {{"1", 4e9}};
  for (mileage::Run& run : study.runs)
    run.counters[bytes_counter] = 390.0 * static_cast<double>(run.count * run.measured_frames());
  EXPECT_EQ(limits_of(study).limits.at(0).first, Resource::memory_traffic);
}

TEST(Limits, ADeviceOrHandingWorkToItEndsWhatIsDrawn) {
  Study study = study_with(1, 1);
  study.head.scenario.variants.front().device = "a card, 1.0";
  for (mileage::Run& run : study.runs) run.phases_ms[wait_phase] = 0.9 * wall_ms(run);
  EXPECT_EQ(limits_of(study).limits.at(0).first, Resource::device);
  for (mileage::Run& run : study.runs)
    run.phases_ms = {{wait_phase, 0.1 * wall_ms(run)}, {"submit", 0.7 * wall_ms(run)}};
  EXPECT_EQ(limits_of(study).limits.at(0).first, Resource::submission);
}

TEST(Limits, WorkersThatCostMoreThanTheyBringMeetInMemory) {
  made::Setting setting = made::setting_of({}, 0.01);
  Knobs one, two;
  one.set("workers", 1.0);
  two.set("workers", 2.0);
  setting.truths = {{"jobs", made::steep, one}, {"jobs", [](double n) { return 0.95 * made::steep(n); }, two}};
  Study study = made::study_of(setting);
  study.head.machine.cores = 8;
  for (mileage::Run& run : study.runs) {
    const bool has_two = std::get<double>(run.series.knobs.values().at("workers")) == 2;
    run.thread_busy_ms = wall_ms(run);
    run.processor_ms = (has_two ? 2 : 1) * wall_ms(run);
  }
  EXPECT_EQ(limits_of(study).limits.at(1).first, Resource::memory_traffic);
}

TEST(Limits, NothingIsToldWhereNobodyTells) {
  Study study = study_with(1, 1);
  for (mileage::Run& run : study.runs) {
    run.thread_busy_ms.reset();
    run.processor_ms.reset();
  }
  const SeriesLimit limit = limits_of(study).limits.at(0);
  EXPECT_EQ(limit.first, Resource::inconclusive);
  EXPECT_TRUE(limit.uses.empty());
}

TEST(Limits, AKneeTellsHowMuchDearerEntitiesGetAndTheCacheTheyPass) {
  made::Setting setting =
      made::setting_of({{"plain", [](double n) { return 1e-5 * n + 2e-5 * std::max(0.0, n - 20'000); }}}, 0.003);
  Study study = made::study_of(setting);
  study.head.machine.cache_bytes = {{"L2", 1e6}};
  give_memory(study, 50);
  const SeriesLimit limit = limits_of(study).limits.at(0);
  EXPECT_THAT(
      limit.evidence,
      Contains(testing::ContainsRegex("(2.9|3.0|3.1).*x the slope above [0-9.]+k, where the world outgrows L2")));
}

TEST(Limits, AMemoryLimitHoldsSoMany) {
  Study study = study_with(1, 1);
  give_memory(study, 200);
  Questions questions;
  questions.memory_bytes = 12e6;
  EXPECT_NEAR(*limits_of(study, questions).memory.at(0).at, 50'000, 500);
  EXPECT_TRUE(limits_of(study).memory.empty());
}

TEST(Limits, ATickFallsBehindWhereItTakesLongerThanItself) {
  Questions questions;
  questions.tick_ms = 20;
  questions.spike_ms = 250;
  const TickLimit tick = limits_of(study_with(1, 1), questions).ticks.at(0);
  EXPECT_NEAR(*tick.keeps_up.at, 200'000, 4000);
  EXPECT_NEAR(*tick.spike_recovery.at, 150'000, 4000) << "a quarter of each tick has to be left";
  questions.spike_ms = 1000;
  EXPECT_FALSE(limits_of(study_with(1, 1), questions).ticks.at(0).spike_recovery.at);
}

}  // namespace
}  // namespace mileage
