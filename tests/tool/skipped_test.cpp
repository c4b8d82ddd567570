#include "tool/skipped.h"

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

namespace mileage {
namespace {

using testing::HasSubstr;

Plan plan_of_three() {
  Plan plan;
  plan.series = {{"objects", {}}, {"columns", {}}, {"jobs", {}}};
  plan.counts = {1000, 5000, 20'000};
  return plan;
}

std::string skipped_text(const Summary& summary, const Plan& plan) {
  return fmt::format("{}", fmt::join(skipped_lines(summary, plan), "\n"));
}

TEST(Skipped, IsNamedWithTheReasonAndTheOptionThatKeepsIt) {
  Summary summary;
  summary.left_out = {{0, 20'000, LeftOutWhy::over_budget},
                      {1, 20'000, LeftOutWhy::over_budget},
                      {0, 5000, LeftOutWhy::others_say_more}};
  for (const std::int64_t count : plan_of_three().counts)
    summary.left_out.push_back({2, count, LeftOutWhy::outcome_differs});
  const std::string text = skipped_text(summary, plan_of_three());
  EXPECT_THAT(text, HasSubstr("skipped (wrong results): jobs at every count."));
  EXPECT_THAT(
      text,
      HasSubstr("skipped (far over the budget): objects, columns at 20k; --no-refine or a larger --budget keeps"));
  EXPECT_THAT(text, HasSubstr("objects at 5k; --no-refine keeps them."));
}

TEST(Skipped, ManyCountsAreNamedByTheirRange) {
  Plan plan = plan_of_three();
  plan.counts = {1, 2, 3, 4, 5, 6, 7};
  Summary summary;
  for (const std::int64_t count : {2, 3, 4, 5, 6}) summary.left_out.push_back({0, count, LeftOutWhy::not_reached});
  EXPECT_THAT(skipped_text(summary, plan), HasSubstr("objects at 5 of 7 counts from 2 to 6; a longer --time"));
  EXPECT_EQ(skipped_json(summary, plan)[0]["counts"].size(), 5U);
}

TEST(Skipped, IsInJson) {
  Summary summary;
  summary.left_out = {{0, 1000, LeftOutWhy::not_reached}, {1, 1000, LeftOutWhy::outcome_differs}};
  const Json json = skipped_json(summary, plan_of_three());
  ASSERT_EQ(json.size(), 2U);
  EXPECT_EQ(json[0]["series"], Json({"columns"}));
  EXPECT_TRUE(json[0]["kept_by"].is_null());
  EXPECT_EQ(json[1]["counts"], Json({1000}));
  EXPECT_EQ(json[1]["kept_by"], "a longer --time keeps them");
}

}  // namespace
}  // namespace mileage
