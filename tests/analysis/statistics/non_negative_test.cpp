#include "analysis/statistics/non_negative.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(NonNegativeLeastSquares, IsLeastSquaresWhereThatHasNoneBelowZero) {
  Eigen::MatrixXd terms(4, 2);
  terms << 1, 1, 1, 2, 1, 3, 1, 4;
  const Eigen::VectorXd found = non_negative_least_squares(terms, Eigen::Vector4d(5, 7, 9, 11));
  EXPECT_NEAR(found(0), 3, 1e-9);
  EXPECT_NEAR(found(1), 2, 1e-9);
}

TEST(NonNegativeLeastSquares, LeavesOutWhatWouldBeBelowZero) {
  Eigen::MatrixXd terms(3, 2);
  terms << 1, 1, 1, 2, 1, 3;
  const Eigen::VectorXd falling = non_negative_least_squares(terms, Eigen::Vector3d(3, 2, 1));
  EXPECT_NEAR(falling(0), 2, 1e-9) << "the mean";
  EXPECT_EQ(falling(1), 0);
  EXPECT_EQ(non_negative_least_squares(terms, Eigen::Vector3d(-1, -1, -1)), Eigen::Vector2d::Zero());
}

}  // namespace
}  // namespace mileage
