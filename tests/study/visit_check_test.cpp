#include "study/visit_check.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

Visit good() {
  Visit visit;
  visit.series = {"objects", {}};
  visit.count = visit.alive = 100;
  visit.samples_ns = {1000, 2000};
  visit.counters = {{"calls", -3}};
  return visit;
}

template <class Change>
std::string field_of_fault(Change change) {
  Visit visit = good();
  change(visit);
  const auto fault = fault_in(visit);
  return fault ? fault->field : "";
}

TEST(VisitCheck, AGoodVisitHasNoFault) { EXPECT_FALSE(fault_in(good())); }

TEST(VisitCheck, NamesTheFieldThatCannotBe) {
  EXPECT_EQ(field_of_fault([](Visit& v) { v.count = 0; }), "count");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.samples_ns = {5, 0}; }), "samples_ns");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.warmup_ns = {-1}; }), "warmup_ns");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.frames_per_sample = 0; }), "frames_per_sample");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.counters["calls"] = HUGE_VAL; }), "counter:calls");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.phases_ms["move"] = -1; }), "phase:move");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.setup_ms = std::nan(""); }), "setup_ms");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.series.knobs.set("wind", std::nan("")); }), "knob wind");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.memory.peak_bytes = -1; }), "memory_bytes");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.outcome.state("height", 1, -1); }), "tolerance of height");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.outcome.state("height", std::nan(""), 0); }), "")
      << "an outcome may state no number: it agrees with nothing";
}

TEST(VisitCheck, OfAFailedVisitOnlyItsPlaceIsLookedAt) {
  EXPECT_EQ(field_of_fault([](Visit& v) { v.status = VisitStatus::failed, v.samples_ns = {0}; }), "");
  EXPECT_EQ(field_of_fault([](Visit& v) { v.status = VisitStatus::failed, v.block = -2; }), "block");
}

}  // namespace
}  // namespace mileage
