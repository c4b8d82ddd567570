#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/simulated_machine.h"
#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

double budget_of(const Report& report) { return report.capacities.budgets_ms.front(); }

Answer capacity_view_of(const Report& report) { return capacity_view(report.about, report.capacities, report.limits); }

Json capacity_rows_of(const Report& report) { return made::json_of(capacity_view_of(report))["capacities"]; }

std::string capacity_verdict_of(const Report& report) { return capacity_view_of(report).verdict.at(0); }

TEST(CapacityView, TheVerdictRanksAllVariants) {
  Report report = made::known_report();
  SeriesCapacity& columns = report.capacities.capacities[1];
  ASSERT_EQ(columns.capacity.none, NoCapacity::within_as_far_as_trusted);
  EXPECT_THAT(capacity_verdict_of(report),
              testing::MatchesRegex("At 60 Hz .16.7 ms.: columns more than 400k lanterns, objects 16[0-9]k[.]"));
  columns.capacity.none = NoCapacity::over_at_once;
  EXPECT_THAT(capacity_verdict_of(report), HasSubstr(", columns is over the budget at every count measured."));
}

TEST(CapacityView, TheVerdictNamesTheLargestOfManyCapacities) {
  Report report = made::known_report();
  const SeriesCapacity objects = report.capacities.capacities[0];
  for (int one = 0; one < 20; ++one) report.capacities.capacities.push_back(objects);
  EXPECT_THAT(capacity_verdict_of(report),
              testing::StartsWith("At 60 Hz (16.7 ms): columns more than 400k lanterns, "));
  EXPECT_THAT(capacity_verdict_of(report), testing::EndsWith(", 14 more."));
}

TEST(CapacityView, AVariantThatMayBeOverAtTheLargestCountHoldsLess) {
  Report report = made::known_report();
  report.capacities.capacities[1].holds_at_least = 250'000;
  const Answer view = capacity_view_of(report);
  EXPECT_THAT(view.verdict.at(0), HasSubstr("columns more than 250k lanterns"));
  const auto row = view.tables.at(0).shown().rows.at(1);
  EXPECT_EQ(row.at(1), "more than 250k");
  EXPECT_EQ(row.at(2), "400k may exceed the budget");
  EXPECT_THAT(view.next.at(0), HasSubstr("--counts 250k.."));
  EXPECT_EQ(capacity_rows_of(report)[1]["at_least"], 250'000);
}

TEST(CapacityView, CappedRecordingsBoundACapacity) {
  Report report = made::known_report();
  const double budget_ms = budget_of(report);
  report.capacities.capacities[1].capacity.none = NoCapacity::over_at_once;
  report.capacities.bounds = {{"columns", budget_ms, 7000, 12'000}, {"jobs", budget_ms, 9000, {}}};
  EXPECT_THAT(capacity_verdict_of(report), HasSubstr("columns at least 7k and not 12k, jobs at least 9k"));
  const auto rows = capacity_view_of(report).tables.at(0).shown().rows;
  ASSERT_EQ(rows.size(), 3U) << "columns once";
  EXPECT_EQ(rows[1][1], "at least 7k");
  EXPECT_EQ(rows[1][2], "below 12k");
  EXPECT_EQ(rows[2][0], "jobs");
  EXPECT_EQ(capacity_rows_of(report)[1]["at_least"], 7000);
}

TEST(CapacityView, NinetyNinePercentOfFramesHaveAColumnOnlyWhereTheyAreKnown) {
  Report report = made::known_report();
  for (SeriesCapacity& one : report.capacities.capacities) one.tail.reset();
  EXPECT_THAT(capacity_view_of(report).tables.at(0).shown().headings,
              testing::Not(testing::Contains("for 99 % of frames")));
  EXPECT_THAT(answer_text(capacity_view_of(report), true),
              HasSubstr("--for capacity@60hz:99% (about 45 s per variant)"));
  const Capacity tail = report.capacities.capacities[0].capacity;
  report.capacities.capacities[0].tail = tail;
  EXPECT_THAT(capacity_view_of(report).tables.at(0).shown().headings, testing::Contains("for 99 % of frames"));
}

TEST(CapacityView, TheTimeForNinetyNinePercentOfFramesIsEnough) {
  const simulated::Truth linear = simulated::truths().front();
  for (const simulated::Disturbance& noise : simulated::noises()) {
    Head head = simulated::usual_head(0, 7);
    simulated::take_implementations(head, 1);
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
  ASSERT_FALSE(report.capacities.capacities[1].capacity.at);
  EXPECT_THAT(capacity_view_of(report).next.at(0), HasSubstr("--for capacity@60hz -o"));
  report.about.head.plan.goal = {"capacity", 0, {}, true};
  EXPECT_THAT(capacity_view_of(report).next.at(0), HasSubstr("--for capacity@60hz:99% -o"));
}

TEST(CapacityView, CommandsForWhatIsMissingWriteDifferentFiles) {
  Report report = made::known_report();
  std::vector<SeriesCapacity>& capacities = report.capacities.capacities;
  capacities[0].capacity = capacities[1].capacity;
  capacities[0].holds_at_least = capacities[1].holds_at_least / 2;
  const Answer view = capacity_view_of(report);
  EXPECT_THAT(view.next, testing::ElementsAre(HasSubstr("-o more.study.jsonl"), HasSubstr("-o more-2.study.jsonl")));
}

TEST(CapacityView, NinetyNinePercentOfFramesMayFitOnlyBelowWhereTheyAreKnown) {
  Report report = made::known_report();
  SeriesCapacity& one = report.capacities.capacities[0];
  one.tail = one.capacity;
  one.tail->at.reset();
  one.tail->none = NoCapacity::over_at_once;
  one.tail_from = 41'000;
  EXPECT_TRUE(capacity_rows_of(report)[0]["capacity_p99"].is_null());
  EXPECT_EQ(capacity_rows_of(report)[0]["capacity_p99_missing"], "below 41k");
}

TEST(CapacityView, RowsHaveTheFieldsThatToolsRelyOn) {
  const Json row = capacity_rows_of(made::known_report())[0];
  for (const char* field : {"series", "variant", "budget_ms", "capacity", "capacity_low", "capacity_high", "source"})
    EXPECT_TRUE(row.contains(field)) << field;
  EXPECT_TRUE(row["capacity"].is_number_integer());
  EXPECT_LT(row["capacity_low"], row["capacity"]);
  EXPECT_GT(row["capacity_high"], row["capacity"]);
}

TEST(CapacityView, NoCapacityIsNullWithAReason) {
  Questions questions;
  questions.budgets_ms = {0.001};
  const Json row = capacity_rows_of(report_of(made::known_study(), questions))[0];
  EXPECT_TRUE(row["capacity"].is_null());
  EXPECT_EQ(row["capacity_missing"], "below 100");
  EXPECT_EQ(row["capacity_interval_missing"], "over the budget at every count measured");
}

TEST(CapacityView, HowItWasReadIsNotedWhereThatMatters) {
  Report report = made::known_report();
  Capacity& capacity = report.capacities.capacities[0].capacity;
  EXPECT_THAT(answer_text(capacity_view_of(report)), testing::Not(HasSubstr("note:")));
  capacity.source = Source::extrapolated;
  EXPECT_THAT(answer_text(capacity_view_of(report)), HasSubstr("note: objects is extrapolated 0.4"));
  capacity.source = Source::step;
  capacity.interval = {165'000, 167'001};
  EXPECT_THAT(answer_text(capacity_view_of(report)),
              HasSubstr("objects: the cost jumps over the budget between 165000 and 167001."));
}

TEST(CapacityView, HeadroomIsGivenAtThePlacesAskedFor) {
  Questions questions;
  questions.budgets_ms = {10, 20};
  questions.at = {50'000, 1'000'000};
  const Report report = report_of(made::known_study(), questions);
  const auto rows = capacity_view_of(report).tables.at(1).shown().rows;
  ASSERT_EQ(rows.size(), 4U);
  EXPECT_THAT(rows[0], testing::ElementsAre("50k", "objects", testing::MatchesRegex("(4.9|5.0).*"), HasSubstr(" to "),
                                            testing::EndsWith(" %"), testing::_));
  EXPECT_EQ(rows[2][2], "not measured there");
  const Json headroom = made::json_of(capacity_view_of(report))["headroom"];
  ASSERT_EQ(headroom.size(), 8U) << "two budgets, two places, two variants";
  EXPECT_NEAR(headroom[0]["share"].get<double>(), 0.5, 0.02);
  EXPECT_NEAR(headroom[4]["left_ms"].get<double>(), 15, 0.3);
}

TEST(CapacityView, RowsOfSeveralStudiesNameTheirStudy) {
  Report one = made::known_report();
  EXPECT_FALSE(capacity_rows_of(one)[0].contains("study"));
  one.about.is_one_of_several = true;
  EXPECT_EQ(capacity_rows_of(one)[0]["study"], "made.study.jsonl");
}

}  // namespace
}  // namespace mileage
