#include "measure/loop/traces.h"

#include <gtest/gtest.h>

#include "measure/loop/range_finding.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

std::vector<mileage::Run> traced_in(const std::vector<mileage::Run>& runs) {
  std::vector<mileage::Run> traced;
  for (const mileage::Run& run : runs)
    if (run.status == RunStatus::traced) traced.push_back(run);
  return traced;
}

TEST(Traces, SoManyRunsOfEveryCellKeepTheirFrames) {
  PlanRequest request = scripted::counts({1000, 100'000});
  request.trace = 2;
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, request);
  find_ranges(*state);
  make_traces(*state);
  const std::vector<mileage::Run> traced = traced_in(state.runs());
  ASSERT_EQ(traced.size(), 8U);
  for (const mileage::Run& run : traced) {
    EXPECT_EQ(run.block, -1) << "no point of a curve";
    EXPECT_EQ(run.frames_per_sample, 1);
    EXPECT_GE(run.samples_ns.size(), 400U);
    EXPECT_TRUE(run.trace);
  }
}

TEST(Traces, NobodyAskedForThem) {
  scripted::ScriptedState state({{"objects", 50}}, scripted::counts({1000}));
  find_ranges(*state);
  make_traces(*state);
  EXPECT_TRUE(traced_in(state.runs()).empty());
}

/// Frames of 5 ms; 80 fit into the 0.4 s for traces.
PlanRequest short_study(int trace) {
  PlanRequest request = scripted::counts({100'000}, 0);
  request.trace = trace;
  request.time_s = 2;
  return request;
}

TEST(Traces, OfLongFramesThereAreFewerRuns) {
  scripted::ScriptedState state({{"objects", 50}}, short_study(3));
  find_ranges(*state);
  make_traces(*state);
  const std::vector<mileage::Run> traced = traced_in(state.runs());
  ASSERT_GE(traced.size(), 1U);
  EXPECT_LT(traced.size(), 3U);
  EXPECT_EQ(state->summary.untraced, 3 - traced.size());
  for (const mileage::Run& run : traced) EXPECT_GE(run.samples_ns.size(), 30U);
}

TEST(Traces, LongFramesGetFewerAndAtLastNone) {
  PlanRequest request = short_study(1);
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  make_traces(*state);
  ASSERT_EQ(traced_in(state.runs()).size(), 1U);
  EXPECT_LT(traced_in(state.runs())[0].samples_ns.size(), 100U);

  request.budget_ms = 1000;
  scripted::ScriptedState slow({{"objects", 500}}, request);
  find_ranges(*slow);
  make_traces(*slow);
  EXPECT_TRUE(traced_in(slow.runs()).empty());
  EXPECT_EQ(slow->summary.untraced, 1U);
}

}  // namespace
}  // namespace mileage
