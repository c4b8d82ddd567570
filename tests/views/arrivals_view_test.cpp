#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

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

std::string arrivals_text_of(const ArrivalsAnswer& arrivals, const CapacityAnswer& of) {
  return answer_text(arrivals_view(made::known_report().about, arrivals, of));
}

TEST(ArrivalsView, WarmedUpAndWorstFramesAreSideBySide) {
  const std::string text = arrivals_text_of(known_arrivals(), capacities());
  EXPECT_THAT(text, testing::ContainsRegex("objects +16[5-7]k +120k +100k to 140k +90k"));
  EXPECT_THAT(text, HasSubstr("more than 400k"));
  EXPECT_THAT(text, HasSubstr("never"));
  EXPECT_THAT(text, testing::ContainsRegex("500 +110k +40 +3.50 \\(3.00 to 4.00\\) +2.00 +21.5"));
}

TEST(ArrivalsView, WarmedUpFramesThatMayBeOverHoldAsLittleAsCapacitySays) {
  CapacityAnswer may_be_over = capacities();
  may_be_over.capacities[1].holds_at_least = 250'000;
  EXPECT_THAT(arrivals_text_of(known_arrivals(), may_be_over),
              testing::ContainsRegex("columns +more than 250k +more than 400k"));
}

TEST(ArrivalsView, NothingIsSaidWhereNothingArrived) { EXPECT_EQ(arrivals_text_of({}, capacities()), ""); }

TEST(ArrivalsView, JsonHoldsBoth) {
  const Json json = made::json_of(arrivals_view(made::known_report().about, known_arrivals(), capacities()));
  EXPECT_EQ(json["worst_frames"][0]["capacity_worst"], 120'000);
  EXPECT_EQ(json["worst_frames"][0]["first_over"], 90'000);
  EXPECT_TRUE(json["worst_frames"][1]["capacity_worst"].is_null());
  EXPECT_EQ(json["worst_frames"][1]["capacity_worst_missing"], "more than 400k");
  EXPECT_EQ(json["arrivals"][0]["arriving"], 500);
  EXPECT_EQ(json["arrivals"][0]["count"], 110'000);
  EXPECT_EQ(json["arrivals"][0]["adds_ms"], 3.5);
  EXPECT_TRUE(json["arrivals"][1]["warm_up_frames"].is_null());
}

}  // namespace
}  // namespace mileage
