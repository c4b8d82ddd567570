#include "analysis/model/kernels.h"

#include <cmath>

#include <Eigen/Eigenvalues>
#include <gtest/gtest.h>

namespace mileage {
namespace {

std::vector<ModelRow> rows_of_two_series() {
  std::vector<ModelRow> rows;
  for (int i = 0; i < 24; ++i) {
    ModelRow row;
    row.series = i % 2;
    row.log_x = 4 + 0.37 * i;
    row.log_ms = row.log_x - 5;
    row.block = i / 8;
    row.order = i;
    row.waiting = 0.05 * (i % 4);
    rows.push_back(row);
  }
  return rows;
}

Inputs inputs_with_slowdowns() {
  const std::vector<ModelRow> rows = rows_of_two_series();
  LatentSlowdowns latent = latent_slowdowns(rows);
  for (Eigen::Index i = 0; i < latent.mean.size(); ++i) latent.mean(i) = 0.07 * static_cast<double>(i % 9);
  return inputs_of(rows, latent);
}

double smallest_eigenvalue(const Eigen::MatrixXd& matrix) {
  return Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(matrix).eigenvalues().minCoeff();
}

TEST(Kernels, EveryTermIsACovariance) {
  const Inputs inputs = inputs_with_slowdowns();
  const Terms terms = terms_of(inputs, inputs);
  for (const auto* term : {&terms.fixed, &terms.bend, &terms.response_count, &terms.drift, &terms.drift_variant}) {
    EXPECT_TRUE(term->isApprox(term->transpose()));
    EXPECT_GT(smallest_eigenvalue(*term), -1e-8 * term->diagonal().maxCoeff());
  }
}

TEST(Kernels, CurvesOfDifferentSeriesAreIndependent) {
  const Inputs inputs = inputs_with_slowdowns();
  const Terms terms = terms_of(inputs, inputs);
  EXPECT_EQ(terms.bend(0, 1), 0);
  EXPECT_NE(terms.bend(0, 2), 0);
  EXPECT_EQ(terms.drift_variant(0, 1), 0);
  EXPECT_GT(terms.drift(0, 1), 0) << "the machine drifts for all";
}

TEST(Kernels, TheResponseIsFlatterBeyondItsKneeAndNothingAtFullSpeed) {
  EXPECT_EQ(expected_response(0), 0);
  EXPECT_GT(expected_response(0.2) / 0.2, (expected_response(0.8) - expected_response(0.6)) / 0.2);
  EXPECT_EQ(response_covariance(0, 0.5), 0);
  const double near =
      response_covariance(0.5, 0.6) / std::sqrt(response_covariance(0.5, 0.5) * response_covariance(0.6, 0.6));
  const double far =
      response_covariance(0.05, 0.6) / std::sqrt(response_covariance(0.05, 0.05) * response_covariance(0.6, 0.6));
  EXPECT_GT(near, far) << "slow runs say little about runs that are hardly slow";
}

TEST(Kernels, PlacesOfCurvesAgreeWithRowsAtFullSpeed) {
  const std::vector<ModelRow> rows = rows_of_two_series();
  const Inputs inputs = inputs_of(rows, latent_slowdowns(rows));
  const CurvePlaces places{inputs.series, inputs.t};
  const Eigen::MatrixXd across = curve_covariance(places, places, 0.3);
  const Terms terms = terms_of(inputs, inputs);
  EXPECT_NEAR(across(2, 4), (terms.fixed + 0.09 * terms.bend)(2, 4), 0.02);
}

TEST(Kernels, AStepRaisesOneSeriesBeyondItsGap) {
  const CurvePlaces places{Eigen::ArrayXi::LinSpaced(4, 0, 0), Eigen::ArrayXd::LinSpaced(4, 0, 3)};
  EXPECT_EQ(above_step(places, {0, 1, 2, 0.3}), Eigen::Vector4d(0, 0, 1, 1));
  EXPECT_EQ(above_step(places, {1, 1, 2, 0.3}), Eigen::Vector4d::Zero());
}

TEST(Kernels, SomeRowsAreThoseRows) {
  const Inputs all = inputs_with_slowdowns(), some = all.of({1, 5});
  EXPECT_EQ(some.size(), 2);
  EXPECT_EQ(some.t(1), all.t(5));
  EXPECT_EQ(some.waiting(0), all.waiting(1));
  EXPECT_EQ(some.middle, all.middle);
}

}  // namespace
}  // namespace mileage
