#include "measure/loop/figures.h"

#include <algorithm>

#include <gtest/gtest.h>

#include "measure/loop/range_finding.h"
#include "measure/loop/rounds.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

using scripted::ScriptedState;

PlanRequest aiming(std::vector<std::int64_t> counts, const std::string& figure = "") {
  PlanRequest request = scripted::counts(std::move(counts));
  request.aim = true;
  request.goal.figure = figure;
  return request;
}

std::vector<Figure> figures_after_range_finding(ScriptedState& state) {
  find_ranges(*state);
  find_cells(*state);
  return figures_of(*state);
}

std::vector<double> places(const std::vector<Figure>& figures, Figure::Of of, FramesOf frames = FramesOf::typical) {
  std::vector<double> some;
  for (const Figure& figure : figures)
    if (figure.of == of && figure.frames == frames) some.push_back(figure.place());
  return some;
}

TEST(Figures, ACapacityIsWhereTheBudgetIsCrossed) {
  ScriptedState state({{"objects", 50}, {"columns", 10}}, aiming({10'000, 100'000}, "capacity"));
  const auto capacities = places(figures_after_range_finding(state), Figure::Of::capacity);
  ASSERT_EQ(capacities.size(), 2U);
  EXPECT_NEAR(capacities[0], 333'333, 10'000);
  EXPECT_NEAR(capacities[1], 1'666'667, 50'000);
}

// 50 ns each against 2 ms + 10 ns each: equal at 50,000; 0.33 ms faster from 58,333 on, slower below 41,667.
TEST(Figures, APairCrossesAndPaysOff) {
  PlanRequest request = aiming({1000, 5000, 20'000, 80'000, 200'000}, "breakeven");
  request.listed = true;
  ScriptedState state({{"objects", [](std::int64_t count, std::int64_t) { return 50 * count; }},
                       {"columns", [](std::int64_t count, std::int64_t) { return 2'000'000 + 10 * count; }}},
                      request);
  find_ranges(*state);
  find_cells(*state);
  make_rounds(*state);
  const std::vector<Figure> figures = figures_of(*state);
  const auto crossings = places(figures, Figure::Of::crossing);
  ASSERT_EQ(crossings.size(), 1U);
  EXPECT_NEAR(crossings[0], 50'000, 2000);
  auto pays_off = places(figures, Figure::Of::pays_off);
  ASSERT_EQ(pays_off.size(), 1U) << "columns from 58k on; objects are no longer better at the end";
  EXPECT_NEAR(pays_off[0], 58'333, 3000);
}

TEST(Figures, CostsAreForPlansWithoutOthers) {
  PlanRequest request = scripted::counts({100, 1000});
  request.precision = 0.05;
  ScriptedState state({{"objects", 1}}, request);
  const std::vector<Figure> figures = figures_after_range_finding(state);
  EXPECT_EQ(places(figures, Figure::Of::cost).size(), 2U);
  EXPECT_EQ(figures.size(), 2U) << "the budget is never crossed";
}

TEST(Figures, SlowFramesCrossTheBudgetEarlier) {
  PlanRequest request = aiming({10'000, 100'000, 200'000, 300'000}, "capacity");
  request.goal.for_99 = true;
  request.arrive = 5000;
  const scripted::FrameTimes with_spikes = [](std::int64_t count, std::int64_t frame) {
    return (frame % 20 == 10 ? 100 : 50) * count;
  };
  ScriptedState state({{"objects", with_spikes}}, request);
  find_ranges(*state);
  find_cells(*state);
  make_rounds(*state);
  const std::vector<Figure> figures = figures_of(*state);
  ASSERT_EQ(places(figures, Figure::Of::capacity, FramesOf::max).size(), 1U);
  EXPECT_NEAR(places(figures, Figure::Of::capacity, FramesOf::max)[0], 166'667, 10'000);
  ASSERT_EQ(places(figures, Figure::Of::capacity, FramesOf::worst).size(), 1U);
  EXPECT_NEAR(places(figures, Figure::Of::capacity, FramesOf::worst)[0], 233'333, 25'000);
}

TEST(Figures, TheLossByWhatIsUnknownIsLimitedAndByWhatIsKnownEnoughZero) {
  Figure figure;
  EXPECT_LT(loss_of(figure, 100), 0.36);
  EXPECT_GT(loss_of(figure, 0.02), loss_of(figure, 0.01));
  EXPECT_NEAR(loss_of(figure, 1e-6), 1e-3, 1e-5);
  figure.enough_sd = 0.1;
  EXPECT_EQ(loss_of(figure, 0.01), 0);
}

}  // namespace
}  // namespace mileage
