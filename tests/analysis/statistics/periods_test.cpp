#include "analysis/statistics/periods.h"

#include <gtest/gtest.h>

#include <random>

namespace mileage {
namespace {

/// Events at `every` from `first`, and random ones.
EventRun run_of(std::size_t length, double every, double first, double rate, unsigned seed) {
  std::mt19937 lot(seed);
  std::bernoulli_distribution by_lot(rate);
  std::vector<bool> is_event(length, false);
  for (double at = first; every > 0 && at < static_cast<double>(length); at += every)
    is_event[static_cast<std::size_t>(at)] = true;
  EventRun run{{}, length};
  for (std::size_t i = 0; i < length; ++i)
    if (is_event[i] || by_lot(lot)) run.at.push_back(i);
  return run;
}

TEST(Periods, OneIsFoundAmongRunsThatBeginAnywhere) {
  const auto period = period_of({run_of(400, 90, 17, 0, 1), run_of(400, 90, 61, 0, 2), run_of(400, 90, 3, 0, 3)});
  ASSERT_TRUE(period);
  EXPECT_NEAR(period->every, 90, 0.01);
  EXPECT_EQ(period->hits, period->due);
}

TEST(Periods, ADistanceThatIsNoWholeNumberDoesNotRunAway) {
  const auto period = period_of({run_of(1200, 37.4, 5, 0, 1)});
  ASSERT_TRUE(period);
  EXPECT_NEAR(period->every, 37.4, 0.1);
  EXPECT_EQ(period->hits, period->due);
}

TEST(Periods, AFewEventsBesidesDoNotHideIt) {
  int found = 0;
  for (unsigned seed = 0; seed < 20; ++seed) {
    const auto period = period_of(
        {run_of(400, 60, 17, 0.01, seed), run_of(400, 60, 41, 0.01, seed + 50), run_of(400, 60, 3, 0.01, 99)});
    found += period && std::abs(period->every - 60) < 1;
  }
  EXPECT_GE(found, 19);
}

TEST(Periods, EventsByLotHaveNone) {
  int claimed = 0;
  for (unsigned seed = 0; seed < 60; ++seed)
    claimed += period_of({run_of(400, 0, 0, 0.03, seed), run_of(400, 0, 0, 0.03, seed + 1000)}).has_value();
  EXPECT_LE(claimed, 1);
}

TEST(Periods, FewEventsTellOfNone) {
  EXPECT_FALSE(period_of({}));
  EXPECT_FALSE(period_of({{{}, 100}}));
  EXPECT_FALSE(period_of({{{10, 60}, 100}}));
}

}  // namespace
}  // namespace mileage
