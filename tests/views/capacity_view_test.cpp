#include "views/capacity_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "support/simulated_machine.h"
#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

Json rows(const Report& report) {
  Json json;
  add_capacity_json(json, report.about, report.capacities);
  return json["capacities"];
}

TEST(CapacityView, TheSentenceAnswersFirst) {
  const Report& report = made::known_report();
  const std::string sentence = capacity_sentence(report.about, report.capacities, report.capacities.budgets_ms[0]);
  EXPECT_THAT(sentence, HasSubstr("In 16.7 ms (60 Hz), columns stays within it as far"));
  EXPECT_THAT(sentence, HasSubstr("objects only 16"));
}

TEST(CapacityView, TheSentenceNamesEverySeriesAndThoseWithinTheBudgetFirst) {
  Report report = made::known_report();
  SeriesCapacity& columns = report.capacities.capacities[1];
  ASSERT_EQ(columns.capacity.none, NoCapacity::within_as_far_as_trusted);
  const double budget_ms = report.capacities.budgets_ms[0];
  EXPECT_THAT(
      capacity_sentence(report.about, report.capacities, budget_ms),
      testing::ContainsRegex("columns stays within it as far as measured [(]400k lanterns[)], objects only 16"));
  columns.capacity.none = NoCapacity::over_at_once;
  EXPECT_THAT(capacity_sentence(report.about, report.capacities, budget_ms),
              testing::ContainsRegex("objects holds 16.*; columns is over it at once"));
}

TEST(CapacityView, AWayThatMayBeOverAtTheLargestCountHoldsLess) {
  Report report = made::known_report();
  SeriesCapacity& columns = report.capacities.capacities[1];
  const double budget_ms = report.capacities.budgets_ms[0];
  columns.holds_at_least = 250'000;
  EXPECT_THAT(capacity_sentence(report.about, report.capacities, budget_ms),
              HasSubstr("columns stays within it as far as can be told (250k lanterns)"));
  const TextTable table = capacity_table(report.about, report.capacities, budget_ms);
  EXPECT_EQ(table.rows()[1][1], "at least 250k");
  EXPECT_EQ(table.rows()[1][3], "it may be over the budget at 400k");
  EXPECT_THAT(missing_measurements_text(report.about, report.capacities), HasSubstr("--counts 250k.."));
  Json json;
  add_capacity_json(json, report.about, report.capacities);
  EXPECT_EQ(json["capacities"][2]["at_least"], 250'000);
}

TEST(CapacityView, CappedRecordingsBoundACapacity) {
  Report report = made::known_report();
  const double budget_ms = report.capacities.budgets_ms[0];
  report.capacities.capacities[1].capacity.none = NoCapacity::over_at_once;
  report.capacities.bounds = {{"columns", budget_ms, 7000, 12'000}, {"jobs", budget_ms, 9000, {}}};
  EXPECT_THAT(capacity_sentence(report.about, report.capacities, budget_ms),
              HasSubstr("columns holds at least 7k lanterns and not 12k, jobs holds at least 9k lanterns"));
  const TextTable table = capacity_table(report.about, report.capacities, budget_ms);
  ASSERT_EQ(table.rows().size(), 3U) << "columns once";
  EXPECT_EQ(table.rows()[1][1], "at least 7k");
  EXPECT_EQ(table.rows()[1][2], "below 12k");
  EXPECT_EQ(table.rows()[2][0], "jobs");
  Json json;
  add_capacity_json(json, report.about, report.capacities);
  EXPECT_EQ(json["capacity_bounds"][0]["at_least"], 7000);
  EXPECT_TRUE(json["capacity_bounds"][1]["below"].is_null());
}

TEST(CapacityView, TheTableHasARowPerSeries) {
  const Report& report = made::known_report();
  const TextTable table = capacity_table(report.about, report.capacities, report.capacities.budgets_ms[0]);
  ASSERT_EQ(table.rows().size(), 2U);
  EXPECT_EQ(table.rows()[0][0], "objects");
  EXPECT_THAT(table.rows()[0][2], HasSubstr(" to "));
  EXPECT_EQ(table.rows()[1][3], "within the budget up to twice what was measured");
}

TEST(CapacityView, NinetyNinePercentOfFramesStandInTheTableOnlyWhereTheyCanBeRead) {
  Report report = made::known_report();
  const double budget_ms = report.capacities.budgets_ms[0];
  for (SeriesCapacity& one : report.capacities.capacities) one.tail.reset();
  EXPECT_EQ(capacity_table(report.about, report.capacities, budget_ms).headings().back(), "read");
  EXPECT_THAT(tail_line(report.about, report.capacities, budget_ms),
              HasSubstr("measure --for capacity@60hz:99%: about 45 s per variant"));
  Capacity tail = report.capacities.capacities[0].capacity;
  report.capacities.capacities[0].tail = tail;
  EXPECT_EQ(capacity_table(report.about, report.capacities, budget_ms).headings().back(), "for 99 % of frames");
  EXPECT_THAT(tail_line(report.about, report.capacities, budget_ms), HasSubstr("of this machine as it was"));
}

TEST(CapacityView, TheTimeToldForNinetyNinePercentOfFramesIsEnough) {
  const simulated::Truth linear = simulated::truths().front();
  for (const simulated::Disturbance& noise : simulated::noises()) {
    Head head = simulated::usual_head(0, 7);
    simulated::take_ways(head, 1);
    head.plan.time_s = 12;
    const auto report_of_one = [&] { return report_of(simulated::measured_study(linear, noise, head), {}); };
    const Report before = report_of_one();
    ASSERT_FALSE(before.capacities.capacities[0].tail) << noise.name;
    head.plan.time_s = before.capacities.times_for_99_s.front();
    head.plan.goal = {"capacity", 0, {}, true};
    const Report after = report_of_one();
    ASSERT_TRUE(after.capacities.capacities[0].tail) << noise.name << ", " << head.plan.time_s << " s";
    EXPECT_TRUE(after.capacities.capacities[0].tail->at) << noise.name;
  }
}

TEST(CapacityView, MeasuringWhatIsMissingKeepsTheGoal) {
  Report report = made::known_report();
  SeriesCapacity& columns = report.capacities.capacities[1];
  ASSERT_FALSE(columns.capacity.at);
  EXPECT_THAT(missing_measurements_text(report.about, report.capacities), HasSubstr("--for capacity@60hz -o"));
  report.about.head.plan.goal = {"capacity", 0, {}, true};
  EXPECT_THAT(missing_measurements_text(report.about, report.capacities), HasSubstr("--for capacity@60hz:99% -o"));
}

TEST(CapacityView, NinetyNinePercentOfFramesOverTheBudgetWhereTheyAreReadMayHoldItBelow) {
  Report report = made::known_report();
  SeriesCapacity& one = report.capacities.capacities[0];
  one.tail = one.capacity;
  one.tail->at.reset();
  one.tail->none = NoCapacity::over_at_once;
  one.tail_from = 41'000;
  EXPECT_EQ(capacity_table(report.about, report.capacities, report.capacities.budgets_ms[0]).rows()[0].back(),
            "below 41k");
  const Json row = rows(report)[1];
  EXPECT_EQ(row["statistic"], "99%");
  EXPECT_EQ(row["below"], 41'000);
  EXPECT_EQ(row["reason"], "over the budget at the smallest count with enough frames");
}

TEST(CapacityView, RowsHaveTheFieldsThatToolsRelyOn) {
  const Json row = rows(made::known_report())[0];
  for (const char* field :
       {"series", "variant", "knobs", "statistic", "budget_ms", "count", "low", "high", "extrapolated"})
    EXPECT_TRUE(row.contains(field)) << field;
  EXPECT_TRUE(row["count"].is_number_integer());
  EXPECT_LT(row["low"], row["count"]);
  EXPECT_GT(row["high"], row["count"]);
}

TEST(CapacityView, NoCapacityIsNullWithAReason) {
  Questions questions;
  questions.budgets_ms = {0.001};
  const Json row = rows(report_of(made::known_study(), questions))[0];
  EXPECT_TRUE(row["count"].is_null());
  EXPECT_TRUE(row["low"].is_null());
  EXPECT_THAT(row["reason"].get<std::string>(), HasSubstr("over the budget at once"));
}

TEST(CapacityView, HeadroomIsGivenAtThePlacesAskedFor) {
  Questions questions;
  questions.budgets_ms = {10, 20};
  questions.at = {50'000, 1'000'000};
  const Report report = report_of(made::known_study(), questions);
  const TextTable table = headroom_table(report.about, report.capacities, 10);
  ASSERT_EQ(table.rows().size(), 4U);
  EXPECT_THAT(table.rows()[0], testing::ElementsAre("50k", "objects", testing::MatchesRegex("(4.9|5.0).*"),
                                                    HasSubstr(" to "), testing::EndsWith(" %"), testing::_));
  EXPECT_EQ(table.rows()[2].back(), "not measured there");
  Json json;
  add_capacity_json(json, report.about, report.capacities);
  ASSERT_EQ(json["headroom"].size(), 4U) << "two budgets, and one place that both have measured";
  EXPECT_NEAR(json["headroom"][0]["share"].get<double>(), 0.5, 0.02);
  EXPECT_NEAR(json["headroom"][2]["left_ms"].get<double>(), 15, 0.3);
}

TEST(CapacityView, RowsOfSeveralStudiesNameTheirStudy) {
  Report one = made::known_report();
  EXPECT_FALSE(rows(one)[0].contains("study"));
  one.about.is_one_of_several = true;
  EXPECT_EQ(rows(one)[0]["study"], "made.study.jsonl");
}

}  // namespace
}  // namespace mileage
