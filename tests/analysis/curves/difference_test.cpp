#include "analysis/curves/difference.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Difference, IsClearBeyondItsInterval) {
  EXPECT_TRUE((Difference{-0.3, 0.1, 5}.is_clear()));  // Student's t of four degrees of freedom: 2.78
  EXPECT_FALSE((Difference{-0.27, 0.1, 5}.is_clear()));
  EXPECT_FALSE((Difference{-0.3, 0.1, 5}.is_clear(20))) << "one of many verdicts";
}

TEST(Difference, TellsNothingWithoutAnInterval) {
  const Difference difference{-3, INFINITY, 2};
  EXPECT_FALSE(difference.is_clear());
  EXPECT_FALSE(difference.ratio_interval().low || difference.ratio_interval().high);
}

TEST(Difference, HasARatioInItsInterval) {
  const Difference difference{std::log(0.5), 0.1, 9};  // t of eight degrees of freedom: 2.306
  EXPECT_NEAR(difference.ratio(), 0.5, 1e-12);
  EXPECT_NEAR(*difference.ratio_interval().low, 0.5 * std::exp(-0.2306), 1e-4);
  EXPECT_NEAR(*difference.ratio_interval().high, 0.5 * std::exp(0.2306), 1e-4);
}

}  // namespace
}  // namespace mileage
