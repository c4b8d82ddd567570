#include "measure/loop/study_state.h"

#include <gtest/gtest.h>

#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

TEST(StudyState, KnowsThePlaceOfASeriesInThePlan) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100}));
  EXPECT_EQ(state->index_of({"columns", {}}), 1U);
  EXPECT_EQ(state->costs.size(), 2U);
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

}  // namespace
}  // namespace mileage
