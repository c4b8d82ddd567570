#include "measure/loop/aiming.h"

#include <algorithm>
#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

Scenario night() {
  Scenario scenario;
  scenario.name = "night";
  scenario.variants = {{"objects", "", {}, ""}, {"records", "", {}, ""}, {"columns", "", {}, ""}};
  return scenario;
}

Plan plan_of(std::vector<Series> series) {
  Plan plan;
  plan.series = std::move(series);
  plan.budget_ms = 10;
  return plan;
}

TEST(Aims, AreCapacitiesAndNeighbouringPairsWithoutAGoal) {
  const auto aims = aims_of(night(), plan_of({{"objects", {}}, {"records", {}}, {"columns", {}}}));
  ASSERT_EQ(aims.size(), 5U);
  EXPECT_EQ(aims[0].budget_ms, 10);
  EXPECT_EQ(aims[3].series, 0U);
  EXPECT_EQ(*aims[3].other, 1U);
  EXPECT_EQ(aims[4].series, 1U);
}

TEST(Aims, AreThoseOfTheGoal) {
  Plan plan = plan_of({{"objects", {}}, {"records", {}}, {"columns", {}}});
  plan.goal = {"capacity", 33, {}};
  for (const Aim& aim : aims_of(night(), plan)) EXPECT_EQ(aim.budget_ms, 33);
  plan.goal = {"breakeven", 0, {"objects", "columns"}};
  const auto aims = aims_of(night(), plan);
  ASSERT_EQ(aims.size(), 1U);
  EXPECT_TRUE(aims[0].concerns(0) && aims[0].concerns(2) && !aims[0].concerns(1));
}

TEST(Aims, NeverPairWarmWithCold) {
  const auto aims = aims_of(night(), plan_of({{"objects", {}}, {"records", {}, 8e6}}));
  EXPECT_EQ(aims.size(), 2U);
}

TEST(RoughPlace, OfACapacityLiesBetweenTheCountsAroundTheBudget) {
  const Aim aim{0, {}, 10, {}};
  EXPECT_NEAR(*rough_place(aim, {{{100, 1}, {1000, 5}, {4000, 20}}}), 2000, 1e-6);
  EXPECT_FALSE(rough_place(aim, {{{100, 1}, {1000, 5}}}));
  EXPECT_FALSE(rough_place(aim, {{{100, 11}, {1000, 50}}}));
}

TEST(RoughPlace, OfABreakEvenNeedsARealDifferenceOnBothSides) {
  const Aim aim{0, 1, 0, {}};
  EXPECT_NEAR(*rough_place(aim, {{{100, 1}, {10'000, 4}}, {{100, 2}, {10'000, 2}}}), 1000, 1e-6);
  EXPECT_FALSE(rough_place(aim, {{{100, 1}, {10'000, 2.04}}, {{100, 2}, {10'000, 2}}}));
  EXPECT_FALSE(rough_place(aim, {{{100, 1}, {10'000, 4}}, {{200, 2}, {20'000, 2}}}));  // Nothing shared.
}

TEST(AimedCounts, StandAroundThePlace) {
  Aim aim{0, {}, 10, 1000, 1000};
  EXPECT_EQ(aimed_counts(aim), (std::vector<std::int64_t>{740, 860, 1000, 1160, 1350}));
  aim.counts_around = 3;
  EXPECT_EQ(aimed_counts(aim), (std::vector<std::int64_t>{820, 1000, 1220}));
  aim.counts_around = 2;
  EXPECT_EQ(aimed_counts(aim), (std::vector<std::int64_t>{820, 1220}));
  aim.counts_around = 1;
  EXPECT_EQ(aimed_counts(aim), (std::vector<std::int64_t>{1150})) << "above: below, the budget would not be crossed";
  aim.around = 900;
  EXPECT_EQ(aimed_counts(aim), (std::vector<std::int64_t>{1150})) << "it shares no place with another figure";
  EXPECT_EQ(aimed_counts({0, {}, 10, 1, 1}), (std::vector<std::int64_t>{1}));
}

/// From 0.8 to 1.6 ms per thousand.
AimPoints jumping_at(std::int64_t jump, const std::vector<std::int64_t>& counts) {
  AimPoints points;
  for (const std::int64_t count : counts)
    points[count] = {(count < jump ? 0.8e-3 : 1.6e-3) * static_cast<double>(count), 3};
  return points;
}

TEST(AimedCounts, GoIntoAJumpUntilItIsNarrow) {
  Aim aim{0, {}, 10, 9000, 9000};
  std::vector<std::int64_t> counts{5000, 6600, 7700, 9000, 10'400, 12'200};
  for (const std::int64_t expected : {9675, 9331, 9164}) {
    ASSERT_TRUE(aim_into_jump(aim, jumping_at(9200, counts)));
    EXPECT_NEAR(static_cast<double>(aim.in_jump.back()), static_cast<double>(expected), 2);
    counts.push_back(aim.in_jump.back());
  }
  EXPECT_FALSE(aim_into_jump(aim, jumping_at(9200, counts))) << "known within 2 %";
  const auto aimed = aimed_counts(aim);
  EXPECT_EQ(aimed.size(), 8U);
  EXPECT_TRUE(std::is_sorted(aimed.begin(), aimed.end()));
}

TEST(AimedCounts, StayWhereTheJumpIsElsewhere) {
  Aim aim{0, {}, 10, 12'500, 12'500};
  EXPECT_FALSE(aim_into_jump(aim, jumping_at(20'000, {9000, 11'000, 12'500, 14'000, 16'000, 19'000, 22'000, 25'000})));
  Aim of_two{0, 1, 0, 9000, 9000};
  AimPoints ratios;
  for (const std::int64_t count : {6600, 7700, 9000, 10'400, 12'200}) ratios[count] = {count < 9500 ? 0.8 : 1.3, 3};
  EXPECT_TRUE(aim_into_jump(of_two, ratios)) << "the ratio of two ways jumps over 1";
}

std::vector<Aim> placed(std::vector<Aim> aims) {
  choose_places(aims);
  return aims;
}

TEST(Places, AreWhereFiguresLie) {
  const auto aims = placed({{0, {}, 10, 1000}, {1, {}, 10, 4000}, {0, 1, 0, 1100}, {2, {}, 10, {}}});
  EXPECT_EQ(aims[0].around, 1000);
  EXPECT_EQ(aims[1].around, 4000);
  EXPECT_EQ(aims[2].around, 1100) << "a break-even shares none with a capacity";
}

TEST(Places, OfCapacitiesCloseToEachOtherAreOne) {
  const auto aims = placed({{0, {}, 10, 1210}, {1, {}, 10, 4000}, {2, {}, 10, 1000}});
  EXPECT_NEAR(aims[0].around, 1100, 1e-9);
  EXPECT_EQ(aims[2].around, aims[0].around);
  EXPECT_EQ(*aims[0].at, 1210);
  EXPECT_EQ(aims[1].around, 4000);
}

TEST(WellAimed, MeansInTheMiddleOfTheCounts) {
  Aim aim = placed({{0, {}, 10, 1000}}).front();
  EXPECT_TRUE(is_well_aimed(aim, 1150, {}));
  EXPECT_FALSE(is_well_aimed(aim, 1300, {}));
  EXPECT_FALSE(is_well_aimed(aim, 700, {}));
  EXPECT_FALSE(is_missed(aim, 1250));
  EXPECT_TRUE(is_missed(aim, 1400));
  EXPECT_TRUE(is_missed(aim, 700));
  aim.counts_around = 3;
  EXPECT_TRUE(is_missed(aim, 1300)) << "three counts do not reach as far";
  aim.counts_around = 1;
  EXPECT_FALSE(is_missed(aim, 900)) << "a single one stands at 1150";
  EXPECT_TRUE(is_missed(aim, 800));
  EXPECT_TRUE(is_missed(aim, 1120));
  EXPECT_FALSE(is_well_aimed(aim, 1120, {}));
}

TEST(WellAimed, ABreakEvenIsWhereNoDifferenceCanBeTold) {
  const Aim aim = placed({{0, 1, 0, 1000}}).front();
  const RoughCosts one{{100, 1}, {860, 10}, {1000, 11}, {1160, 12}, {2000, 30}};
  EXPECT_TRUE(is_well_aimed(aim, 1800, {one, {{100, 2}, {860, 9.6}, {1000, 11.5}, {1160, 11.9}, {2000, 20}}}));
  EXPECT_FALSE(is_well_aimed(aim, 1800, {one, {{100, 2}, {860, 12}, {1000, 13}, {1160, 14}, {2000, 20}}}));
  EXPECT_FALSE(is_well_aimed(aim, 1800, {one, {{100, 2}, {2000, 20}}})) << "nothing was measured there";
}

}  // namespace
}  // namespace mileage
