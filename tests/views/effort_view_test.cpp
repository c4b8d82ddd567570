#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

About about_with_effort() {
  About about = report_of(made::drawn_study(false)).about;
  about.head.scenario.variants[0].lines = 42;
  about.head.scenario.variants[1].effort = "patience";
  return about;
}

TEST(EffortView, ListsEachVariantOnce) {
  const About about = about_with_effort();
  EXPECT_THAT(effort_table(about, {0, 1, 0}).shown().rows,
              testing::ElementsAre(testing::ElementsAre(about.series[0].series.variant, "42", ""),
                                   testing::ElementsAre(about.series[1].series.variant, "", "patience")));
}

TEST(EffortView, IsEmptyWhereNothingIsStated) {
  EXPECT_TRUE(effort_table(report_of(made::drawn_study(false)).about).empty());
}

TEST(EffortView, IsPartOfTheAnswersOfCostAndChoose) {
  Report report = report_of(made::drawn_study(false));
  report.about = about_with_effort();
  const Answer costs = cost_view(report.about, report.costs);
  for (const Json& json :
       {made::json_of(costs), made::json_of(choice_view(report.about, report.choices, report.capacities))}) {
    ASSERT_EQ(json["effort"].size(), 2U);
    EXPECT_EQ(json["effort"][0]["lines"], 42);
    EXPECT_EQ(json["effort"][1]["effort"], "patience");
    EXPECT_TRUE(json["effort"][1]["lines"].is_null());
  }
  EXPECT_THAT(answer_text(costs, true), testing::HasSubstr("patience"));
}

}  // namespace
}  // namespace mileage
