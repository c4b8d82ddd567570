#include "measure/loop/study_state.h"

#include <stdexcept>

#include <gtest/gtest.h>

#include "measure/loop/range_finding.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

TEST(StudyState, KnowsThePlaceOfASeriesInThePlan) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100}));
  EXPECT_EQ(state->index_of({"columns", {}}), 1U);
  EXPECT_EQ(state->known.size(), 2U);
}

TEST(StudyState, OnceStoppedItStaysStopped) {
  scripted::ScriptedState state({{"objects", 50}}, scripted::counts({100}));
  EXPECT_FALSE(state->is_stop_asked());
  bool stop = true;
  state.watch.stop = [&] { return stop; };
  EXPECT_TRUE(state->is_stop_asked());
  stop = false;
  EXPECT_TRUE(state->is_stop_asked());
  EXPECT_TRUE(state->summary.stopped);
}

/// Ten seconds, one per run, on a machine that stalls for two in some runs.
class StandingStill : public testing::Test {
 protected:
  StandingStill() { state->known[0].add(1000, {}, 0.05); }

  static PlanRequest ten_seconds() {
    PlanRequest request = scripted::counts({1000, 2000, 4000}, 0);
    request.time_s = 10;
    return request;
  }

  int runs_to_come = 0;  ///< During which the machine stalls.
  scripted::ScriptedState state{{{"objects",
                                  [this](std::int64_t count, std::int64_t) -> std::int64_t {
                                    if (runs_to_come == 0) return 50 * count;
                                    --runs_to_come;
                                    state.clock.pass(2'000'000'000);
                                    throw std::runtime_error("took longer than its limit");
                                  }}},
                                ten_seconds()};
  Progress progress;
  Order order{{"objects", {}}, {}, 2000, 0, RunStatus::kept, 20, 0.1};
};

TEST_F(StandingStill, OnceIsNoLimitOfTheRun) {
  runs_to_come = 1;
  EXPECT_EQ(state->run(order, 0.1, progress).status, RunStatus::kept);
  EXPECT_EQ(state.runs().size(), 2U);
  EXPECT_EQ(state.runs()[0].status, RunStatus::failed);
  EXPECT_EQ(state->summary.made_again, 1U);
  EXPECT_TRUE(state->may_run(0, 4000));
}

TEST_F(StandingStill, TwiceIsOne) {
  runs_to_come = 2;
  EXPECT_EQ(state->run(order, 0.1, progress).status, RunStatus::failed);
  EXPECT_EQ(state.runs().size(), 2U);
  EXPECT_EQ(state->summary.made_again, 0U);
  EXPECT_FALSE(state->may_run(0, 2000));
  EXPECT_TRUE(state->may_run(0, 1000));
}

TEST_F(StandingStill, ARunThatWasForeseenToTakeLongIsNotMadeAgain) {
  runs_to_come = 1;
  EXPECT_EQ(state->run(order, 0.3, progress).status, RunStatus::failed);
  EXPECT_EQ(state.runs().size(), 1U);
  EXPECT_FALSE(state->may_run(0, 2000));
}

TEST_F(StandingStill, NoRunIsMadeAgainWhenTheTimeIsOver) {
  for (int made = 0; made < 5; ++made) {
    runs_to_come = 1;
    state->run(order, 0.3, progress);
  }
  runs_to_come = 1;
  EXPECT_EQ(state->run(order, 0.1, progress).status, RunStatus::failed);
  EXPECT_EQ(state.runs().size(), 6U);
}

TEST_F(StandingStill, WhatNothingIsKnownOfIsNotMadeAgain) {
  state->known[0] = {};
  runs_to_come = 1;
  find_ranges(*state);
  EXPECT_FALSE(state->may_run(0, 1000));
}

}  // namespace
}  // namespace mileage
