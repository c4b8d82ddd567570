#include "analysis/answers/goal.h"

#include <cmath>

#include <gtest/gtest.h>

#include "support/made_studies.h"

namespace mileage {
namespace {

/// Objects hold 10k at 10 ms; columns take 2 ms: break-even at 2k.
Study night(double run_noise) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"columns", [](double) { return 2.0; }}};
  setting.counts = made::counts_between(100, 30'000, 9);
  setting.blocks = 6;
  setting.run_noise = run_noise;
  Study study = made::study_of(setting);
  study.head.plan.budget_ms = 10;
  return study;
}

TEST(Reached, TakesTheWidestCapacityWithoutAGoal) {
  const Reached wide = reached(night(0.05), {});
  EXPECT_EQ(wide.figures, 1U);  // Columns never exceed the budget.
  ASSERT_TRUE(wide.half_width);
  EXPECT_GT(*wide.half_width, *reached(night(0.005), {}).half_width);
}

TEST(Reached, ReadsTheBudgetAndThePairOfTheGoal) {
  EXPECT_EQ(reached(night(0.02), {"capacity", 1, {}}).figures, 1U);
  EXPECT_EQ(reached(night(0.02), {"capacity", 30, {}}).figures, 1U);  // Extrapolated.
  EXPECT_EQ(reached(night(0.02), {"capacity", 0.01, {}}).figures, 0U);
  const Reached pair = reached(night(0.02), {"breakeven", 0, {"objects", "columns"}});
  EXPECT_EQ(pair.figures, 1U);
  EXPECT_GT(*pair.half_width, 0);
  EXPECT_LT(*pair.half_width, 0.1);
}

TEST(Reached, IsNothingWithoutRuns) { EXPECT_EQ(reached({}, {}).figures, 0U); }

}  // namespace
}  // namespace mileage
