#include "measure/runners/prepared_program.h"

#include <signal.h>
#include <unistd.h>

#include <chrono>
#include <set>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "measure/runners/program_runner.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using testing::HasSubstr;

mileage::Run run_of(ProgramRunner& runner, const char* variant, double limit_s = 20) {
  return runner.run({"loaded", {variant, {}}, 1, 1, 5, 1}, limit_s);
}

double a_frame(const mileage::Run& run, const char* counter) {
  return run.counters.at(counter) / static_cast<double>(run.measured_frames());
}

struct Prepared {
  explicit Prepared(const ProgramLimits& limits = {}) : runner(MILEAGE_LOADING_PROGRAM, limits) { runner.describe(); }
  ProgramRunner runner;
};

TEST(PreparedProgram, LoadsOnceAndMakesEveryRunInACopy) {
  Prepared odd;
  std::set<double> loaders, makers;
  for (int i = 0; i < 3; ++i) {
    const mileage::Run run = run_of(odd.runner, "tells-processes");
    ASSERT_EQ(run.status, RunStatus::kept) << run.failure;
    loaders.insert(a_frame(run, "loaded by"));
    makers.insert(a_frame(run, "made by"));
  }
  EXPECT_EQ(loaders.size(), 1U) << "one process loaded";
  EXPECT_EQ(makers.size(), 3U) << "each run is a process of its own";
  EXPECT_EQ(makers.count(*loaders.begin()), 0U);
}

TEST(PreparedProgram, ACopyThatCrashesTakesNothingElseWithIt) {
  Prepared odd;
  const double loader = a_frame(run_of(odd.runner, "tells-processes"), "loaded by");
  const mileage::Run crashed = run_of(odd.runner, "crashes");
  EXPECT_EQ(crashed.status, RunStatus::failed);
  EXPECT_THAT(crashed.failure, HasSubstr("SIGSEGV"));
  const mileage::Run left = run_of(odd.runner, "leaves");
  EXPECT_THAT(left.failure, HasSubstr("exit code 3 before its record was complete"));
  EXPECT_THAT(run_of(odd.runner, "worker-throws").failure, HasSubstr("the wick of a worker is wet"));
  const mileage::Run after = run_of(odd.runner, "tells-processes");
  ASSERT_EQ(after.status, RunStatus::kept) << after.failure;
  EXPECT_EQ(a_frame(after, "loaded by"), loader) << "still the same process";
}

TEST(PreparedProgram, ACopyThatHangsIsEndedAndTheNextRunPreparesAnew) {
  Prepared odd;
  const mileage::Run run = run_of(odd.runner, "hangs", 0.7);
  EXPECT_EQ(run.status, RunStatus::failed);
  EXPECT_THAT(run.failure, HasSubstr("longer than its limit of 0.7 s"));
  EXPECT_EQ(run_of(odd.runner, "behaves").status, RunStatus::kept);
}

TEST(PreparedProgram, ACopyThatAllocatesWithoutEndIsEndedAtItsLimit) {
  Prepared odd({.memory_bytes = 100e6});
  const mileage::Run run = run_of(odd.runner, "allocates");
  EXPECT_EQ(run.status, RunStatus::failed);
  EXPECT_THAT(run.failure, HasSubstr("more memory than its limit of 0.1 GB"));
}

TEST(PreparedProgram, WhatACopyLeavesIsEndedToldAndHoldsNothingUp) {
  Prepared odd;
  for (const char* leaving : {"leaves-a-child", "leaves-a-session"}) {
    const mileage::Run run = run_of(odd.runner, leaving);
    EXPECT_EQ(run.status, RunStatus::kept);
    EXPECT_EQ(run.left_behind, 1) << leaving;
  }
  EXPECT_THAT(run_of(odd.runner, "leaves-a-session-and-crashes").failure, HasSubstr("SIGSEGV"));
  const mileage::Run after = run_of(odd.runner, "behaves");
  EXPECT_EQ(after.status, RunStatus::kept);
  EXPECT_EQ(after.left_behind, 0);
}

TEST(PreparedProgram, WhatCannotBePreparedFailsItsRunsWithTheReason) {
  Prepared odd;
  const mileage::Run run = odd.runner.run({"unloadable", {"behaves", {}}, 1, 1, 5, 1}, 20);
  EXPECT_EQ(run.status, RunStatus::failed);
  EXPECT_THAT(run.failure, HasSubstr("the level file is missing"));
}

TEST(PreparedProgram, PreparingHasItsOwnLimitAndIsNotTriedAgain) {
  Prepared odd({.preparing_s = 0.5});
  const auto start = std::chrono::steady_clock::now();
  for (int i = 0; i < 5; ++i)
    EXPECT_THAT(odd.runner.run({"endless", {"behaves", {}}, 1, 1, 5, 1}, 20).failure,
                HasSubstr("preparing took longer than its limit of 0.5 s"));
  EXPECT_LT(std::chrono::steady_clock::now() - start, std::chrono::seconds(3)) << "and is ended, though it blocks";
}

TEST(PreparedProgram, PreparingKeepsToTheLimitOfMemory) {
  Prepared odd({.memory_bytes = 100e6});
  EXPECT_THAT(odd.runner.run({"hoarding", {"behaves", {}}, 1, 1, 5, 1}, 20).failure,
              HasSubstr("more memory than its limit of 0.1 GB"));
  EXPECT_EQ(run_of(odd.runner, "behaves").status, RunStatus::kept) << "another scenario is not concerned";
}

TEST(PreparedProgram, GoesWithWhoAsked) {
  double loader = 0;
  {
    Prepared odd;
    loader = a_frame(run_of(odd.runner, "tells-processes"), "loaded by");
  }
  EXPECT_NE(::kill(static_cast<pid_t>(loader), 0), 0) << "the process that loaded is gone";
}

TEST(PreparedProgram, StudyTellsWhatCopiesShare) {
  const testing_support::ScratchFolder folder;
  const auto ran = testing_support::run_in(
      folder.path(), std::string("'") + MILEAGE_PROGRAM + "' measure --program '" + MILEAGE_LOADING_PROGRAM +
                         "' --scenario loaded --variants behaves --counts 1,2 --blocks 1 --output s.study.jsonl");
  EXPECT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("copies of one loaded process"));
}

}  // namespace
}  // namespace mileage
