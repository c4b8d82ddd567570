#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

/// Three variants at 50,000 lanterns; the third has 3x the set-up.
Report at_one_count(double objects_ms, double columns_ms, double jobs_ms, double noise = 0.01) {
  made::Setting setting;
  const auto always = [](double ms) { return [ms](double) { return ms; }; };
  setting.truths = {{"objects", always(objects_ms)}, {"columns", always(columns_ms)}, {"jobs", always(jobs_ms)}};
  setting.counts = {50'000};
  setting.blocks = 8;
  setting.run_noise = noise;
  Study study = made::study_of(setting);
  for (mileage::Run& run : study.runs) {
    run.setup_ms = run.series.variant == "jobs" ? 30 : 10;
    run.counters["batches"] = run.series.variant == "jobs" ? 20.0 * static_cast<double>(run.measured_frames()) : 0;
    if (run.series.variant != "jobs") run.counters.clear();
  }
  return report_of(study);
}

Answer cost_view_of(const Report& report) { return cost_view(report.about, report.costs); }

std::string cost_verdict_of(const Report& report) { return cost_view_of(report).verdict.at(0); }

TEST(CostView, TheVerdictSaysWhatFitsAndWhatIsGained) {
  EXPECT_THAT(
      cost_verdict_of(at_one_count(20, 10, 5)),
      testing::MatchesRegex("At 50k lanterns: jobs .* ms, columns .*, objects .*[.] jobs and columns fit 16.7 ms; "
                            "objects is over by 3.* ms[.] jobs saves 1[45].* ms over objects[.]"));
  EXPECT_THAT(cost_verdict_of(at_one_count(8, 4, 2)), HasSubstr(". All fit 16.7 ms. "));
  EXPECT_THAT(cost_verdict_of(at_one_count(2000, 400, 200)), HasSubstr(". All are over 16.7 ms by at least 18"));
  EXPECT_THAT(cost_verdict_of(at_one_count(16.67, 4, 2)),
              HasSubstr("jobs and columns fit 16.7 ms; objects may exceed it."));
}

TEST(CostView, TheVerdictSaysWhereNothingDiffers) {
  EXPECT_THAT(cost_verdict_of(at_one_count(8, 8, 8, 0.05)),
              testing::EndsWith("No significant difference from objects."));
  EXPECT_THAT(cost_verdict_of(at_one_count(4, 8, 12)),
              testing::EndsWith("Nothing is significantly faster than objects."));
}

TEST(CostView, HasARowForEachSeriesWithItsInterval) {
  const Table::Shown table = cost_view_of(at_one_count(20, 10, 5)).tables.at(0).shown();
  ASSERT_EQ(table.rows.size(), 3U);
  EXPECT_THAT(table.headings, testing::ElementsAre("lanterns", "variant", "ms/frame", "95 % interval", "budget left",
                                                   "relative to objects", "saves ms"));
  EXPECT_EQ(table.rows[0][1], "objects");
  EXPECT_THAT(table.rows[0][4], testing::StartsWith("over by 3."));
  EXPECT_THAT(table.rows[1][3], HasSubstr(" to "));
  EXPECT_THAT(table.rows[2][5], testing::MatchesRegex("0[.]2.x [(]0[.]2.* to 0[.]2.*[)]"));
}

TEST(CostView, ASavingThatIsNotSignificantIsNotShown) {
  const Table::Shown table = cost_view_of(at_one_count(8, 8, 4, 0.05)).tables.at(0).shown();
  EXPECT_EQ(table.rows[1][6], "-");
  EXPECT_THAT(table.rows[2][6], testing::MatchesRegex("[34][.].*"));
}

TEST(CostView, WhatAConditionDoesNotAffectIsShownOnce) {
  Study study = made::known_study();  // Objects and columns.
  study.head.scenario.knobs = {
      Knob::real("scatter", "", {.default_value = 0, .min = 0, .max = 1}).affecting({"objects"})};
  for (Series& series : study.head.plan.series)
    if (series.variant == "objects") series.knobs.set("scatter", 0.0);
  Series scattered = study.head.plan.series.front();
  scattered.knobs.set("scatter", 1.0);
  study.head.plan.series.push_back(scattered);
  const std::vector<mileage::Run> runs = study.runs;
  for (mileage::Run& run : study.runs)
    if (run.series.variant == "objects") run.series.knobs.set("scatter", 0.0);
  for (mileage::Run run : runs)
    if (run.series.variant == "objects") {
      run.series = scattered;
      study.runs.push_back(run);
    }
  const Report report = report_of(study);
  ASSERT_EQ(report.costs.groups.size(), 2U);
  const Answer view = cost_view_of(report);
  std::vector<const Table*> costs;
  for (const Table& table : view.tables)
    if (table.name() == "costs") costs.push_back(&table);
  ASSERT_EQ(costs.size(), 2U);
  EXPECT_NE(costs[0]->shown().rows[1][2], "as above");
  const auto row = costs[1]->shown().rows[1];
  EXPECT_EQ(row[1], "columns");
  EXPECT_THAT(row[2], HasSubstr("as above"));
  EXPECT_NE(row[5], "") << "it is relative to another series here";
}

TEST(CostView, WhereNothingWasMeasuredNothingIsSaid) {
  Questions questions;
  questions.at = {77};
  EXPECT_EQ(answer_text(cost_view_of(report_of(made::known_study(), questions))), "");
}

TEST(CostView, SaysWhatElseDiffers) {
  const std::string text = answer_text(cost_view_of(at_one_count(20, 10, 5)));
  EXPECT_THAT(text, testing::ContainsRegex("also, at 50k lanterns +objects  columns  jobs"));
  EXPECT_THAT(text, testing::ContainsRegex("counter batches, per frame +none +none +20.0"));
  EXPECT_THAT(text, testing::ContainsRegex("set-up, ms +10.0 +10.0 +30.0"));
  EXPECT_THAT(text, HasSubstr("note: jobs: its slower set-up is earned back after 2 frames"));
}

TEST(CostView, JsonHoldsFitAndTraits) {
  const Json json = made::json_of(cost_view_of(at_one_count(20, 10, 5)));
  ASSERT_EQ(json["costs"].size(), 3U);
  EXPECT_EQ(json["costs"][0]["fit"], "over");
  EXPECT_EQ(json["costs"][1]["fit"], "fits");
  EXPECT_EQ(json["costs"][2]["significant"], true);
  EXPECT_EQ(json["costs"][0]["significant"], false) << "relative to itself";
  EXPECT_FALSE(json["traits"].empty());
}

TEST(CostView, OtherAnswersSayThatOneCountIsNotEnough) {
  const Report report = at_one_count(20, 10, 5);
  ASSERT_TRUE(report.about.only_place);
  for (const Answer& view :
       {growth_view(report.about, report.growth), break_even_view(report.about, report.break_evens)}) {
    EXPECT_THAT(view.verdict.at(0), testing::StartsWith("Everything was measured at 50k lanterns: "));
    EXPECT_THAT(view.next.at(0), HasSubstr("mileage cost "));
  }
  EXPECT_THAT(
      capacity_view(report.about, report.capacities, report.limits).verdict.at(0),
      HasSubstr("columns more than 50k lanterns, jobs more than 50k, objects is over the budget at every count"));
}

}  // namespace
}  // namespace mileage
