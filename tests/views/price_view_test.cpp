#include "views/price_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "views/choice_view.h"
#include "views/cost_view.h"
#include "views/known_report.h"

namespace mileage {
namespace {

About about_priced() {
  About about = report_of(made::drawn_study(false)).about;
  about.head.scenario.variants[0].lines = 42;
  about.head.scenario.variants[1].asks = "patience";
  return about;
}

TEST(PriceView, TellsWhatIsKnownOfEachVariantOnce) {
  const About about = about_priced();
  const TextTable table = price_table(about, {0, 1, 0});
  EXPECT_THAT(table.rows(), testing::ElementsAre(testing::ElementsAre(about.series[0].series.variant, "42", ""),
                                                 testing::ElementsAre(about.series[1].series.variant, "", "patience")));
  EXPECT_THAT(price_text(about, {1}),
              testing::AllOf(testing::HasSubstr("What each asks for"), testing::Not(testing::HasSubstr("42"))));
}

TEST(PriceView, SaysNothingWhereNobodySaidAnything) {
  const About about = report_of(made::drawn_study(false)).about;
  EXPECT_EQ(price_text(about, {0, 1}), "");
  Json json;
  add_price_json(json, about);
  EXPECT_TRUE(json["prices"].empty());
}

TEST(PriceView, StandsInTheAnswersOfCostAndChoose) {
  Report report = report_of(made::drawn_study(false));
  report.about = about_priced();
  Json costs, choices;
  add_cost_json(costs, report.about, report.costs);
  add_choice_json(choices, report.about, report.choices);
  for (const Json& json : {costs, choices}) {
    ASSERT_EQ(json["prices"].size(), 2U);
    EXPECT_EQ(json["prices"][0]["lines"], 42);
    EXPECT_EQ(json["prices"][1]["asks"], "patience");
    EXPECT_TRUE(json["prices"][1]["lines"].is_null());
  }
  EXPECT_THAT(cost_text(report.about, report.costs), testing::HasSubstr("patience"));
}

}  // namespace
}  // namespace mileage
