#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

using made::flat;
using made::pairs_of;
using made::setting_of;
using made::steep;
using testing::HasSubstr;

double twice_crossing(double n) { return 1e-4 * n * (1 + 0.4 * std::cos(std::log10(n) * 2.4)); }

TEST(BreakEven, HasAPlaceADirectionAndAnEvenStretchAroundIt) {
  const auto pairs = pairs_of(setting_of({{"objects", steep}, {"columns", flat}}));
  ASSERT_EQ(pairs.size(), 1U);
  ASSERT_EQ(pairs[0].answer.break_evens.size(), 1U);
  const BreakEven& found = pairs[0].answer.break_evens[0];
  EXPECT_NEAR(found.at, 6250, 0.1 * 6250);
  EXPECT_EQ(found.faster_below, Side::one);
  ASSERT_TRUE(found.interval.closed());
  EXPECT_LT(*found.interval.low, 6250);
  EXPECT_GT(*found.interval.high, 6250);
  EXPECT_LE(*found.even.low, found.at);
  EXPECT_GE(*found.even.high, found.at);
}

TEST(BreakEven, SharedSlowdownsOfABlockDoNotWidenIt) {
  made::Setting setting = setting_of({{"objects", steep}, {"columns", flat}}, 0.01);
  setting.block_noise = 0.2;
  const BreakEven found = pairs_of(setting).at(0).answer.break_evens.at(0);
  EXPECT_LT(*found.interval.high / *found.interval.low, 1.2);
}

TEST(BreakEven, OfNearlyParallelCurvesHoldsTheTruth) {
  const auto nearly_parallel = [](double n) { return steep(n) * std::pow(5000 / n, 0.05); };
  int held = 0;
  int found = 0;
  for (std::uint64_t seed = 1; seed <= 40; ++seed) {
    made::Setting setting = setting_of({{"objects", steep}, {"columns", nearly_parallel}}, 0.07);
    setting.seed = seed;
    const auto pairs = pairs_of(setting);
    for (const BreakEven& one : pairs.at(0).answer.break_evens) {
      if (one.interval.low) EXPECT_GE(*one.interval.low, 100);
      if (one.interval.high) EXPECT_LE(*one.interval.high, 400'000);
      EXPECT_LE(*one.even.low, one.interval.low.value_or(100));
      const auto& worth = pairs.at(0).worth;
      const double mattering_from = worth ? worth->interval.high.value_or(400'000) : 400'000;
      EXPECT_GE(*one.even.high, one.interval.high.value_or(std::min(400'000.0, mattering_from)));
      ++found;
      held += one.interval.low.value_or(0) <= 5000 && one.interval.high.value_or(1e9) >= 5000;
    }
  }
  EXPECT_GT(found, 10);
  EXPECT_GE(held, found - found / 8);
}

TEST(BreakEven, TheOrderOfTheSeriesOnlyTurnsTheDirection) {
  const BreakEven turned =
      pairs_of(setting_of({{"columns", flat}, {"objects", steep}}, 0)).at(0).answer.break_evens.at(0);
  EXPECT_EQ(turned.faster_below, Side::other);
  EXPECT_NEAR(turned.at, 6250, 60);
}

TEST(BreakEven, ThereMayBeSeveral) {
  const auto pairs = pairs_of(setting_of({{"objects", steep}, {"columns", twice_crossing}}, 0.005));
  const auto& found = pairs.at(0).answer.break_evens;
  ASSERT_EQ(found.size(), 2U);  // Zeros of the cosine: 1,870 and 38,100.
  EXPECT_NEAR(found[0].at, 1870, 200);
  EXPECT_NEAR(found[1].at, 38'100, 4000);
  EXPECT_NE(found[0].faster_below, found[1].faster_below);
}

// Such as a 16-bit index that becomes a 32-bit one.
TEST(BreakEven, InsideAJumpIsBetweenTheCountsAroundIt) {
  const auto jumping = [](double n) { return n < 65'536 ? 0.8e-4 * n : 1.3e-4 * n; };
  made::Setting setting = setting_of({{"objects", steep}, {"narrow", jumping}}, 0.01);
  setting.counts = {10'000, 20'000, 30'000, 40'000, 50'000, 60'000, 70'000, 80'000, 100'000, 130'000};
  const PairAnswer answer = pairs_of(setting).at(0).answer;
  ASSERT_EQ(answer.break_evens.size(), 1U);
  const BreakEven& one = answer.break_evens.front();
  EXPECT_EQ(one.source, Source::step);
  EXPECT_EQ(one.interval.low, 60'000);
  EXPECT_EQ(one.interval.high, 70'000);
  EXPECT_GT(one.at, 60'000);
  EXPECT_LT(one.at, 70'000);
}

TEST(BreakEven, NoneWhereOneIsAlwaysCheaper) {
  const PairAnswer answer =
      pairs_of(setting_of({{"objects", steep}, {"columns", [](double n) { return steep(n) / 4; }}})).at(0).answer;
  EXPECT_TRUE(answer.break_evens.empty());
  ASSERT_TRUE(answer.faster);
  EXPECT_EQ(*answer.faster, Side::other);
  EXPECT_TRUE(answer.throughout);
  EXPECT_NEAR(answer.share_at_lower, 0.25, 0.02);
  EXPECT_NEAR(answer.share_at_upper, 0.25, 0.02);
}

}  // namespace
}  // namespace mileage
