#include "measure/loop/study_state.h"

#include <stdexcept>

#include <gtest/gtest.h>

#include "measure/loop/placing.h"
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

/// A study of ten seconds, of which a visit may take one, on a machine that stands still for two in some visits.
class StandingStill : public testing::Test {
 protected:
  StandingStill() { state->costs[0][1000] = 0.05; }

  static PlanRequest ten_seconds() {
    PlanRequest request = scripted::counts({1000, 2000, 4000}, 0);
    request.time_s = 10;
    return request;
  }

  int visits_to_come = 0;  ///< That the machine stands still in.
  scripted::ScriptedState state{{{"objects",
                                  [this](std::int64_t count, std::int64_t) -> std::int64_t {
                                    if (visits_to_come == 0) return 50 * count;
                                    --visits_to_come;
                                    state.clock.pass(2'000'000'000);
                                    throw std::runtime_error("took longer than its limit");
                                  }}},
                                ten_seconds()};
  Progress progress;
  Order order{{"objects", {}}, {}, 2000, 0, VisitStatus::kept, 20, 0.1};
};

TEST_F(StandingStill, OnceIsNoLimitOfTheVisit) {
  visits_to_come = 1;
  EXPECT_EQ(state->visit(order, 0.1, progress).status, VisitStatus::kept);
  EXPECT_EQ(state.visits().size(), 2U);
  EXPECT_EQ(state.visits()[0].status, VisitStatus::failed);
  EXPECT_EQ(state->summary.made_again, 1U);
  EXPECT_TRUE(state->may_visit(0, 4000));
}

TEST_F(StandingStill, TwiceIsOne) {
  visits_to_come = 2;
  EXPECT_EQ(state->visit(order, 0.1, progress).status, VisitStatus::failed);
  EXPECT_EQ(state.visits().size(), 2U);
  EXPECT_EQ(state->summary.made_again, 0U);
  EXPECT_FALSE(state->may_visit(0, 2000));
  EXPECT_TRUE(state->may_visit(0, 1000));
}

TEST_F(StandingStill, AVisitThatWasForeseenToTakeLongIsNotMadeAgain) {
  visits_to_come = 1;
  EXPECT_EQ(state->visit(order, 0.3, progress).status, VisitStatus::failed);
  EXPECT_EQ(state.visits().size(), 1U);
  EXPECT_FALSE(state->may_visit(0, 2000));
}

TEST_F(StandingStill, NoVisitIsMadeAgainWhenTheTimeIsOver) {
  for (int made = 0; made < 5; ++made) {
    visits_to_come = 1;
    state->visit(order, 0.3, progress);
  }
  visits_to_come = 1;
  EXPECT_EQ(state->visit(order, 0.1, progress).status, VisitStatus::failed);
  EXPECT_EQ(state.visits().size(), 6U);
}

TEST_F(StandingStill, PlacingGoesOnToo) {
  visits_to_come = 1;
  EXPECT_TRUE(place_cell(*state, 0, 2000, progress));
  state->costs[0].clear();
  visits_to_come = 1;
  EXPECT_FALSE(place_cell(*state, 0, 4000, progress)) << "nothing is known of what it takes";
  EXPECT_FALSE(state->may_visit(0, 4000));
}

}  // namespace
}  // namespace mileage
