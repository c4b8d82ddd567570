#include "analysis/statistics/least_squares.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(LeastSquares, SolvesASmallSystem) {
  SmallSquare matrix(2, 2);
  matrix << 4, 1, 1, 3;
  SmallVector right(2);
  right << 1, 2;
  const SmallVector solution = solution_of(matrix, right);
  EXPECT_NEAR(solution(0), 1.0 / 11, 1e-15);
  EXPECT_NEAR(solution(1), 7.0 / 11, 1e-15);
}

TEST(LeastSquares, FitsALineThroughMorePointsThanItNeeds) {
  Eigen::MatrixXd matrix(4, 2);
  matrix << 1, 0, 1, 1, 1, 2, 1, 3;
  const LeastSquares fit(matrix);
  const Eigen::VectorXd first = fit(Eigen::Vector4d(1, 3, 5, 7));
  EXPECT_NEAR(first(0), 1, 1e-14);
  EXPECT_NEAR(first(1), 2, 1e-14);
  const Eigen::VectorXd second = fit(Eigen::Vector4d(0, 1, 1, 0));  // factors serve another target
  EXPECT_NEAR(second(0), 0.5, 1e-14);
  EXPECT_NEAR(second(1), 0, 1e-14);
}

TEST(LeastSquares, OfSolutionsThatAreEquallyGoodTheShortestIsTaken) {
  Eigen::MatrixXd differences(2, 2);
  differences << 1, -1, -1, 1;
  const Eigen::VectorXd solution = LeastSquares(differences)(Eigen::Vector2d(2, -2));
  EXPECT_NEAR(solution(0), 1, 1e-14);
  EXPECT_NEAR(solution(1), -1, 1e-14);
}

}  // namespace
}  // namespace mileage
