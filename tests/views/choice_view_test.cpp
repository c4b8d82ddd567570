#include "views/choice_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

/// A study over a counter that stays below one, so that places are fractions.
Report report_over_fractions() {
  Study study = made::known_study();
  for (Visit& visit : study.visits)
    visit.counters["share"] = static_cast<double>(visit.count) * 1e-6 * static_cast<double>(visit.measured_frames());
  return report_of(study, {}, "share");
}

TEST(ChoiceView, RowsSayFromWhereToWhere) {
  const Report& report = made::known_report();
  Json json;
  add_choice_json(json, report.about, report.choices);
  EXPECT_EQ(json["choices"][0]["series"], "objects");
  EXPECT_EQ(json["choices"][0]["from"], 100);
  EXPECT_EQ(json["choices"][0]["saves_ms_at"].begin().key(), "100");
  EXPECT_EQ(json["everywhere"].size(), 2U);
  EXPECT_TRUE(json["at"].empty()) << "no place was asked for";
}

TEST(ChoiceView, FractionalPlacesDoNotCollide) {
  const Report report = report_over_fractions();
  Json json;
  add_choice_json(json, report.about, report.choices);
  for (const Json& row : json["choices"]) {
    EXPECT_LT(row["from"].get<double>(), row["to"].get<double>());
    EXPECT_EQ(row["saves_ms_at"].size(), 2U) << row.dump();
  }
}

TEST(ChoiceView, AdviceIsASentence) {
  Questions questions;
  questions.at = {100'000};
  const Report report = report_of(made::known_study(), questions);
  const GroupChoice& group = report.choices.groups.front();
  const std::string sentence = advice_sentence(report.about, group, group.advice.at(0));
  EXPECT_THAT(sentence, HasSubstr("At 100k lanterns: objects 10"));
  EXPECT_THAT(sentence, HasSubstr("So columns is worth it as far as measured"));
}

}  // namespace
}  // namespace mileage
