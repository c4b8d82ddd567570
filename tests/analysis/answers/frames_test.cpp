#include "analysis/answers/frames.h"

#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"
#include "types/error.h"

namespace mileage {
namespace {

/// Every 90th frame takes 3x, all in one phase.
Study spiking_study(std::size_t every = 90) {
  made::Setting setting = made::setting_of({{"plain", made::steep}, {"spiking", made::steep}}, 0.01);
  setting.counts = {10'000, 100'000};
  setting.samples = 400;
  setting.frame_noise = 0.02;
  Study study = made::study_of(setting);
  std::size_t beginning = 0;
  for (mileage::Run& run : study.runs) {
    run.warmup_ns = {run.samples_ns[0] * 4, run.samples_ns[0] * 2, run.samples_ns[0]};
    if (run.series.variant != "spiking") continue;
    run.trace = Trace{};
    std::vector<std::int64_t>& glow = run.trace->phases_ns["glow"];
    beginning = (beginning + 37) % every;
    for (std::size_t i = 0; i < run.samples_ns.size(); ++i) {
      glow.push_back(run.samples_ns[i] / 2);
      if (i % every != beginning) continue;
      glow.back() += 2 * run.samples_ns[i];
      run.samples_ns[i] *= 3;
    }
  }
  return study;
}

FramesAnswer frames_of(const Study& study, std::vector<double> at = {}, std::vector<std::string> variants = {}) {
  const AnalysedStudy analysed(study, {.selection = {std::move(variants), {}, ""}});
  Questions questions;
  questions.at = std::move(at);
  return frames_answer(analysed.analysis(), questions);
}

TEST(Frames, ASpikeEverySoManyFramesIsFoundWithItsPhase) {
  const CellFrames cell = frames_of(spiking_study(), {10'000}, {"spiking"}).cells.at(0);
  EXPECT_EQ(cell.frames, 6 * 400U);
  EXPECT_NEAR(cell.spikes.a_thousand_frames, 1000.0 / 90, 1);
  EXPECT_NEAR(cell.spikes.times_around, 3, 0.2);
  ASSERT_TRUE(cell.spikes.period);
  EXPECT_NEAR(cell.spikes.period->every, 90, 0.1);
  ASSERT_EQ(cell.spikes.parts.front().phase, "glow");
  EXPECT_NEAR(cell.spikes.parts.front().share, 1, 0.05);
}

TEST(Frames, WithoutSpikesThereAreNone) {
  const CellFrames cell = frames_of(spiking_study(), {10'000}, {"plain"}).cells.at(0);
  EXPECT_EQ(cell.spikes.seen, 0U);
  EXPECT_FALSE(cell.spikes.period);
  EXPECT_EQ(cell.longest_run_over, 0U);
  EXPECT_NEAR(*cell.spikes.rate_interval.high, 1000 * 3.0 / 2400, 0.01) << "none in 2,400 frames";
  EXPECT_NEAR(*cell.share_over_interval.high, 3.0 / 2400, 1e-5);
}

/// Half speed for 40 frames.
TEST(Frames, ASlowStretchOfTheMachineIsNoSpike) {
  Study study = spiking_study();
  for (mileage::Run& run : study.runs)
    if (run.series.variant == "plain")
      for (std::size_t i = 100; i < 140; ++i) run.samples_ns[i] *= 2;
  EXPECT_EQ(frames_of(study, {10'000}, {"plain"}).cells.at(0).spikes.seen, 0U);
}

TEST(Frames, FramesOverTheBudgetAreCountedWithTheirLongestRun) {
  Study study = spiking_study();
  for (mileage::Run& run : study.runs)
    if (run.series.variant == "plain")
      for (const std::size_t i : {10U, 11U, 12U, 200U}) run.samples_ns[i] = 20'000'000;
  const CellFrames cell = frames_of(study, {10'000}, {"plain"}).cells.at(0);
  EXPECT_EQ(cell.longest_run_over, 3U);
  EXPECT_DOUBLE_EQ(cell.share_over, 0.01);
  EXPECT_DOUBLE_EQ(cell.worst_ms, 20);
}

TEST(Frames, TheFirstFramesTellHowTheySettle) {
  const CellFrames cell = frames_of(spiking_study(), {10'000}, {"plain"}).cells.at(0);
  ASSERT_TRUE(cell.settling);
  EXPECT_FALSE(cell.settling->after_arrival);
  EXPECT_EQ(cell.settling->frames, 2) << "four times, twice, and then as always";
  EXPECT_NEAR(cell.settling->from_ms, 4, 0.3);
  EXPECT_NEAR(cell.beginning.at(1).typical_ms, 2, 0.2);
  EXPECT_EQ(cell.sorted_ms.size(), 400U);
}

TEST(Frames, ThePlaceIsTheNearestOrTheLargestWithinTheBudget) {
  EXPECT_EQ(frames_of(spiking_study(), {20'000}).cells.at(0).x, 10'000);
  EXPECT_EQ(frames_of(spiking_study()).cells.at(0).x, 100'000) << "10 ms of 16.7";
  EXPECT_EQ(frames_of(spiking_study()).cells.size(), 2U);
  EXPECT_THROW(frames_of(spiking_study(), {}, {"nobody"}), Error);
}

TEST(Frames, WorkIsSharedOutWorkerByWorker) {
  Study study = spiking_study();
  for (mileage::Run& run : study.runs) {
    double wall_ms = 0;
    for (const std::int64_t ns : run.samples_ns) wall_ms += static_cast<double>(ns) * 1e-6;
    // Two workers, busy for 0.8 and 0.4 of the time between 10 % and 90 %.
    run.work = WorkByWorker{{0.4 * wall_ms, 0.8 * wall_ms}, {40, 80}, {4, 8}, 0.3, 0.1 * wall_ms, 0.1 * wall_ms};
  }
  const CellFrames cell = frames_of(study, {10'000}, {"plain"}).cells.at(0);
  ASSERT_TRUE(cell.work);
  EXPECT_NEAR(cell.work->busy_ms.at(0), 0.8, 0.05) << "the busiest first";
  EXPECT_NEAR(cell.work->busy_ms.at(1), 0.4, 0.03);
  EXPECT_NEAR(*cell.work->idle_share, 0.25, 1e-6);
  EXPECT_NEAR(*cell.work->balance_saves_ms, 0.2, 0.02);
  EXPECT_NEAR(*cell.work->before_ms, 0.1, 0.01);
  EXPECT_EQ(cell.work->largest_ms, 0.3);
  EXPECT_FALSE(frames_of(spiking_study(), {10'000}, {"plain"}).cells.at(0).work);
}

TEST(Frames, SpansOfTracedRunsAreRows) {
  Study study = spiking_study();
  study.runs.front().trace = Trace{{}, {{3, 1, 100'000, 250'000, 64}}};
  const AnalysedStudy analysed(study);
  Questions questions;
  questions.at = {static_cast<double>(study.runs.front().count)};
  const FramesAnswer answer = frames_answer(analysed.analysis(), questions);
  const std::string csv = spans_csv(analysed.analysis(), answer);
  EXPECT_NE(csv.find(",3,1,0.100000,0.250000,64\n"), std::string::npos) << csv;
}

TEST(Frames, FramesTimedInRunsTellOfNoSingleOneUnlessTraced) {
  Study study = spiking_study();
  for (mileage::Run& run : study.runs)
    if (run.series.variant == "plain") run.frames_per_sample = 8;
  const CellFrames cell = frames_of(study, {10'000}, {"plain"}).cells.at(0);
  EXPECT_EQ(cell.frames, 0U);
  EXPECT_EQ(cell.frames_per_sample, 8);
  mileage::Run traced = study.runs.front();
  traced.frames_per_sample = 1;
  traced.status = RunStatus::traced;
  traced.block = -1;
  study.runs.push_back(traced);
  EXPECT_EQ(frames_of(study, {static_cast<double>(traced.count)}, {"plain"}).cells.at(0).frames, 400U);
}

}  // namespace
}  // namespace mileage
