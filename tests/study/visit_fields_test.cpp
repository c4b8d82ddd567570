// Every described field of a visit is written, read back and checked.
#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "study/json_forms.h"
#include "study/study_json.h"

namespace mileage {
namespace {

/// A visit in which no field holds what it holds in a new one.
Visit full_visit() {
  Visit visit;
  visit.series.variant = "objects";
  visit.series.knobs.set("wind", 2.0);
  visit.series.cold_bytes = 8e6;
  visit.series.build = "after";
  visit.series.without = "gather";
  visit.count = visit.alive = 100;
  visit.block = 2;
  visit.order = 7;
  visit.process = 3;
  visit.status = VisitStatus::bound;
  visit.failure = "capped";
  visit.seed = 99;
  visit.took_s = 1.5;
  visit.load = MachineLoad{1.25, 0.125, 0.5};
  visit.left_behind = 1;
  visit.setup_ms = 4;
  visit.start_ms = 52;
  visit.frames_per_sample = 1;
  visit.warmup_ns = {9, 8};
  visit.samples_ns = {3, 4};
  visit.waited_ns = {0, 1};
  visit.phases_ms = {{"drift", 1.0}};
  visit.inner_phases = {"drift"};
  visit.counters = {{"updates", 600.0}};
  visit.kernel_ms = 0.5;
  visit.page_faults = 12;
  visit.halts = 3;
  visit.work = WorkByWorker{{1.5, 0.5}, {60, 40}, {2, 1}, 0.75, 0.25, 0.125};
  visit.trace = Trace{{{"drift", {1, 2}}}, {{0, 1, 5, 9, 20}}};
  visit.thread_busy_ms = 2;
  visit.processor_ms = 3;
  visit.whole_processor_ms = 5;
  visit.walked_ms = 6;
  visit.memory = {1e6, 2e6, 3e6, 4e6, 5e6, 6e6, 5e7};
  visit.yardstick = YardstickReading{3, 20, 10, 11, 9};
  visit.yardstick->moments = 7;
  visit.yardstick->geometric_ns = 10.2;
  visit.read_share = 0.1;
  visit.arrived = 50;
  visit.float_mode = "flush to zero";
  visit.outcome.state("mean height", 0.5, 1e-6, 1);
  return visit;
}

TEST(VisitFields, AllButThoseOfAnotherKindAreWrittenAndReadBack) {
  const Json json = to_json(full_visit());
  for (const Field& field : fields_of<Visit>())
    EXPECT_EQ(json.contains(field.name), field.name != "varied" && field.name != "check_frames") << field.name;
  EXPECT_EQ(to_line(to_json(visit_from_json(json))), to_line(json));
}

TEST(VisitFields, OlderFilesTellLessOfProbes) {
  Json json = to_json(full_visit());
  EXPECT_EQ(visit_from_json(json).yardstick->moments, 7);
  EXPECT_EQ(visit_from_json(json).yardstick->geometric_ns, 10.2);
  json["yardstick"].erase("moments");
  json["yardstick"].erase("geometric_ns");
  EXPECT_EQ(visit_from_json(json).yardstick->moments, 0);
  EXPECT_EQ(visit_from_json(json).yardstick->log_raised(), 0);
}

TEST(VisitFields, HaveAMeaningEach) {
  std::vector<std::string> names;
  for (const Field& field : fields_of<Visit>()) {
    EXPECT_FALSE(field.meaning.empty()) << field.name;
    EXPECT_THAT(names, testing::Not(testing::Contains(field.name)));
    names.push_back(field.name);
  }
}

TEST(VisitFields, AFailedVisitHasAReasonInsteadOfFrames) {
  Visit visit = full_visit();
  visit.status = VisitStatus::failed;
  const Json json = to_json(visit);
  EXPECT_FALSE(json.contains("samples_ns"));
  EXPECT_EQ(visit_from_json(json).failure, "capped");
  Json without = json;
  without.erase("failure");
  EXPECT_THROW(visit_from_json(without), Error);
}

TEST(VisitFields, FramesMustBeThereUnlessItFailed) {
  for (const char* field : {"frames_per_sample", "warmup_ns", "samples_ns", "alive", "outcome"}) {
    Json json = to_json(full_visit());
    json.erase(field);
    EXPECT_THROW(visit_from_json(json), Error) << field;
  }
}

TEST(VisitFields, OlderNamesAndZerosThatStoodForUnknownAreRead) {
  Json json = to_json(full_visit());
  json["status"] = "repeated";
  json["setup_ms"] = json["thread_busy_ms"] = json["busy_cores"] = json["stolen_share"] = 0;
  json["memory_bytes"]["peak"] = 0;
  json.erase("process");
  const Visit visit = visit_from_json(json);
  EXPECT_EQ(visit.status, VisitStatus::disturbed);
  EXPECT_FALSE(visit.setup_ms);
  EXPECT_FALSE(visit.thread_busy_ms);
  EXPECT_FALSE(visit.load);
  EXPECT_FALSE(visit.memory.peak_bytes);
  EXPECT_EQ(visit.process, visit.order);
}

TEST(VisitFields, AFaultNamesItsField) {
  const auto fault_with = [](auto change) {
    Visit visit = full_visit();
    change(visit);
    const auto fault = first_fault(visit);
    return fault ? fault->field : "none";
  };
  EXPECT_EQ(fault_with([](Visit&) {}), "none");
  EXPECT_EQ(fault_with([](Visit& visit) { visit.count = 0; }), "count");
  EXPECT_EQ(fault_with([](Visit& visit) { visit.setup_ms = std::nan(""); }), "setup_ms");
  EXPECT_EQ(fault_with([](Visit& visit) { visit.samples_ns = {5, 0}; }), "samples_ns");
  EXPECT_EQ(fault_with([](Visit& visit) { visit.waited_ns = {5, -1}; }), "waited_ns");
  EXPECT_EQ(fault_with([](Visit& visit) { visit.memory.end_bytes = -1; }), "memory_bytes");
  EXPECT_EQ(fault_with([](Visit& visit) { visit.series.cold_bytes = -1; }), "cold_bytes");
  EXPECT_EQ(fault_with([](Visit& visit) { visit.phases_ms["drift"] = -1; }), "phase:drift");
  EXPECT_EQ(fault_with([](Visit& visit) { visit.yardstick->other_half_ns = 0; }), "yardstick");
}

}  // namespace
}  // namespace mileage
