#include "types/scenario_knobs.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace mileage {
namespace {

Scenario lit_river() {
  Scenario scenario;
  scenario.knobs = {Knob::real("scatter", "", {.default_value = 0, .min = 0, .max = 1}).affecting({"objects"}),
                    Knob::integer("work", "", {.default_value = 1, .min = 1, .max = 9})};
  VariantFacts objects, jobs;
  objects.name = "objects";
  jobs.name = "jobs";
  jobs.knobs = {Knob::integer("workers", "", {.default_value = 2, .min = 1, .max = 8})};
  scenario.variants = {objects, jobs};
  return scenario;
}

std::vector<std::string> names_for(const char* variant) {
  std::vector<std::string> names;
  for (const Knob& knob : knobs_of(lit_river(), variant)) names.push_back(knob.name);
  return names;
}

TEST(ScenarioKnobs, AreThoseThatTouchAVariantAndItsOwn) {
  EXPECT_THAT(names_for("objects"), testing::ElementsAre("scatter", "work"));
  EXPECT_THAT(names_for("jobs"), testing::ElementsAre("work", "workers"));
  EXPECT_THAT(names_for("nobody"), testing::ElementsAre("work"));
}

TEST(ScenarioKnobs, HaveAPreset) {
  EXPECT_TRUE(is_default_value(lit_river(), "jobs", "workers", 2.0));
  EXPECT_FALSE(is_default_value(lit_river(), "jobs", "workers", 3.0));
  EXPECT_FALSE(is_default_value(lit_river(), "jobs", "scatter", 0.0)) << "it does not touch jobs";
}

}  // namespace
}  // namespace mileage
