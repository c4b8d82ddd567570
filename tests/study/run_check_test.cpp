#include "study/run_check.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

mileage::Run good() {
  mileage::Run run;
  run.series = {"objects", {}};
  run.count = run.alive = 100;
  run.samples_ns = {1000, 2000};
  run.counters = {{"calls", -3}};
  return run;
}

template <class Change>
std::string field_of_fault(Change change) {
  mileage::Run run = good();
  change(run);
  const auto fault = fault_in(run);
  return fault ? fault->field : "";
}

TEST(RunCheck, AGoodRunHasNoFault) { EXPECT_FALSE(fault_in(good())); }

TEST(RunCheck, NamesTheFieldThatCannotBe) {
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.count = 0; }), "count");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.samples_ns = {5, 0}; }), "samples_ns");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.warmup_ns = {-1}; }), "warmup_ns");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.frames_per_sample = 0; }), "frames_per_sample");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.counters["calls"] = HUGE_VAL; }), "counter:calls");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.phases_ms["move"] = -1; }), "phase:move");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.setup_ms = std::nan(""); }), "setup_ms");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.series.knobs.set("wind", std::nan("")); }), "knob wind");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.memory.peak_bytes = -1; }), "memory_bytes");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.outcome.state("height", 1, -1); }), "tolerance of height");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.outcome.state("height", std::nan(""), 0); }), "")
      << "an outcome may state no number: it agrees with nothing";
}

TEST(RunCheck, OfAFailedRunOnlyItsPlaceIsLookedAt) {
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.status = RunStatus::failed, v.samples_ns = {0}; }), "");
  EXPECT_EQ(field_of_fault([](mileage::Run& v) { v.status = RunStatus::failed, v.block = -2; }), "block");
}

}  // namespace
}  // namespace mileage
