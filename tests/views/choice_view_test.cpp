#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

/// A counter below one: fractional places.
Report report_over_fractions() {
  Study study = made::known_study();
  for (mileage::Run& run : study.runs)
    run.counters["share"] = static_cast<double>(run.count) * 1e-6 * static_cast<double>(run.measured_frames());
  return report_of(study, {}, "share");
}

Answer choice_view_of(const Report& report) { return choice_view(report.about, report.choices, report.capacities); }

TEST(ChoiceView, TheVerdictSaysWhatToUseUpToWhere) {
  EXPECT_THAT(choice_view_of(made::known_report()).verdict.at(0),
              testing::MatchesRegex("Use objects up to [0-9.]+k lanterns, columns up to 400k, the largest count "
                                    "measured[.]"));
  Report report = made::known_report();
  report.choices.groups[0].stretches.back().fits = false;
  EXPECT_THAT(choice_view_of(report).verdict.at(0), testing::EndsWith("Above that nothing measured fits 16.7 ms."));
}

TEST(ChoiceView, RowsSayFromWhereToWhere) {
  const Json json = made::json_of(choice_view_of(made::known_report()));
  EXPECT_EQ(json["choices"][0]["series"], "objects");
  EXPECT_EQ(json["choices"][0]["from"], 100);
  EXPECT_EQ(json["choices"].back()["saves_at"], 400'000);
  EXPECT_EQ(json["one_for_all"].size(), 2U);
  EXPECT_TRUE(json["advice"].empty()) << "no place was asked for";
}

TEST(ChoiceView, FractionalPlacesDoNotCollide) {
  const Json json = made::json_of(choice_view_of(report_over_fractions()));
  for (const Json& row : json["choices"]) EXPECT_LT(row["from"].get<double>(), row["to"].get<double>());
}

TEST(ChoiceView, AdviceIsASentence) {
  Questions questions;
  questions.at = {100'000};
  const std::string sentence = choice_view_of(report_of(made::known_study(), questions)).verdict.at(0);
  EXPECT_THAT(sentence, testing::MatchesRegex("At 100k lanterns use columns .2[.].* ms.: it saves 7[.].* ms over "
                                              "objects[.] No other pays off at any larger count measured[.]"));
  questions.at = {1000};
  EXPECT_THAT(choice_view_of(report_of(made::known_study(), questions)).verdict.at(0),
              testing::MatchesRegex("At 1k lanterns stay with objects .*[.] columns pays off from .*k[.]"));
}

}  // namespace
}  // namespace mileage
