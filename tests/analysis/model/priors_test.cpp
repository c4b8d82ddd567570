// Reasons of priors that no other answer shows: what the model expects before it sees a run.
#include "analysis/model/priors.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/model/draws.h"
#include "analysis/model/joint_fit.h"
#include "analysis/model/model_studies.h"
#include "analysis/curves/drawn.h"

namespace mileage {
namespace {

made::RowSetting doublings() {
  made::RowSetting setting = made::two_lines();
  setting.counts = {100, 200, 400, 800, 1600, 3200, 6400, 12'800, 25'600, 51'200};
  return setting;
}

/// Steps found in "objects" that take this many times as long from 5,000 on.
std::vector<ModelStep> steps_of(double times, made::RowSetting setting = doublings(), std::uint64_t seed = 1) {
  setting.ms[0] = [times](double n) { return 1e-4 * n * (n > 5000 ? times : 1); };
  return JointFit(rows_of(setting, seed)).steps();
}

TEST(Priors, OneProcessLeavesAnUncertaintyThatRunsDoNotReduce) {
  made::RowSetting setting = made::two_lines();
  setting.counts = {10'000};
  setting.blocks = 60;
  std::vector<ModelRow> rows = rows_of(setting);
  for (ModelRow& row : rows) row.process = row.series;
  for (ModelRow& row : rows) row.probes = ProbeRow{0, 15'000, 15'000, 15'000, 40, 15'000};
  const Drawn log_ms = draw_curves(JointFit(rows), {{std::log(10'000)}, {}})[0].col(0).array();
  const Interval interval = interval_of(log_ms);
  const double half_width = (*interval.high - *interval.low) / 2;
  EXPECT_GT(half_width, 0.020) << "processes differ by more than 1 %";
  EXPECT_LT(half_width, 0.034) << "and by less than 2 %";
}

TEST(Priors, OnlyAStepWithClearOddsIsOne) {
  EXPECT_EQ(steps_of(1.4).size(), 1U);
  EXPECT_TRUE(steps_of(1.2).empty());
  int found = 0;
  for (std::uint64_t seed = 1; seed <= 20; ++seed) found += !steps_of(1.3, doublings(), seed).empty();
  EXPECT_GT(found, 9);
  EXPECT_LT(found, 17);
}

TEST(Priors, WideGapsHideAnyShape) {
  made::RowSetting setting = made::two_lines();
  setting.counts = {300, 600, 1200, 2200, 11'000, 22'000, 44'000, 88'000};
  EXPECT_EQ(steps_of(3, setting).size(), 1U) << "a gap of a factor of 5";
  setting.counts = {250, 500, 1000, 1900, 13'300, 26'600, 53'200, 106'400};
  EXPECT_TRUE(steps_of(3, setting).empty()) << "a gap of a factor of 7";
}

TEST(Priors, AStepIsUsuallyBelowAHalf) {
  const JointFit with(rows_of([] {
    made::RowSetting setting = doublings();
    setting.ms[0] = [](double n) { return 1e-4 * n * (n > 5000 ? 1.4 : 1); };
    return setting;
  }()));
  const JointFit without(rows_of(doublings()));
  ASSERT_EQ(with.steps().size(), 1U);
  ASSERT_TRUE(without.steps().empty());
  const Eigen::Index last = with.inputs().size() - 2, before = last - 2;  // "objects" beyond the step
  const Eigen::MatrixXd of_step = with.covariance(with.hyper()) - without.covariance(with.hyper());
  const double sd = std::sqrt(of_step(last, before));
  EXPECT_GT(sd, std::log(1.2));
  EXPECT_LT(sd, std::log(1.5));
}

}  // namespace
}  // namespace mileage
