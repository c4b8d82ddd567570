#include "analysis/model/joint_fit.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/model/draws.h"
#include "analysis/model/model_studies.h"
#include "analysis/curves/drawn.h"

namespace mileage {
namespace {

using made::rows_of;
using made::two_lines;

TEST(JointFit, TheGradientIsThatOfTheLogPosterior) {
  made::RowSetting setting = two_lines();
  setting.slowdown = [](int run) { return 0.1 * (run % 5); };
  const JointFit fit(rows_of(setting));
  const HyperVector at = fit.hyper() + HyperVector::Constant(0.2);
  HyperVector gradient;
  fit.log_posterior(at, &gradient);
  for (int i = 0; i < hyper_count; ++i) {
    HyperVector by = HyperVector::Zero();
    by(i) = 1e-4;
    const double slope = (fit.log_posterior(at + by) - fit.log_posterior(at - by)) / 2e-4;
    EXPECT_NEAR(gradient(i), slope, 1e-3 * (1 + std::fabs(slope))) << i;
  }
}

TEST(JointFit, HyperparametersAreAtAMaximum) {
  const JointFit fit(rows_of(two_lines()));
  for (int i = 0; i < hyper_count; ++i)
    for (const double away : {-0.5, 0.5}) {
      HyperVector by = HyperVector::Zero();
      by(i) = away;
      EXPECT_LT(fit.log_posterior(fit.hyper() + by), fit.log_posterior(fit.hyper()) + 0.3) << i;
    }
}

TEST(JointFit, NoiseIsThatOfTheRuns) {
  made::RowSetting setting = two_lines();
  for (const double noise : {0.01, 0.05}) {
    setting.noise = noise;
    EXPECT_NEAR(std::exp(JointFit(rows_of(setting)).hyper()(noise_sd)), noise, 0.4 * noise);
  }
}

double cost_at_10k(const std::vector<ModelRow>& rows) {
  return std::exp(middle_of(draw_curves(JointFit(rows), {{std::log(10'000)}, {}})[0].col(0)));
}

TEST(JointFit, OneRunThatTookTwiceAsLongMovesNothing) {
  std::vector<ModelRow> rows = rows_of(two_lines());
  const double before = cost_at_10k(rows);
  for (ModelRow& row : rows)
    if (row.series == 0 && row.block == 2 && std::fabs(row.log_x - std::log(10'000)) < 0.01) row.log_ms += std::log(2);
  EXPECT_NEAR(cost_at_10k(rows) / before, 1, 0.01);
}

TEST(JointFit, FindsAStepWhereThereIsOneAndNoneElsewhere) {
  made::RowSetting setting = two_lines();
  setting.counts = {100, 200, 400, 800, 1600, 3200, 6400, 12'800, 25'600, 51'200};
  EXPECT_TRUE(JointFit(rows_of(setting)).steps().empty());
  setting.ms[0] = [](double n) { return 1e-4 * n * (n > 5000 ? 1.4 : 1); };
  const std::vector<ModelStep> steps = JointFit(rows_of(setting)).steps();
  ASSERT_EQ(steps.size(), 1U);
  EXPECT_EQ(steps[0].series, 0);
  EXPECT_NEAR(steps[0].rise, std::log(1.4), 0.08);
}

TEST(JointFit, ManyRowsAreFittedToPartOfThem) {
  made::RowSetting setting = two_lines();
  setting.blocks = 11;
  const JointFit part(rows_of(setting));  // 154 rows
  setting.blocks = 30;
  const JointFit all(rows_of(setting));
  EXPECT_EQ(all.inputs().size(), 420);
  EXPECT_NEAR(all.hyper()(noise_sd), part.hyper()(noise_sd), 0.2);
  setting.blocks = 300;
  EXPECT_LE(JointFit(rows_of(setting)).inputs().size(), 600) << "4,200 runs are averaged within cells";
}

TEST(JointFit, OneRowIsEnough) {
  ModelRow row;
  row.log_x = 5;
  row.log_ms = 1;
  EXPECT_NEAR(middle_of(draw_curves(JointFit({row}), {{5}})[0].col(0)), 1, 0.08);
}

}  // namespace
}  // namespace mileage
