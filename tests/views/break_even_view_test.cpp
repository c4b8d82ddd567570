#include "views/break_even_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "views/known_report.h"

namespace mileage {
namespace {

Json json_of(const Report& report) {
  Json json;
  add_break_even_json(json, report.about, report.break_evens);
  return json;
}

TEST(BreakEvenView, NamesBothSides) {
  const Report report = made::known_report();
  EXPECT_THAT(break_even_sentence(report.about, report.break_evens),
              testing::MatchesRegex("Break-even: columns beats objects from [0-9.k]+ lanterns on\\."));
  const Json json = json_of(made::known_report());
  ASSERT_EQ(json["break_evens"].size(), 1U);
  EXPECT_EQ(json["break_evens"][0]["cheaper_below"], "objects");
  EXPECT_EQ(json["break_evens"][0]["cheaper_above"], "columns");
  EXPECT_TRUE(json["none"].empty());
}

TEST(BreakEvenView, InsideAJumpItIsBetweenTwoCounts) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }},
                    {"columns", [](double n) { return (n < 2500 ? 6e-4 : 2e-3) * n; }}};
  setting.counts = {100, 300, 1000, 1500, 2000, 3000, 4000, 6000};
  setting.visit_noise = 0.01;
  const Report report = report_of(made::study_of(setting));
  EXPECT_EQ(break_even_sentence(report.about, report.break_evens),
            "Break-even: objects beats columns from somewhere between 2k and 3k lanterns on.");
  const TextTable table = break_even_table(report.about, report.break_evens);
  ASSERT_EQ(table.rows().size(), 1U);
  EXPECT_EQ(table.rows()[0][1], "between 2k and 3k");
  EXPECT_EQ(table.rows()[0][2], "where the cost jumps");
}

TEST(BreakEvenView, TheyAreGivenForEachOfTheKindsToo) {
  const Report report = report_of(made::drawn_study(false));
  const TextTable table = break_even_table(report.about, report.break_evens);
  ASSERT_EQ(table.rows().size(), 1U);
  EXPECT_EQ(table.headings().back(), "that is");
  EXPECT_THAT(table.rows()[0].back(), testing::MatchesRegex("3[01][0-9] each of 4 kinds"));
  const Json row = json_of(report)["break_evens"][0];
  EXPECT_NEAR(row["each"]["count"].get<double>(), row["count"].get<double>() / 4, 1);
}

TEST(BreakEvenView, APairWithoutOneSaysWhichIsCheaper) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"columns", [](double n) { return 2.5e-4 * n; }}};
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.visit_noise = 0.01;
  const Report report = report_of(made::study_of(setting));
  const auto lines = lines_without_break_even(report.about, report.break_evens);
  ASSERT_EQ(lines.size(), 1U);
  EXPECT_THAT(lines[0], testing::HasSubstr("objects and columns: columns is cheaper throughout; it takes 0.2"));
  BreakEvenAnswer at_one_place = report.break_evens;
  at_one_place.pairs[0].answer.clear.high = at_one_place.pairs[0].answer.clear.low;
  EXPECT_THAT(lines_without_break_even(report.about, at_one_place)[0],
              testing::MatchesRegex("objects and columns: .* it takes 0[.]2[0-9]+ of the time at 100"));
  const Json json = json_of(report);
  EXPECT_EQ(json["none"][0]["cheaper"], "columns");
  ASSERT_EQ(json["worth_from"].size(), 1U);
  EXPECT_EQ(json["worth_from"][0]["variant"], "columns");
  EXPECT_EQ(json["worth_from"][0]["instead_of"], "objects");
  EXPECT_NEAR(json["worth_from"][0]["count"].get<double>(), 444, 30) << "0.333 ms of 0.75 us each";
  EXPECT_THAT(break_even_sentence(report.about, report.break_evens),
              testing::MatchesRegex("No break-even among 1 pair in the measured range; worth it: columns instead of "
                                    "objects from 4[0-9]+ lanterns on\\."));
  const std::string text = break_even_text(report.about, report.break_evens);
  EXPECT_THAT(text, testing::HasSubstr("Worth it, saving more than 0.333 ms a frame, from these lanterns on"));
  EXPECT_THAT(text, testing::ContainsRegex("columns +objects +4[0-9][0-9]  [(]4"));
}

TEST(BreakEvenView, APairThatSavesNothingIsWorthItNowhere) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"same", [](double n) { return 1e-3 * n; }}};
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.visit_noise = 0.001;
  const Report report = report_of(made::study_of(setting));
  const std::vector<std::string> row = worth_table(report.about, report.break_evens).rows().at(0);
  EXPECT_EQ(row.at(2), "nowhere");
  EXPECT_EQ(row.at(4), "not enough, told up to 10k");
  const Json json = json_of(report)["worth_from"][0];
  EXPECT_TRUE(json["count"].is_null());
  EXPECT_EQ(json["reason"], row.at(4));
  EXPECT_EQ(break_even_sentence(report.about, report.break_evens), "No break-even among 1 pair in the measured range.");
}

TEST(BreakEvenView, APairMeasuredAtNoRangeInCommonIsNotKnown) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"columns", [](double n) { return 1e-4 * n; }}};
  setting.counts = made::counts_between(100, 10'000, 8);
  Study study = made::study_of(setting);
  std::erase_if(study.visits,
                [](const Visit& visit) { return (visit.count > 1000) == (visit.series.variant == "objects"); });
  const Report report = report_of(study);
  const std::vector<std::string> row = worth_table(report.about, report.break_evens).rows().at(0);
  EXPECT_EQ(row.at(2), "not known");
  EXPECT_EQ(row.at(4), "they share no range of lanterns");
}

TEST(BreakEvenView, TheSentenceNamesTheFirstThreeOfMany) {
  made::Setting setting;
  for (const auto& [name, each] : {std::pair{"a", 1e-3}, {"b", 5e-4}, {"c", 2e-4}, {"d", 1e-4}, {"e", 2e-5}})
    setting.truths.push_back({name, [each = each](double n) { return each * n; }});
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.visit_noise = 0.002;
  const Report report = report_of(made::study_of(setting));
  ASSERT_EQ(report.break_evens.pairs.size(), 4U);
  const std::string sentence = break_even_sentence(report.about, report.break_evens);
  EXPECT_THAT(sentence, testing::HasSubstr("worth it: b instead of a from 6"));
  EXPECT_THAT(sentence, testing::HasSubstr("c instead of b from 1."));
  EXPECT_THAT(sentence, testing::EndsWith(", and 1 more."));
  EXPECT_THAT(sentence, testing::Not(testing::HasSubstr("e instead of d")));
}

}  // namespace
}  // namespace mileage
