#include "mileage/types/knobs.h"

#include <gtest/gtest.h>

#include "types/error.h"

namespace mileage {
namespace {

TEST(Knobs, NumbersAreReadWholeOrNot) {
  Knobs knobs;
  knobs.set("wind", 2.6);
  EXPECT_EQ(knobs.number("wind"), 2.6);
  EXPECT_EQ(knobs.whole("wind"), 3);
}

TEST(Knobs, AMistakeOfTheVariantNamesTheKnob) {
  Knobs knobs;
  knobs.set("layout", std::string("tight"));
  for (const char* name : {"layout", "wind"}) {
    try {
      knobs.number(name);
      FAIL() << name;
    } catch (const Error& error) {
      EXPECT_NE(std::string(error.what()).find(name), std::string::npos);
      EXPECT_EQ(error.fault().kind, FaultKind::variant);
    }
  }
  EXPECT_EQ(knobs.text("layout"), "tight");
}

TEST(Knobs, AChoiceTakesItsFirstNameAsPreset) {
  const Knob knob = Knob::choice("layout", "how", {"tight", "loose"});
  EXPECT_FALSE(knob.numeric());
  EXPECT_EQ(std::get<std::string>(knob.default_value), "tight");
}

TEST(Knobs, TouchAllVariantsUnlessTold) {
  const Knob all = Knob::real("wind", "", {.default_value = 1, .min = 0, .max = 9});
  EXPECT_TRUE(all.is_affecting("columns"));
  const Knob one = all.affecting({"objects"});
  EXPECT_TRUE(one.is_affecting("objects"));
  EXPECT_FALSE(one.is_affecting("columns"));
}

}  // namespace
}  // namespace mileage
