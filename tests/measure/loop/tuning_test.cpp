#include "measure/loop/tuning.h"

#include <gtest/gtest.h>

#include <cmath>
#include <set>

#include "measure/loop/measure_study.h"
#include "measure/runners/same_process_runner.h"
#include "support/scripted.h"

namespace mileage {
namespace {

class BatchVariant : public Variant {
 public:
  BatchVariant(scripted::VirtualClock& clock, const SetUp& set_up) : clock_(clock), set_up_(set_up) {}
  void run_frame(Frame& frame) override {
    frame.add("updates", static_cast<double>(set_up_.count));
    const double off = std::log10(set_up_.knobs.number("batch") / 1000);
    clock_.pass(std::llround(1e6 * (1 + 0.5 * off * off)));
  }
  std::int64_t alive() const override { return set_up_.count; }
  Outcome outcome() const override { return {}; }

 private:
  scripted::VirtualClock& clock_;
  SetUp set_up_;
};

class TuningLoop : public testing::Test {
 protected:
  TuningLoop() {
    Scenario scenario;
    scenario.name = "night";
    catalogue_.add(scenario);
    VariantFacts jobs;
    jobs.name = "jobs";
    jobs.knobs = {Knob::integer("batch", "", {.default_value = 100'000, .min = 1, .max = 1'000'000})};
    catalogue_.add_variant(
        "night", jobs, [this](const mileage::SetUp& set_up) { return std::make_unique<BatchVariant>(clock_, set_up); });
  }

  Study measured(std::vector<std::string> values, std::vector<std::string> tune) {
    PlanRequest request;
    request.counts = {1000};
    request.blocks = 8;
    request.knobs["batch"] = std::move(values);
    request.tune = std::move(tune);
    Head head;
    head.scenario = catalogue_.scenarios().front();
    head.plan = make_plan(head.scenario, request);
    head.full_speed_ns = fast_ns;
    SameProcessRunner runner(catalogue_, Instruments{&clock_, &yardstick_, nullptr});
    Study study{head, {}, {}, {}};
    Watch watch;
    watch.keep = [&](const mileage::Run& run) { study.runs.push_back(run); };
    measure_study(head, {}, runner, clock_, watch);
    return study;
  }

  static std::map<double, int> runs_by_value(const Study& study) {
    std::map<double, int> runs;
    for (const mileage::Run& run : study.runs)
      if (run.block >= 0) ++runs[run.series.knobs.number("batch")];
    return runs;
  }

  scripted::VirtualClock clock_;
  static constexpr double fast_ns = 100;
  double yardstick_ns_ = fast_ns;
  scripted::ScriptedYardstick yardstick_{[this] { return yardstick_ns_; }};
  Catalogue catalogue_;
};

const std::vector<std::string> many_values{"1",    "5",     "10",    "50",     "100",    "300",    "1000",
                                           "3000", "10000", "30000", "100000", "500000", "1000000"};

TEST_F(TuningLoop, TimeGoesToWhatMayBeBest) {
  const auto runs = runs_by_value(measured(many_values, {"batch"}));
  EXPECT_EQ(runs.at(1000), 8);
  EXPECT_EQ(runs.at(1), 6) << "four and a half times as dear: enough for an interval, and no more";
  EXPECT_EQ(runs.count(5), 0U) << "between two coarse values that are dear";
  EXPECT_EQ(runs.at(100'000), 8) << "the default stays";
}

TEST_F(TuningLoop, ValuesBesideTheBestAreLookedAt) {
  const auto runs = runs_by_value(measured(many_values, {"batch"}));
  EXPECT_GE(runs.at(300), 7);
  EXPECT_GE(runs.at(3000), 7);
}

TEST_F(TuningLoop, OnABusyMachineCoarseValuesTellLessOfThoseBesideThem) {
  yardstick_ns_ = 2.6 * fast_ns;
  const auto runs = runs_by_value(measured(many_values, {"batch"}));
  EXPECT_EQ(runs.at(10), 6) << "50 takes 1.9 times the best, which slopes that differ may hide";
  EXPECT_EQ(runs.at(1), 6) << "5.5 times: more than they can hide";
}

TEST_F(TuningLoop, APlanThatTunesNothingRunsAll) {
  for (const auto& [value, runs] : runs_by_value(measured(many_values, {}))) EXPECT_EQ(runs, 8) << value;
}

}  // namespace
}  // namespace mileage
