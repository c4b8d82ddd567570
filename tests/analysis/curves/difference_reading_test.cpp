#include "analysis/curves/difference_reading.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/analysis.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

class DifferenceReading : public testing::Test {
 protected:
  DifferenceReading() {
    made::Setting setting;
    setting.truths = {{"objects", [](double n) { return 1e-4 * n; }},
                      {"columns", [](double n) { return 0.1 * std::pow(n / 1000, 0.5); }}};  // cross at 1,000
    setting.counts = {740, 860, 1000, 1160, 1350, 10'000};
    setting.run_noise = 0.01;
    study_ = made::study_of(setting);
    analysis_ = analyse(study_);
  }
  Pair pair() const { return {analysis_.curves[0], analysis_.curves[1]}; }

  Study study_;
  Analysis analysis_;
};

TEST_F(DifferenceReading, ReadsTheCrossingFromTheCountsAroundIt) {
  const Pair of_both = pair();
  const auto reading = WindowReading::of(of_both, {740, 1350});
  ASSERT_TRUE(reading);
  const auto crossing = reading->crossing(true);
  ASSERT_TRUE(crossing);
  EXPECT_NEAR(*crossing, 1000, 30);
  EXPECT_NEAR(reading->slope_at(1000), 0.5, 0.1);
  const Interval unclear = reading->not_clear(*crossing);
  EXPECT_LT(*unclear.low, 1000);
  EXPECT_GT(*unclear.high, 1000);
  EXPECT_FALSE(reading->crossing(false)) << "it goes the other way";
}

TEST_F(DifferenceReading, ItsWidthGrowsWhereTheTwoAreNearlyParallel) {
  const Pair of_both = pair();
  const auto reading = WindowReading::of(of_both, {740, 1350});
  EXPECT_NEAR(reading->expected_width(1000, 0.05) / reading->expected_width(1000, 0.5), 10, 1e-6);
}

TEST_F(DifferenceReading, AWindowOfOnePlaceReadsNothing) {
  const Pair of_both = pair();
  EXPECT_FALSE(WindowReading::of(of_both, {9000, 11'000}));
}

}  // namespace
}  // namespace mileage
