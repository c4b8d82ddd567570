#include "analysis/model/latent_slowdown.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

constexpr double full_ns = 15'000;

ModelRow row_at(double slowdown, double halves_differ = 0, double moments = 20) {
  ModelRow row;
  row.log_ms = std::log(2);
  const double mean_ns = full_ns * std::exp(slowdown);
  row.probes = ProbeRow{0,
                        mean_ns * std::exp(halves_differ / 2),
                        mean_ns * std::exp(-halves_differ / 2),
                        full_ns * std::exp(slowdown / 2),
                        moments,
                        full_ns};
  return row;
}

/// Half of the runs are fast.
std::vector<ModelRow> rows_with(const ModelRow& one) {
  std::vector<ModelRow> rows{one};
  for (int i = 0; i < 20; ++i) rows.push_back(row_at(0.01 * (i % 3), 0.02));
  for (int i = 0; i < 10; ++i) rows.push_back(row_at(0.1 * (i % 5), 0.1));
  return rows;
}

TEST(LatentSlowdowns, WithoutProbesNothingIsKnown) {
  const LatentSlowdowns latent = latent_slowdowns(std::vector<ModelRow>(3));
  EXPECT_EQ(latent.mean, Eigen::VectorXd::Zero(3));
  EXPECT_EQ(latent.full_speed_sd, 0);
}

TEST(LatentSlowdowns, ARunAtHalfSpeedIsKnownAsOne) {
  const LatentSlowdowns latent = latent_slowdowns(rows_with(row_at(0.6, 0.02, 200)));
  EXPECT_NEAR(latent.mean(0), 0.6, 0.05);
  EXPECT_LT(std::sqrt(latent.variance(0)), 0.1);
}

TEST(LatentSlowdowns, FewProbesAreDrawnTowardsTheOtherRuns) {
  const LatentSlowdowns few = latent_slowdowns(rows_with(row_at(0.5, 0.1, 2)));
  const LatentSlowdowns many = latent_slowdowns(rows_with(row_at(0.5, 0.1, 500)));
  EXPECT_LT(few.mean(0), many.mean(0));
  EXPECT_GT(few.variance(0), 2 * many.variance(0));
}

TEST(LatentSlowdowns, AStudyThatIsSlowThroughoutIsMeasuredByTheRememberedSpeed) {
  std::vector<ModelRow> rows;
  for (int i = 0; i < 30; ++i) {
    rows.push_back(row_at(0.4 + 0.002 * i, 0.05));
    rows.back().probes->fast_ns = full_ns * std::exp(0.35 + 0.002 * i);
  }
  const LatentSlowdowns latent = latent_slowdowns(rows);
  EXPECT_NEAR(latent.mean.mean(), 0.43, 0.04);
  for (ModelRow& row : rows) row.probes->remembered_ns.reset();
  const LatentSlowdowns unknown = latent_slowdowns(rows);
  EXPECT_LT(unknown.mean.mean(), 0.15) << "its fastest runs are all that is known";
}

TEST(LatentSlowdowns, FullSpeedIsBetweenWhatIsRememberedAndWhatTheStudyShows) {
  const auto mean_with = [](double remembered) {
    std::vector<ModelRow> rows = rows_with(row_at(0.2, 0.05));
    for (ModelRow& row : rows) row.probes->remembered_ns = full_ns * remembered;
    return latent_slowdowns(rows).mean.mean();
  };
  EXPECT_GT(mean_with(0.97), mean_with(1) + 0.005);
  EXPECT_LT(mean_with(0.97), mean_with(1) + 0.03) << "remembered 3 % faster, which may be an error";
  EXPECT_NEAR(mean_with(1.1), mean_with(1.05), 0.003) << "what the study shows is faster: no full speed is slower";
}

}  // namespace
}  // namespace mileage
