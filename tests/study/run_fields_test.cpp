#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "study/json_forms.h"
#include "study/study_json.h"

namespace mileage {
namespace {

/// No field has its default.
mileage::Run full_run() {
  mileage::Run run;
  run.series.variant = "objects";
  run.series.knobs.set("wind", 2.0);
  run.series.cold_bytes = 8e6;
  run.series.build = "after";
  run.series.skipped_phase = "gather";
  run.count = run.alive = 100;
  run.block = 2;
  run.order = 7;
  run.process = 3;
  run.status = RunStatus::bound;
  run.failure = "capped";
  run.seed = 99;
  run.took_s = 1.5;
  run.load = MachineLoad{1.25, 0.125, 0.5};
  run.left_behind = 1;
  run.setup_ms = 4;
  run.start_ms = 52;
  run.frames_per_sample = 1;
  run.warmup_ns = {9, 8};
  run.samples_ns = {3, 4};
  run.waited_ns = {0, 1};
  run.phases_ms = {{"drift", 1.0}};
  run.inner_phases = {"drift"};
  run.counters = {{"updates", 600.0}};
  run.kernel_ms = 0.5;
  run.page_faults = 12;
  run.voluntary_switches = 3;
  run.work = WorkByWorker{{1.5, 0.5}, {60, 40}, {2, 1}, 0.75, 0.25, 0.125};
  run.trace = Trace{{{"drift", {1, 2}}}, {{0, 1, 5, 9, 20}}};
  run.thread_busy_ms = 2;
  run.processor_ms = 3;
  run.whole_processor_ms = 5;
  run.walked_ms = 6;
  run.memory = {1e6, 2e6, 3e6, 4e6, 5e6, 6e6, 5e7};
  run.yardstick = YardstickReading{3, 20, 10, 11, 9};
  run.yardstick->moments = 7;
  run.yardstick->geometric_ns = 10.2;
  run.read_share = 0.1;
  run.arrived = 50;
  run.float_mode = "flush to zero";
  run.outcome.state("mean height", 0.5, 1e-6, 1);
  return run;
}

TEST(RunFields, AllButThoseOfAnotherKindAreWrittenAndReadBack) {
  const Json json = to_json(full_run());
  for (const Field& field : fields_of<mileage::Run>())
    EXPECT_EQ(json.contains(field.name), field.name != "varied" && field.name != "check_frames") << field.name;
  EXPECT_EQ(to_line(to_json(run_from_json(json))), to_line(json));
}

TEST(RunFields, OlderFilesTellLessOfProbes) {
  Json json = to_json(full_run());
  EXPECT_EQ(run_from_json(json).yardstick->moments, 7);
  EXPECT_EQ(run_from_json(json).yardstick->geometric_ns, 10.2);
  json["yardstick"].erase("moments");
  json["yardstick"].erase("geometric_ns");
  EXPECT_EQ(run_from_json(json).yardstick->moments, 0);
  EXPECT_EQ(run_from_json(json).yardstick->log_mean_excess(), 0);
}

TEST(RunFields, HaveAMeaningEach) {
  std::vector<std::string> names;
  for (const Field& field : fields_of<mileage::Run>()) {
    EXPECT_FALSE(field.meaning.empty()) << field.name;
    EXPECT_THAT(names, testing::Not(testing::Contains(field.name)));
    names.push_back(field.name);
  }
}

TEST(RunFields, AFailedRunHasAReasonInsteadOfFrames) {
  mileage::Run run = full_run();
  run.status = RunStatus::failed;
  const Json json = to_json(run);
  EXPECT_FALSE(json.contains("samples_ns"));
  EXPECT_EQ(run_from_json(json).failure, "capped");
  Json without = json;
  without.erase("failure");
  EXPECT_THROW(run_from_json(without), Error);
}

TEST(RunFields, FramesMustBeThereUnlessItFailed) {
  for (const char* field : {"frames_per_sample", "warmup_ns", "samples_ns", "alive", "outcome"}) {
    Json json = to_json(full_run());
    json.erase(field);
    EXPECT_THROW(run_from_json(json), Error) << field;
  }
}

TEST(RunFields, OlderNamesAndZerosThatStoodForUnknownAreRead) {
  Json json = to_json(full_run());
  json["status"] = "repeated";
  json["setup_ms"] = json["thread_busy_ms"] = json["busy_cores"] = json["stolen_share"] = 0;
  json["memory_bytes"]["peak"] = 0;
  json.erase("process");
  const mileage::Run run = run_from_json(json);
  EXPECT_EQ(run.status, RunStatus::disturbed);
  EXPECT_FALSE(run.setup_ms);
  EXPECT_FALSE(run.thread_busy_ms);
  EXPECT_FALSE(run.load);
  EXPECT_FALSE(run.memory.peak_bytes);
  EXPECT_EQ(run.process, run.order);
}

TEST(RunFields, AFaultNamesItsField) {
  const auto fault_with = [](auto change) {
    mileage::Run run = full_run();
    change(run);
    const auto fault = first_fault(run);
    return fault ? fault->field : "none";
  };
  EXPECT_EQ(fault_with([](mileage::Run&) {}), "none");
  EXPECT_EQ(fault_with([](mileage::Run& run) { run.count = 0; }), "count");
  EXPECT_EQ(fault_with([](mileage::Run& run) { run.setup_ms = std::nan(""); }), "setup_ms");
  EXPECT_EQ(fault_with([](mileage::Run& run) { run.samples_ns = {5, 0}; }), "samples_ns");
  EXPECT_EQ(fault_with([](mileage::Run& run) { run.waited_ns = {5, -1}; }), "waited_ns");
  EXPECT_EQ(fault_with([](mileage::Run& run) { run.memory.end_bytes = -1; }), "memory_bytes");
  EXPECT_EQ(fault_with([](mileage::Run& run) { run.series.cold_bytes = -1; }), "cold_bytes");
  EXPECT_EQ(fault_with([](mileage::Run& run) { run.phases_ms["drift"] = -1; }), "phase:drift");
  EXPECT_EQ(fault_with([](mileage::Run& run) { run.yardstick->other_half_ns = 0; }), "yardstick");
}

}  // namespace
}  // namespace mileage
