#include "study/knobs_cell.h"

#include <gtest/gtest.h>

#include "types/error.h"

namespace mileage {
namespace {

TEST(KnobsCell, HoldsEveryValueThatAKnobMayHave) {
  Knobs knobs;
  knobs.set("scatter", 0.25);
  knobs.set("workers", 2.0);
  knobs.set("way", "far off, 100% = all");
  EXPECT_EQ(knobs_cell(knobs), "scatter=0.25 way=far%20off,%20100%25%20%3d%20all workers=2");
  EXPECT_EQ(knobs_from_cell(knobs_cell(knobs)), knobs);
  EXPECT_EQ(knobs_from_cell(knob_cell("a name", "12")).number("a name"), 12);
  EXPECT_EQ(knobs_cell({}), "");
  EXPECT_EQ(knobs_from_cell("  "), Knobs{});
}

TEST(KnobsCell, WhatIsNoNumberIsText) {
  const Knobs knobs = knobs_from_cell("a=1e3 b=1e3x c=inf d=%zz");
  EXPECT_EQ(knobs.number("a"), 1000);
  EXPECT_EQ(knobs.text("b"), "1e3x");
  EXPECT_EQ(knobs.text("c"), "inf");
  EXPECT_EQ(knobs.text("d"), "%zz");
}

TEST(KnobsCell, RefusesWhatIsNoList) {
  for (const char* cell : {"scatter", "scatter=1 workers", "=1"}) EXPECT_THROW(knobs_from_cell(cell), Error) << cell;
}

}  // namespace
}  // namespace mileage
