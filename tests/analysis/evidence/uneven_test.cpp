#include "analysis/evidence/uneven.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

template <class Frame>
mileage::Run run_of(Frame frame, std::size_t frames) {
  mileage::Run run;
  for (std::size_t i = 0; i < frames; ++i) run.samples_ns.push_back(std::llround(1e6 * frame(i)));
  return run;
}

template <class Frame>
Unevenness of_runs(Frame frame, std::size_t frames = 40, int frames_per_sample = 1) {
  mileage::Run run = run_of(frame, frames);
  run.frames_per_sample = frames_per_sample;
  std::vector<JudgedRun> judged(4);
  std::vector<const JudgedRun*> runs;
  for (JudgedRun& one : judged) {
    one.run = &run;
    one.x = 1000;
    runs.push_back(&one);
  }
  return unevenness_of(runs);
}

double every_second(std::size_t i) { return i % 2 == 0 ? 32 : 0.25; }

TEST(Unevenness, IsThatOfMostRuns) {
  EXPECT_EQ(of_runs([](std::size_t) { return 1.0; }), Unevenness::even);
  EXPECT_EQ(of_runs(every_second), Unevenness::mixed);
  EXPECT_EQ(of_runs([](std::size_t i) { return 1 + 0.1 * static_cast<double>(i); }), Unevenness::rising);
  EXPECT_EQ(of_runs([](std::size_t i) { return i == 7 ? 300.0 : 1.0; }, 200), Unevenness::even) << "one spike";
}

TEST(Unevenness, IsNotSeenInSamplesOfSeveralFramesNorInAFewFrames) {
  EXPECT_EQ(of_runs(every_second, 40, 8), Unevenness::even);
  EXPECT_EQ(of_runs(every_second, 4), Unevenness::even);
}

TEST(Unevenness, OfARunInFourIsLuck) {
  const mileage::Run even = run_of([](std::size_t) { return 1.0; }, 40), odd = run_of(every_second, 40);
  std::vector<JudgedRun> judged(4);
  std::vector<const JudgedRun*> runs;
  for (JudgedRun& one : judged) {
    one.run = &one == &judged.front() ? &odd : &even;
    runs.push_back(&one);
  }
  EXPECT_EQ(unevenness_of(runs), Unevenness::even);
}

Unevenness of_places(const std::vector<const mileage::Run*>& runs) {
  std::vector<JudgedRun> judged(runs.size());
  std::vector<const JudgedRun*> of_all;
  for (std::size_t i = 0; i < runs.size(); ++i) {
    judged[i].run = runs[i];
    judged[i].x = 1000 * static_cast<double>(i + 1);
    of_all.push_back(&judged[i]);
  }
  return unevenness_of(of_all);
}

TEST(Unevenness, OfTheOnlyRunOfAPlaceMustShowAtItsNeighboursToo) {
  const mileage::Run even = run_of([](std::size_t) { return 1.0; }, 40);
  const mileage::Run ramp = run_of([](std::size_t i) { return 1 + 0.1 * static_cast<double>(i); }, 40);
  EXPECT_EQ(of_places({&ramp}), Unevenness::rising) << "all that there is";
  EXPECT_EQ(of_places({&even, &ramp, &even}), Unevenness::even);
  EXPECT_EQ(of_places({&even, &ramp, &ramp, &ramp}), Unevenness::rising);
}

}  // namespace
}  // namespace mileage
