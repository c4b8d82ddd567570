#include "measure/loop/plan.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "types/error.h"

namespace mileage {
namespace {

using testing::HasSubstr;

Scenario planned_night() {
  Scenario scenario;
  scenario.name = "night";
  scenario.knobs = {Knob::real("scatter", "", {.default_value = 0, .min = 0, .max = 1}).affecting({"objects"}),
                    Knob::integer("work", "", {.default_value = 1, .min = 1, .max = 100})};
  scenario.variants = {{"objects", "", {}, ""},
                       {"jobs", "", {Knob::integer("workers", "", {.default_value = 2, .min = 1, .max = 64})}, ""},
                       {"compute", "", {Knob::choice("copy", "", {"none", "back"})}, "no device here"}};
  return scenario;
}

PlanRequest plan_request(std::vector<std::string> variants) {
  PlanRequest request;
  request.variants = std::move(variants);
  request.counts = {100, 1000};
  return request;
}

std::string refusal_of(const PlanRequest& request) {
  try {
    make_plan(planned_night(), request);
  } catch (const Error& error) {
    return error.what();
  }
  return "accepted";
}

TEST(Goal, ReadsAsPeopleWriteIt) {
  EXPECT_EQ(parse_goal("capacity", "--for"), (Goal{"capacity", 0, {}}));
  EXPECT_EQ(parse_goal("capacity@50hz", "--for"), (Goal{"capacity", 20, {}}));
  EXPECT_EQ(parse_goal("breakeven:objects,jobs", "--for"), (Goal{"breakeven", 0, {"objects", "jobs"}}));
  EXPECT_EQ(parse_goal("capacity@50hz:99%", "--for"), (Goal{"capacity", 20, {}, true}));
  EXPECT_EQ(parse_goal("capacity:99%", "--for"), (Goal{"capacity", 0, {}, true}));
  for (const char* text : {"", ":99%", "capacity:98%", "capacity:60hz", "capacity@", "breakeven", "breakeven:objects",
                           "breakeven:objects,objects", "speed"})
    EXPECT_THROW(parse_goal(text, "--for"), Error) << text;
}

TEST(Goal, BothVariantsMustBeMeasured) {
  PlanRequest request = plan_request({"objects"});
  request.goal = parse_goal("breakeven:objects,jbs", "--for");
  EXPECT_THAT(refusal_of(request), HasSubstr("did you mean jobs?"));
  request.goal = parse_goal("breakeven:objects,jobs", "--for");
  EXPECT_THAT(refusal_of(request), HasSubstr("not among those measured"));
}

TEST(Plan, APrecisionNeedsNoNumberOfBlocks) {
  PlanRequest request = plan_request({});
  EXPECT_EQ(make_plan(planned_night(), request).blocks, usual_blocks);
  request.precision = 0.03;
  EXPECT_EQ(make_plan(planned_night(), request).blocks, 0);
}

TEST(Plan, MakesSeriesForWarmAndCold) {
  PlanRequest request = plan_request({"objects"});
  request.cold_bytes = {0, 8e6};
  const Plan plan = make_plan(planned_night(), request);
  ASSERT_EQ(plan.series.size(), 2U);
  EXPECT_FALSE(plan.series[0].is_cold());
  EXPECT_EQ(plan.series[1].cold_bytes, 8e6);
  EXPECT_EQ(plan.series[1].warm(), plan.series[0]);
}

TEST(Plan, TakesAllVariantsThatCanRunHere) {
  const Plan plan = make_plan(planned_night(), plan_request({}));
  ASSERT_EQ(plan.series.size(), 2U);
  EXPECT_EQ(plan.series[1].variant, "jobs");
  EXPECT_EQ(plan.blocks, usual_blocks);
}

TEST(Plan, TakesASoftwareDeviceOnlyWhereItIsNamedOrThereIsNothingElse) {
  Scenario scenario = planned_night();
  scenario.variants[2].unavailable.clear();
  scenario.variants[2].software_device = true;
  EXPECT_EQ(make_plan(scenario, plan_request({})).series.size(), 2U);
  EXPECT_EQ(make_plan(scenario, plan_request({"objects", "compute"})).series.size(), 2U);
  scenario.variants.erase(scenario.variants.begin(), scenario.variants.begin() + 2);
  EXPECT_EQ(make_plan(scenario, plan_request({})).series.size(), 1U);
}

TEST(Plan, GivesASeriesTheKnobsThatTouchIt) {
  const Plan plan = make_plan(planned_night(), plan_request({}));
  EXPECT_TRUE(plan.series[0].knobs.has("scatter"));
  EXPECT_FALSE(plan.series[0].knobs.has("workers"));
  EXPECT_FALSE(plan.series[1].knobs.has("scatter"));
  EXPECT_EQ(plan.series[1].knobs.number("workers"), 2);
  EXPECT_EQ(plan.series[1].knobs.number("work"), 1);
}

TEST(Plan, MakesASeriesForEveryCombinationOfValuesAndMeasuresTheUntouchedOnce) {
  PlanRequest request = plan_request({});
  request.knobs["scatter"] = {"0", "1"};
  request.knobs["workers"] = {"1", "2", "4"};
  const Plan plan = make_plan(planned_night(), request);
  EXPECT_EQ(plan.series.size(), 2U + 3U);
}

TEST(Plan, TheSameValueTwiceIsOneSeries) {
  PlanRequest request = plan_request({"objects"});
  request.knobs["scatter"] = {"1", "1.0"};
  EXPECT_EQ(make_plan(planned_night(), request).series.size(), 1U);
}

TEST(Plan, NamesWhatItDoesNotKnowAndWhatIsNear) {
  EXPECT_THAT(refusal_of(plan_request({"objets"})), HasSubstr("did you mean objects?"));
  EXPECT_THAT(refusal_of(plan_request({"compute"})), HasSubstr("no device here"));
  PlanRequest request = plan_request({"jobs"});
  request.knobs["worker"] = {"1"};
  EXPECT_THAT(refusal_of(request), HasSubstr("did you mean workers?"));
  request.knobs = {{"scatter", {"1"}}};
  EXPECT_THAT(refusal_of(request), HasSubstr("touches none of the variants"));
  EXPECT_THROW(scenario_named("nigth", {planned_night()}), Error);
}

TEST(Plan, RefusesValuesOutOfRangeWithTheRange) {
  PlanRequest request = plan_request({"jobs"});
  for (const char* value : {"0", "65", "1.5", "two", ""}) {
    request.knobs["workers"] = {value};
    EXPECT_THAT(refusal_of(request), HasSubstr("knob workers")) << value;
  }
  request.knobs["workers"] = {"65"};
  EXPECT_THAT(refusal_of(request), HasSubstr("a whole number from 1 to 64"));
}

TEST(Plan, AtOneCountRunsAreLongInsteadOfBlocksMany) {
  PlanRequest request = plan_request({"objects"});
  request.time_s = 20;
  EXPECT_EQ(make_plan(planned_night(), request).min_ms, request.min_ms) << "two counts";
  request.counts = {1000};
  const Plan plan = make_plan(planned_night(), request);
  EXPECT_NEAR(plan.min_ms * static_cast<double>(plan.series.size()), 0.8 * 20'000 / 30, 1);
  request.aim = true;
  EXPECT_EQ(make_plan(planned_night(), request).min_ms, request.min_ms) << "more counts are added";
  request.aim = false;
  request.time_s = 3600;
  EXPECT_LE(make_plan(planned_night(), request).min_ms, 1000);
}

TEST(Plan, TimeAloneLeavesTheNumberOfBlocksOpen) {
  PlanRequest request = plan_request({});
  request.time_s = 30;
  EXPECT_EQ(make_plan(planned_night(), request).blocks, 0);
}

}  // namespace
}  // namespace mileage
