#include "measure/loop/check_plan.h"

#include <algorithm>

#include <gtest/gtest.h>

#include "measure/loop/plan.h"

namespace mileage {
namespace {

Scenario night_of_three() {
  Scenario scenario;
  scenario.name = "night";
  scenario.knobs = {Knob::real("scatter", "", {.default_value = 0, .min = 0, .max = 1}).affecting({"objects"}),
                    Knob::integer("work", "", {.default_value = 1, .min = 1, .max = 100})};
  scenario.variants = {{"objects", "", {}, ""},
                       {"columns", "", {}, ""},
                       {"jobs", "", {Knob::integer("workers", "", {.default_value = 4, .min = 1, .max = 64})}, ""}};
  return scenario;
}

std::vector<Check> checks_for(std::vector<std::string> variants, std::vector<std::int64_t> counts,
                              std::map<std::string, std::vector<std::string>> knobs = {}) {
  PlanRequest request;
  request.variants = std::move(variants);
  request.counts = std::move(counts);
  request.knobs = std::move(knobs);
  return checks_of(night_of_three(), make_plan(night_of_three(), request));
}

std::size_t checks_of_variant(const std::vector<Check>& checks, const std::string& variant) {
  return static_cast<std::size_t>(
      std::count_if(checks.begin(), checks.end(), [&](const Check& check) { return check.series.variant == variant; }));
}

TEST(CheckPlan, RunsEverySeriesAndTheReferenceAtTwoCounts) {
  const auto checks = checks_for({"objects", "columns"}, {100, 1000, 100'000});
  EXPECT_EQ(checks.size(), 4U);
  EXPECT_EQ(checks.front().count, 100);
  EXPECT_EQ(checks.back().count, 1000);
}

TEST(CheckPlan, BringsTheReferenceInUnderTheConditionsOfTheSeries) {
  const auto checks = checks_for({"columns"}, {100}, {{"work", {"1", "5"}}});
  EXPECT_EQ(checks_of_variant(checks, "columns"), 4U);
  EXPECT_EQ(checks_of_variant(checks, "objects"), 4U);
  for (const Check& check : checks)
    if (check.series.variant == "objects") EXPECT_EQ(check.series.knobs.number("scatter"), 0);
}

TEST(CheckPlan, RunsVariantsWithWorkersWithOneTwoAndAllTwiceEach) {
  const auto checks = checks_for({"jobs"}, {100});
  std::vector<double> workers;
  for (const Check& check : checks)
    if (check.varied.has("workers") && check.count == 100) workers.push_back(check.as_run().knobs.number("workers"));
  EXPECT_EQ(workers, (std::vector<double>{1, 1, 2, 2, 4, 4}));
}

TEST(CheckPlan, KeepsItsWorldsShort) {
  for (const Check& check : checks_for({"objects"}, {50'000, 100'000})) EXPECT_LE(check.count, 3000);
}

}  // namespace
}  // namespace mileage
