#include <gtest/gtest.h>

#include "study/json_forms.h"
#include "study/study_json.h"

namespace mileage {
namespace {

Head full_head() {
  Head head;
  head.program = "mileage 9";
  head.recorded = "2026-01-02";
  head.made_by = MadeBy::commands;
  head.scenario.name = "night";
  head.scenario.entity = "lantern";
  head.scenario.knobs = {
      Knob::integer("kinds", "of lanterns", {.default_value = 4, .min = 1, .max = 9}).splitting_count(),
      Knob::choice("layout", "", {"a", "b"})};
  head.scenario.variants = {
      {"linked", "one by one", {Knob::real("reach", "", {.default_value = 1, .min = 0, .max = 2, .unit = "m"})}, ""}};
  head.plan.series = {{"linked", {}}};
  head.plan.counts = {10, 100};
  head.plan.max_count = 1000;
  head.scenario.variants.front().stubs = {"gather"};
  head.scenario.expects = {{"updates", 1}};
  head.plan.arrive = 50;
  head.plan.trace = 2;
  head.plan.tune = {"kinds"};
  head.plan.rungs = {{"kinds=2", {}, "linked"}};
  head.plan.rungs.front().knobs.set("kinds", 2.0);
  head.plan.heavy_frames = 7;
  head.plan.listed = true;
  head.plan.goal = {"breakeven", 0, {"linked", "columns"}};
  head.machine.cache_bytes = {{"L1", 32768.0}};
  head.machine.pass_bytes_per_s = {{"1", 9e9}};
  head.notes = {"odd"};
  head.scenario.prepares = true;
  head.commands = {"linked: game {count}"};
  head.plan_fingerprint = "0123";
  head.plan_file = "night.toml";
  head.full_speed_ns = 100;
  head.full_speed_on_cores_ns = {{"2", 110.0}};
  head.yardstick_version = 3;
  return head;
}

TEST(HeadFields, AreAllWrittenAndReadBack) {
  const Json json = to_json(full_head());
  for (const Field& field : fields_of<Head>()) EXPECT_TRUE(json.contains(field.name)) << field.name;
  for (const Field& field : fields_of<Plan>()) EXPECT_TRUE(json["plan"].contains(field.name)) << field.name;
  for (const Field& field : fields_of<Machine>()) EXPECT_TRUE(json["machine"].contains(field.name)) << field.name;
  for (const Field& field : fields_of<Scenario>()) EXPECT_TRUE(json["scenario"].contains(field.name)) << field.name;
  EXPECT_EQ(to_line(to_json(head_from_json(json))), to_line(json));
}

TEST(HeadFields, KnobsHaveTheFieldsOfTheirKind) {
  const Json knobs = to_json(full_head())["scenario"]["knobs"];
  EXPECT_TRUE(knobs[0].contains("max"));
  EXPECT_FALSE(knobs[0].contains("choices"));
  EXPECT_TRUE(knobs[1].contains("choices"));
  EXPECT_FALSE(knobs[1].contains("max"));
}

TEST(HeadFields, AFieldOfTheWrongTypeIsNamed) {
  Json json = to_json(full_head());
  json["plan"]["counts"] = {10, "x"};
  try {
    head_from_json(json);
    FAIL();
  } catch (const Error& error) {
    EXPECT_EQ(error.fault().field, "counts");
  }
}

}  // namespace
}  // namespace mileage
