#include "measure/loop/checking.h"

#include <set>

#include <gtest/gtest.h>

#include "measure/loop/check_plan.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

TEST(Checking, MakesTheChecksOfThePlan) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100, 1000}));
  check_outcomes(*state);
  EXPECT_EQ(state.visits().size(), checks_of(state.head.scenario, state.head.plan).size());
  for (const Visit& visit : state.visits()) {
    EXPECT_EQ(visit.status, VisitStatus::check);
    EXPECT_EQ(visit.block, -1);
  }
}

TEST(Checking, AWorldTooDearForTheTimeIsMadeSmaller) {
  PlanRequest request = scripted::counts({10, 2000}, 0);
  request.time_s = 10;  // a tenth of it for checks; twenty frames of 2,000 take 40 s
  scripted::ScriptedState state({{"objects", 1'000'000}, {"columns", 1'000'000}}, request);
  check_outcomes(*state);
  std::set<std::int64_t> counts;
  for (const Visit& visit : state.visits()) counts.insert(visit.count);
  EXPECT_EQ(counts, (std::set<std::int64_t>{10, 31, 125, 500, 2000})) << "until all of them fit";
}

TEST(Checking, StopsWhenAsked) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100, 1000}));
  state.watch.stop = [&] { return state.visits().size() >= 1; };
  check_outcomes(*state);
  EXPECT_EQ(state.visits().size(), 1U);
  EXPECT_TRUE(state->summary.stopped);
}

}  // namespace
}  // namespace mileage
