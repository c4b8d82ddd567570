#include "analysis/model/draws.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/model/model_studies.h"
#include "analysis/curves/drawn.h"

namespace mileage {
namespace {

using made::rows_of;
using made::two_lines;

Drawn cost_of(const std::vector<ModelRow>& rows, double count) {
  return draw_curves(JointFit(rows), {{std::log(count)}, {}})[0].col(0).array().exp();
}

double half_width(const Drawn& drawn) {
  const Interval interval = interval_of(drawn);
  return std::log(*interval.high / *interval.low) / 2;
}

TEST(Draws, TheSameSeedGivesTheSameCurves) {
  const JointFit fit(rows_of(two_lines()));
  const std::vector<std::vector<double>> places{{5, 8, 11}, {5, 8}};
  EXPECT_EQ(draw_curves(fit, places)[1], draw_curves(fit, places)[1]);
  EXPECT_NE(draw_curves(fit, places, 1000, 2)[1], draw_curves(fit, places)[1]);
}

TEST(Draws, GoThroughTheRunsAndAreWideBetweenThem) {
  const std::vector<ModelRow> rows = rows_of(two_lines());
  EXPECT_NEAR(middle_of(cost_of(rows, 10'000)), 1, 0.02);
  EXPECT_GT(half_width(cost_of(rows, 5500)), half_width(cost_of(rows, 10'000)));
  EXPECT_GT(half_width(cost_of(rows, 400'000)), 2 * half_width(cost_of(rows, 100'000))) << "beyond the largest count";
}

TEST(Draws, AreOfAMachineAtFullSpeed) {
  made::RowSetting setting = two_lines();
  setting.slowdown = [](int run) { return 0.12 * (run % 6); };
  const Drawn mixed = cost_of(rows_of(setting), 10'000);
  EXPECT_NEAR(middle_of(mixed), 1, 0.06);
  setting.slowdown = [](int run) { return 0.5 + 0.02 * (run % 6); };
  const Drawn slow = cost_of(rows_of(setting), 10'000);
  EXPECT_LT(*interval_of(slow).low, 1);
  EXPECT_GT(*interval_of(slow).high, 1);
  EXPECT_GT(half_width(slow), 2 * half_width(mixed)) << "no run shows the full speed";
}

TEST(Draws, AreOfAMachineOnWhichNothingWaits) {
  std::vector<ModelRow> rows = rows_of(two_lines());
  const double undisturbed = half_width(cost_of(rows, 10'000));
  for (ModelRow& row : rows) {
    row.waiting = 0.4;
    row.log_ms += 0.15 * row.waiting;
  }
  const Drawn waiting = cost_of(rows, 10'000);
  EXPECT_NEAR(middle_of(waiting), 1, 0.04) << "6 % slower as measured";
  EXPECT_GT(half_width(waiting), 1.5 * undisturbed) << "no run shows frames that do not wait";
}

TEST(Draws, AStepIsAnywhereInItsGap) {
  made::RowSetting setting = two_lines();
  setting.counts = {100, 200, 400, 800, 1600, 3200, 6400, 12'800, 25'600, 51'200};
  setting.ms[0] = [](double n) { return 1e-4 * n * (n > 5000 ? 1.4 : 1); };
  const std::vector<ModelRow> rows = rows_of(setting);
  EXPECT_LT(half_width(cost_of(rows, 2300)), 0.05);
  EXPECT_GT(half_width(cost_of(rows, 4500)), 0.15);
}

TEST(Draws, OfMeansOfRunsAreThoseOfTheRuns) {
  made::RowSetting setting = two_lines();
  setting.blocks = 60;  // 840 rows
  setting.slowdown = [](int run) { return 0.12 * (run % 6); };
  const std::vector<ModelRow> rows = rows_of(setting);
  const JointFit means(rows);
  ASSERT_LE(means.inputs().size(), 600);
  const Drawn of_means = draw_curves(means, {{std::log(10'000)}, {}})[0].col(0).array().exp();
  const std::vector<ModelRow> first(rows.begin(), rows.begin() + 560);
  const Drawn of_runs = cost_of(first, 10'000);
  EXPECT_NEAR(middle_of(of_means), middle_of(of_runs), 0.02);
  EXPECT_NEAR(half_width(of_means) / half_width(of_runs), 1, 0.35);
}

}  // namespace
}  // namespace mileage
