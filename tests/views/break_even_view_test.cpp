#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

Json break_even_json_of(const Report& report) {
  return made::json_of(break_even_view(report.about, report.break_evens));
}

std::string break_even_verdict_of(const Report& report) {
  return break_even_sentence(report.about, report.break_evens);
}

std::string break_even_text_of(const Report& report) {
  return answer_text(break_even_view(report.about, report.break_evens));
}

TEST(BreakEvenView, NamesBothSides) {
  const Report report = made::known_report();
  EXPECT_THAT(break_even_verdict_of(report),
              testing::MatchesRegex("Switch from objects to columns at [0-9.k]+ lanterns[.] columns "
                                    "overtakes objects at [0-9.k]+ lanterns[.]"));
  const Json json = break_even_json_of(report);
  ASSERT_EQ(json["crossings"].size(), 1U);
  EXPECT_EQ(json["crossings"][0]["faster_below"], "objects");
  EXPECT_EQ(json["crossings"][0]["faster_above"], "columns");
  EXPECT_TRUE(json["no_crossing"].empty());
}

TEST(BreakEvenView, InsideAJumpItIsBetweenTwoCounts) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }},
                    {"columns", [](double n) { return (n < 2500 ? 6e-4 : 2e-3) * n; }}};
  setting.counts = {100, 300, 1000, 1500, 2000, 3000, 4000, 6000};
  setting.run_noise = 0.01;
  EXPECT_THAT(break_even_verdict_of(report_of(made::study_of(setting))),
              testing::EndsWith("objects overtakes columns between 2000 and 3000."));
}

TEST(BreakEvenView, TheyAreGivenForEachOfTheKindsToo) {
  const Json row = break_even_json_of(report_of(made::drawn_study(false)))["crossings"][0];
  EXPECT_THAT(row["divided"].get<std::string>(), testing::MatchesRegex("3[01][0-9] each of 4 kinds"));
}

TEST(BreakEvenView, APairThatDoesNotCrossSaysWhichIsFaster) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"columns", [](double n) { return 2.5e-4 * n; }}};
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.run_noise = 0.01;
  Report report = report_of(made::study_of(setting));
  EXPECT_THAT(break_even_text_of(report), testing::ContainsRegex("columns is faster throughout: 0[.]2.* of objects"));
  const Json json = break_even_json_of(report);
  EXPECT_EQ(json["no_crossing"][0]["faster"], "columns");
  ASSERT_EQ(json["pays_off"].size(), 1U);
  EXPECT_EQ(json["pays_off"][0]["switch_to"], "columns");
  EXPECT_EQ(json["pays_off"][0]["switch_from"], "objects");
  EXPECT_NEAR(json["pays_off"][0]["count"].get<double>(), 444, 30) << "0.333 ms of 0.75 us each";
  EXPECT_THAT(break_even_verdict_of(report),
              testing::MatchesRegex("Switch from objects to columns at 4[0-9]+ lanterns[.]"));
  EXPECT_THAT(break_even_text_of(report), HasSubstr("Pays off (saves more than 0.333 ms)"));
  PairAnswer& pair = report.break_evens.pairs[0].answer;
  pair.throughout = false;
  pair.clear.high = pair.clear.low;
  EXPECT_THAT(break_even_text_of(report), HasSubstr("columns is faster at 100: "));
}

TEST(BreakEvenView, APairThatSavesNothingPaysOffAtNoCount) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"same", [](double n) { return 1e-3 * n; }}};
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.run_noise = 0.001;
  const Report report = report_of(made::study_of(setting));
  const Json row = break_even_json_of(report)["pays_off"][0];
  EXPECT_TRUE(row["count"].is_null());
  EXPECT_EQ(row["count_interval_missing"], "no significant difference up to 10k");
  EXPECT_EQ(break_even_verdict_of(report), "No switch pays off at any count measured. The curves do not cross.");
}

TEST(BreakEvenView, APairMeasuredAtNoRangeInCommonIsUnknown) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"columns", [](double n) { return 1e-4 * n; }}};
  setting.counts = made::counts_between(100, 10'000, 8);
  Study study = made::study_of(setting);
  std::erase_if(study.runs,
                [](const mileage::Run& run) { return (run.count > 1000) == (run.series.variant == "objects"); });
  EXPECT_EQ(break_even_json_of(report_of(study))["pays_off"][0]["count_interval_missing"],
            "unknown: no range of lanterns in common");
}

TEST(BreakEvenView, TheVerdictNamesTheFirstThreeOfMany) {
  made::Setting setting;
  for (const auto& [name, each] : {std::pair{"a", 1e-3}, {"b", 5e-4}, {"c", 2e-4}, {"d", 1e-4}, {"e", 2e-5}})
    setting.truths.push_back({name, [each = each](double n) { return each * n; }});
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.run_noise = 0.002;
  const Report report = report_of(made::study_of(setting));
  ASSERT_EQ(report.break_evens.pairs.size(), 4U);
  EXPECT_THAT(break_even_verdict_of(report),
              testing::MatchesRegex("Switch from a to b at 6.* lanterns, from b to c at 1[.].*, "
                                    "from c to d at .*, 1 more[.]"));
}

}  // namespace
}  // namespace mileage
