#include "mileage/types/catalogue.h"

#include <gtest/gtest.h>

#include "types/error.h"

namespace mileage {
namespace {

Scenario river() {
  Scenario scenario;
  scenario.name = "river";
  scenario.knobs = {
      Knob::real("wind", "how hard it blows", {.default_value = 1, .min = 0, .max = 9}).affecting({"objects"})};
  return scenario;
}

Factory some_factory() {
  return [](const SetUp&) { return std::unique_ptr<Variant>(); };
}

TEST(Catalogue, KeepsScenariosAndVariantsInTheirOrder) {
  Catalogue catalogue;
  catalogue.add(river());
  catalogue.add_variant("river", {"objects", "one each", {}, ""}, some_factory());
  catalogue.add_variant("river", {"columns", "one array each", {}, ""}, some_factory());
  EXPECT_TRUE(catalogue.mistakes().empty());
  ASSERT_EQ(catalogue.find("river")->variants.size(), 2U);
  EXPECT_EQ(catalogue.find("river")->variants[1].name, "columns");
  EXPECT_NE(catalogue.factory("river", "objects"), nullptr);
  EXPECT_EQ(catalogue.factory("river", "rows"), nullptr);
  EXPECT_EQ(catalogue.find("lake"), nullptr);
}

TEST(Catalogue, AVariantMayBeListedWithAReasonInsteadOfAFactory) {
  Catalogue catalogue;
  catalogue.add(river());
  catalogue.add_variant("river", {"compute", "on the device", {}, "no device here"}, nullptr);
  EXPECT_TRUE(catalogue.mistakes().empty());
  EXPECT_EQ(catalogue.factory("river", "compute"), nullptr);
}

TEST(Catalogue, KeepsEveryMistakeInsteadOfThrowing) {
  Catalogue catalogue;
  catalogue.add(river());
  catalogue.add(river());
  catalogue.add_variant("lake", {"objects", "", {}, ""}, some_factory());
  catalogue.add_variant("river", {"Big Objects", "", {}, ""}, some_factory());
  catalogue.add_variant("river", {"empty", "", {}, ""}, nullptr);
  catalogue.add_variant("river", {"windy", "", {Knob::real("wind", "", {.default_value = 0, .min = 0, .max = 1})}, ""},
                        some_factory());
  catalogue.add_variant("river",
                        {"odd", "", {Knob::integer("batch", "", {.default_value = 9, .min = 10, .max = 20})}, ""},
                        some_factory());
  EXPECT_EQ(catalogue.mistakes().size(), 6U);
}

TEST(Catalogue, LooksAroundOnlyWhenAskedWhatCanRunHere) {
  Catalogue catalogue;
  catalogue.add(river());
  int looks = 0;
  catalogue.add_variant("river", {"compute", "", {}, ""}, some_factory(), [&](VariantFacts& facts) {
    ++looks;
    facts.unavailable = "no graphics device";
  });
  EXPECT_EQ(catalogue.find("river")->find("compute")->unavailable, "");
  EXPECT_EQ(looks, 0);
  EXPECT_EQ(catalogue.scenarios_here().front().find("compute")->unavailable, "no graphics device");
  EXPECT_EQ(looks, 1);
}

TEST(Knobs, GiveTheirValuesByName) {
  Knobs knobs;
  knobs.set("batch", 64.0);
  knobs.set("order", std::string("shuffled"));
  EXPECT_EQ(knobs.whole("batch"), 64);
  EXPECT_EQ(knobs.text("order"), "shuffled");
  EXPECT_THROW(knobs.number("order"), Error);
  EXPECT_THROW(knobs.text("batch"), Error);
  EXPECT_THROW(knobs.number("bacth"), Error);
}

TEST(Knob, TouchesAllVariantsUnlessToldOtherwise) {
  EXPECT_TRUE(Knob::real("work", "", {.default_value = 1, .min = 1, .max = 9}).is_affecting("jobs"));
  const Knob scatter = Knob::real("scatter", "", {.default_value = 0, .min = 0, .max = 1}).affecting({"objects"});
  EXPECT_TRUE(scatter.is_affecting("objects"));
  EXPECT_FALSE(scatter.is_affecting("jobs"));
}

}  // namespace
}  // namespace mileage
