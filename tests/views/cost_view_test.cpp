#include "views/cost_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "views/break_even_view.h"
#include "views/capacity_view.h"
#include "views/growth_view.h"
#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

/// Three ways at 50,000 lanterns alone, in milliseconds; the third is set up in three times as long.
Report at_one_count(double objects_ms, double columns_ms, double jobs_ms, double noise = 0.01) {
  made::Setting setting;
  const auto always = [](double ms) { return [ms](double) { return ms; }; };
  setting.truths = {{"objects", always(objects_ms)}, {"columns", always(columns_ms)}, {"jobs", always(jobs_ms)}};
  setting.counts = {50'000};
  setting.blocks = 8;
  setting.visit_noise = noise;
  Study study = made::study_of(setting);
  for (Visit& visit : study.visits) {
    visit.setup_ms = visit.series.variant == "jobs" ? 30 : 10;
    visit.counters["batches"] =
        visit.series.variant == "jobs" ? 20.0 * static_cast<double>(visit.measured_frames()) : 0;
    if (visit.series.variant != "jobs") visit.counters.clear();
  }
  return report_of(study);
}

std::string sentence_of(const Report& report) {
  const GroupCosts& group = report.costs.groups.at(0);
  return cost_sentence(report.about, group, group.places.at(0), report.costs);
}

TEST(CostView, SaysWhatFitsAndWhatIsGained) {
  EXPECT_THAT(
      sentence_of(at_one_count(20, 10, 5)),
      testing::MatchesRegex("At 50k lanterns, jobs takes .* ms, columns .*, objects .*; in 16.7 ms, jobs, columns "
                            "fit, objects is over; jobs saves 1[45].* ms against objects."));
  EXPECT_THAT(sentence_of(at_one_count(8, 4, 2)), HasSubstr("; all fit 16.7 ms; "));
  EXPECT_THAT(sentence_of(at_one_count(2000, 400, 200)), HasSubstr("; all over 16.7 ms, by 18"));
  EXPECT_THAT(sentence_of(at_one_count(16.67, 4, 2)), HasSubstr("jobs, columns fit, objects may fit;"));
}

TEST(CostView, SaysWhereNothingCanBeToldApart) {
  EXPECT_THAT(sentence_of(at_one_count(8, 8, 8, 0.05)), HasSubstr("; none can be told apart from objects."));
  EXPECT_THAT(sentence_of(at_one_count(4, 8, 12)), HasSubstr("; none is significantly faster than objects."));
}

TEST(CostView, HasARowForEachSeriesWithItsInterval) {
  const Report report = at_one_count(20, 10, 5);
  const TextTable table = cost_table(report.about, report.costs, 0);
  ASSERT_EQ(table.rows().size(), 3U);
  EXPECT_EQ(table.rows()[0][1], "objects");
  EXPECT_THAT(table.rows()[0][3], testing::StartsWith("over by 3."));
  EXPECT_THAT(table.rows()[1][2], testing::MatchesRegex("(10.*|9.*) [(].* to .*[)]"));
  EXPECT_THAT(table.rows()[2][4], testing::StartsWith("0.2"));
  for (const std::string& heading : table.headings()) EXPECT_FALSE(heading.empty());
}

TEST(CostView, WhatAConditionDoesNotTouchIsToldOnce) {
  Study study = made::known_study();  // objects and columns
  study.head.scenario.knobs = {Knob::real("scatter", "", 0, 0, 1).touching({"objects"})};
  for (Series& series : study.head.plan.series)
    if (series.variant == "objects") series.knobs.set("scatter", 0.0);
  Series scattered = study.head.plan.series.front();
  scattered.knobs.set("scatter", 1.0);
  study.head.plan.series.push_back(scattered);
  const std::vector<Visit> visits = study.visits;
  for (Visit& visit : study.visits)
    if (visit.series.variant == "objects") visit.series.knobs.set("scatter", 0.0);
  for (Visit visit : visits)
    if (visit.series.variant == "objects") {
      visit.series = scattered;
      study.visits.push_back(visit);
    }
  const Report report = report_of(study);
  ASSERT_EQ(report.costs.groups.size(), 2U);
  EXPECT_NE(cost_table(report.about, report.costs, 0).rows()[1][2], "as above");
  const auto row = cost_table(report.about, report.costs, 1).rows()[1];
  EXPECT_EQ(row[1], "columns");
  EXPECT_EQ(row[2], "as above");
  EXPECT_NE(row[4], "") << "its share is of another series here";
}

TEST(CostView, WhereNothingWasMeasuredThereIsNoTable) {
  Questions questions;
  questions.at = {77};
  const Report report = report_of(made::known_study(), questions);
  EXPECT_EQ(cost_text(report.about, report.costs), "") << "the tool says so once, for every verb";
}

TEST(CostView, SaysWhatElseDiffers) {
  const Report report = at_one_count(20, 10, 5);
  const std::vector<std::string> lines = trait_lines(report.about, report.costs.groups.at(0));
  EXPECT_THAT(lines, testing::Contains("counter batches, a frame: jobs 20.0; none of objects, columns"));
  EXPECT_THAT(lines, testing::Contains("set-up, ms: objects 10.0, columns 10.0, jobs 30.0"));
  EXPECT_THAT(lines.back(), HasSubstr("the set-up of jobs is earned back after 2 frames"));
}

TEST(CostView, JsonHoldsFitAndTraits) {
  const Report report = at_one_count(20, 10, 5);
  Json json;
  add_cost_json(json, report.about, report.costs);
  ASSERT_EQ(json["costs"].size(), 3U);
  EXPECT_EQ(json["costs"][0]["fit"], "over");
  EXPECT_EQ(json["costs"][1]["fit"], "fits");
  EXPECT_EQ(json["costs"][2]["told_apart"], true);
  EXPECT_EQ(json["costs"][0]["told_apart"], false) << "against itself";
  EXPECT_FALSE(json["traits"].empty());
}

/// What other answers say of a study at one count.
TEST(CostView, OtherAnswersSayThatOneCountIsNotEnough) {
  const Report report = at_one_count(20, 10, 5);
  ASSERT_TRUE(report.about.only_place);
  for (const std::string& text :
       {growth_text(report.about, report.growth), break_even_text(report.about, report.break_evens)}) {
    EXPECT_THAT(text, testing::StartsWith("Measured at 50k lanterns alone: "));
    EXPECT_THAT(text, HasSubstr("mileage cost "));
    EXPECT_THAT(text, testing::Not(HasSubstr("?")));
  }
  const std::string capacities = capacity_text(report.about, report.capacities);
  EXPECT_THAT(capacities, HasSubstr("columns, jobs stay within it as far as measured (50k lanterns); objects is over"));
  EXPECT_THAT(capacities, HasSubstr("at least 50k"));
}

}  // namespace
}  // namespace mileage
