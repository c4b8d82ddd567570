#include "mileage/types/outcome.h"

#include <cmath>
#include <limits>

#include <gtest/gtest.h>

namespace mileage {
namespace {

Outcome outcome_of(double height, double flicker) {
  Outcome outcome;
  outcome.state("mean height", height, 0.01);
  outcome.state("flicker", flicker, 0.1, 1.0);
  return outcome;
}

TEST(Outcome, IsWrittenInOneLineToo) {
  Outcome stated;
  stated.state("height", 2, 1e-3);
  stated.state("spread", 0.5, 1e-3, 1);
  const Outcome written{{"height", 2, 1e-3}, {"spread", 0.5, 1e-3, 1}};
  EXPECT_TRUE(disagreements(stated, written).empty());
  ASSERT_EQ(written.quantities().size(), 2U);
  EXPECT_EQ(written.quantities()[1].scale, 1);
}

TEST(Outcome, AgreesWithinItsTolerances) {
  EXPECT_TRUE(disagreements(outcome_of(100, 0), outcome_of(100.9, 0.09)).empty());
  EXPECT_TRUE(disagreements(outcome_of(-100, 0), outcome_of(-100.9, 0)).empty());
}

TEST(Outcome, NamesWhatDiffersWithBothValuesAndTheTolerance) {
  const auto differing = disagreements(outcome_of(100, 0), outcome_of(102, 0));
  ASSERT_EQ(differing.size(), 1U);
  EXPECT_EQ(differing[0].quantity, "mean height");
  EXPECT_EQ(differing[0].expected, 100);
  EXPECT_EQ(differing[0].found, 102);
  EXPECT_NEAR(differing[0].tolerance, 1.02, 1e-12);
}

TEST(Outcome, JudgesValuesNearZeroByTheirScale) {
  EXPECT_EQ(disagreements(outcome_of(1, 0), outcome_of(1, 0.2)).size(), 1U);
  EXPECT_TRUE(disagreements(outcome_of(1, 0), outcome_of(1, 0.05)).empty());
}

TEST(Outcome, NothingAgreesWithWhatIsNoNumber) {
  const double nan = std::nan("");
  const double inf = std::numeric_limits<double>::infinity();
  EXPECT_EQ(disagreements(outcome_of(nan, 0), outcome_of(nan, 0)).size(), 1U);
  EXPECT_EQ(disagreements(outcome_of(1, 0), outcome_of(inf, 0)).size(), 1U);
}

TEST(Outcome, MissingAndSurplusQuantitiesDisagree) {
  Outcome less;
  less.state("mean height", 1, 0.01);
  EXPECT_EQ(disagreements(outcome_of(1, 0), less).size(), 1U);
  EXPECT_EQ(disagreements(less, outcome_of(1, 0)).size(), 1U);
}

}  // namespace
}  // namespace mileage
