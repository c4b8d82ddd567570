#include "views/arrivals_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

const CapacityAnswer& capacities() { return made::known_report().capacities; }

ArrivalsAnswer known_arrivals() {
  const double budget_ms = capacities().budgets_ms.front();
  ArrivalsAnswer answer;
  answer.worst = {{0, budget_ms, 120'000, {100'000, 140'000}, 90'000, 100, 400'000, false},
                  {1, budget_ms, {}, {}, {}, 100, 400'000, false}};
  answer.sizes = {{0, 500, 110'000, 40, 3.5, {3, 4}, 2, 21.5}, {1, 500, 400'000, 1, 0.5, {}, {}, {}}};
  return answer;
}

TEST(ArrivalsView, SettledAndWorstFramesStandSideBySide) {
  const std::string text = arrivals_text(made::known_report().about, known_arrivals(), capacities());
  EXPECT_THAT(text, HasSubstr("objects            166k           120k  (100k to 140k)            90k"));
  EXPECT_THAT(text, HasSubstr("at least 400k"));
  EXPECT_THAT(text, HasSubstr("never"));
  EXPECT_THAT(text, testing::ContainsRegex("500 +110k +40 +3.50 ms \\(3.00 to 4.00\\)"));
  EXPECT_THAT(text, HasSubstr("2 frames, 21.5 ms"));
}

TEST(ArrivalsView, SettledFramesThatMayBeOverHoldAsLittleAsCapacitySays) {
  CapacityAnswer may_be_over = capacities();
  may_be_over.capacities[1].holds_at_least = 250'000;
  const std::string text = arrivals_text(made::known_report().about, known_arrivals(), may_be_over);
  EXPECT_THAT(text, testing::ContainsRegex("columns +at least 250k +at least 400k"));
}

TEST(ArrivalsView, NothingIsSaidWhereNobodyCame) {
  EXPECT_EQ(arrivals_text(made::known_report().about, {}, capacities()), "");
}

TEST(ArrivalsView, JsonHoldsBoth) {
  Json json;
  add_arrivals_json(json, made::known_report().about, known_arrivals());
  EXPECT_EQ(json["worst_frames"][0]["count"], 120'000);
  EXPECT_EQ(json["worst_frames"][0]["first_over"], 90'000);
  EXPECT_TRUE(json["worst_frames"][1]["count"].is_null());
  EXPECT_EQ(json["worst_frames"][1]["at_least"], 400'000);
  EXPECT_EQ(json["arrivals"][0]["arriving"], 500);
  EXPECT_EQ(json["arrivals"][0]["count"], 110'000);
  EXPECT_EQ(json["arrivals"][0]["adds_ms"], 3.5);
  EXPECT_TRUE(json["arrivals"][1]["settles_frames"].is_null());
}

}  // namespace
}  // namespace mileage
