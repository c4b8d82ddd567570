#include "measure/in_process/make_run.h"

#include <cmath>
#include <ctime>
#include <stdexcept>
#include <thread>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

using scripted::VirtualClock;
using testing::HasSubstr;

RunRequest request_for(const char* variant, std::int64_t count = 100) {
  return {"night", {variant, {}}, count, 7, 20, 20};
}

mileage::Run run_with(scripted::FrameTimes times, std::int64_t reading_ns = 0, int min_frames = 20) {
  VirtualClock clock(reading_ns);
  const Catalogue catalogue = scripted::catalogue_of(clock, {{"objects", std::move(times)}});
  RunRequest request = request_for("objects");
  request.min_frames = min_frames;
  return make_run(request, catalogue, {&clock, nullptr});
}

TEST(MakeRun, MeasuresEveryFrameInNanoseconds) {
  const mileage::Run run = run_with([](std::int64_t, std::int64_t) { return 2'000'000; });
  EXPECT_EQ(run.samples_ns, std::vector<std::int64_t>(20, 2'000'000));
  EXPECT_EQ(run.frames_per_sample, 1);
  EXPECT_DOUBLE_EQ(*run.setup_ms, 5);
  EXPECT_EQ(run.alive, 100);
  EXPECT_EQ(run.seed, 7U);
}

TEST(MakeRun, GoesOnUntilBothFramesAndTimeAreEnough) {
  EXPECT_EQ(run_with([](std::int64_t, std::int64_t) { return 100'000; }).samples_ns.size(), 200U);   // 20 ms.
  EXPECT_EQ(run_with([](std::int64_t, std::int64_t) { return 2'000'000; }).samples_ns.size(), 20U);  // 20 frames.
  EXPECT_EQ(run_with([](std::int64_t, std::int64_t) { return 50'000'000; }).samples_ns.size(), 20U);
  EXPECT_EQ(run_with([](std::int64_t, std::int64_t) { return 50'000'000; }, 0, 3).samples_ns.size(), 3U);
}

mileage::Run cold_run(std::int64_t frame_ns, std::int64_t reading_ns = 0) {
  VirtualClock clock(reading_ns);
  const Catalogue catalogue =
      scripted::catalogue_of(clock, {{"objects", [=](std::int64_t, std::int64_t) { return frame_ns; }}});
  RunRequest request = request_for("objects");
  request.series.cold_bytes = 4'000'000;
  return make_run(request, catalogue, {&clock, nullptr});
}

TEST(MakeRun, ColdFramesAreTimedWithoutTheWalkBetweenThem) {
  const mileage::Run run = cold_run(2'000'000, 1000);
  EXPECT_EQ(run.samples_ns.size(), 20U);
  for (const std::int64_t sample : run.samples_ns) EXPECT_EQ(sample, 2'000'000 + 3 * 1000);  // Its own three readings.
  EXPECT_NEAR(run.walked_ms, 1e-3 * static_cast<double>(run.samples_ns.size() + run.warmup_ns.size()), 1e-9);
}

TEST(MakeRun, ColdFramesAreNeverTimedInRunsAndTheirNumberIsEnough) {
  const mileage::Run run = cold_run(100, 30);
  EXPECT_EQ(run.frames_per_sample, 1);
  EXPECT_EQ(run.samples_ns.size(), 20U);  // Two microseconds instead of 20 ms.
}

TEST(MakeRun, ProcessorTimesLeaveOutTheWalk) {
  const std::clock_t before = std::clock();
  const mileage::Run run = cold_run(1'000'000);  // Nearly all real time is the walk.
  const double with_the_walk_ms = 1e3 * static_cast<double>(std::clock() - before) / CLOCKS_PER_SEC;
  EXPECT_GE(run.thread_busy_ms, 0);
  EXPECT_LT(run.thread_busy_ms, with_the_walk_ms / 2);
  EXPECT_LT(run.processor_ms, with_the_walk_ms / 2);
}

TEST(MakeRun, KeepsWarmUpApart) {
  const mileage::Run run =
      run_with([](std::int64_t, std::int64_t frame) { return frame == 0 ? 90'000'000 : 2'000'000; });
  EXPECT_EQ(run.warmup_ns.front(), 90'000'000);
  EXPECT_EQ(*std::max_element(run.samples_ns.begin(), run.samples_ns.end()), 2'000'000);
}

TEST(MakeRun, TimesVeryShortFramesInRuns) {
  const mileage::Run run = run_with([](std::int64_t, std::int64_t) { return 100; }, 30);
  const int frame_with_its_readings = 100 + 3 * 30;
  EXPECT_GE(run.frames_per_sample * frame_with_its_readings, 100 * 30);
  EXPECT_LT((run.frames_per_sample - 1) * frame_with_its_readings, 100 * 30);
  EXPECT_EQ(run.samples_ns.size() <= max_samples, true);
  EXPECT_EQ(run.outcome.quantities().front().value,
            static_cast<double>(run.measured_frames() + static_cast<std::int64_t>(run.warmup_ns.size())));
}

std::int64_t readings_for_frames(int frames) {
  VirtualClock clock;
  const Catalogue catalogue =
      scripted::catalogue_of(clock, {{"objects", [](std::int64_t, std::int64_t) { return 50'000; }}});
  RunRequest request = request_for("objects");
  request.min_frames = frames;
  request.min_ms = 0;
  const mileage::Run run = make_run(request, catalogue, {&clock, nullptr});
  EXPECT_EQ(run.measured_frames(), frames);
  return clock.readings();
}

TEST(MakeRun, ReadsTheClockOncePerFrameBesidesItsPhases) {
  const std::int64_t more = readings_for_frames(1020) - readings_for_frames(20);
  EXPECT_GE(more, 1000 * (1 + 2)) << "one for the sample, two for the phase";
  EXPECT_LE(more, 1000 * (1 + 2) + 10)
      << "and one where memory is looked at, whenever the number of samples has doubled";
}

TEST(MakeRun, SumsPhasesAndCountersOverMeasuredFramesOnly) {
  const mileage::Run run = run_with([](std::int64_t, std::int64_t) { return 2'000'000; });
  EXPECT_DOUBLE_EQ(run.phases_ms.at("move"), 40);
  EXPECT_DOUBLE_EQ(run.counters.at("updates"), 20 * 100);
}

TEST(MakeRun, AVariantThatThrowsFailsWithItsMessage) {
  const mileage::Run run = run_with([](std::int64_t, std::int64_t frame) -> std::int64_t {
    if (frame == 10) throw std::runtime_error("the wick is wet");
    return 2'000'000;
  });
  EXPECT_EQ(run.status, RunStatus::failed);
  EXPECT_EQ(run.failure, "the variant threw: the wick is wet");
  EXPECT_TRUE(run_with([](std::int64_t, std::int64_t) -> std::int64_t { throw 3; }).failure.find("no exception") !=
              std::string::npos);
}

class WrongVariant : public Variant {
 public:
  enum class Wrong { loses_one, no_number, does_nothing };
  WrongVariant(const mileage::SetUp& set_up, Wrong wrong) : count_(set_up.count), wrong_(wrong) {}
  void run_frame(Frame& frame) override { frame.add("updates", static_cast<double>(count_)); }
  std::int64_t alive() const override { return wrong_ == Wrong::loses_one ? count_ - 1 : count_; }
  Outcome outcome() const override {
    Outcome outcome;
    outcome.state("mean height", wrong_ == Wrong::no_number ? std::nan("") : 1.0, 0.1);
    return outcome;
  }

 private:
  std::int64_t count_;
  Wrong wrong_;
};

std::string failure_of(WrongVariant::Wrong wrong, bool may_skip = false) {
  VirtualClock clock(10);
  Catalogue catalogue = scripted::catalogue_of(clock, {});
  VariantFacts facts{"wrong", "", {}, ""};
  facts.may_skip = may_skip;
  catalogue.add_variant("night", facts,
                        [wrong](const SetUp& set_up) { return std::make_unique<WrongVariant>(set_up, wrong); });
  return make_run(request_for("wrong", 1'000'000), catalogue, {&clock, nullptr}).failure;
}

TEST(MakeRun, AWorldThatLosesEntitiesFails) {
  EXPECT_THAT(failure_of(WrongVariant::Wrong::loses_one),
              HasSubstr("1000000 entities were asked for, and 999999 are alive"));
}

TEST(MakeRun, AnOutcomeThatIsNoNumberFails) {
  EXPECT_THAT(failure_of(WrongVariant::Wrong::no_number), HasSubstr("no number for mean height"));
}

TEST(MakeRun, AFrameTooFastToBeTrueFailsUnlessItMaySkip) {
  EXPECT_THAT(failure_of(WrongVariant::Wrong::does_nothing), HasSubstr("too fast to be true"));
  EXPECT_EQ(failure_of(WrongVariant::Wrong::does_nothing, true), "");
}

TEST(MakeRun, ACheckRunsExactlyItsFrames) {
  VirtualClock clock;
  const Catalogue catalogue =
      scripted::catalogue_of(clock, {{"objects", [](std::int64_t, std::int64_t) { return 1000; }}});
  RunRequest request = request_for("objects");
  request.check_frames = 7;
  const mileage::Run run = make_run(request, catalogue, {&clock, nullptr});
  EXPECT_EQ(run.outcome.quantities().front().value, 7);
  EXPECT_TRUE(run.samples_ns.empty());
}

TEST(MakeRun, LetsArriveAfterTheOthersHaveSettled) {
  VirtualClock clock;
  const Catalogue catalogue =
      scripted::catalogue_of(clock, {{"objects", [](std::int64_t count, std::int64_t) { return 10'000 * count; }}});
  RunRequest request = request_for("objects");
  request.arrive = 40;
  const mileage::Run run = make_run(request, catalogue, {&clock, nullptr});
  ASSERT_EQ(run.status, RunStatus::kept) << run.failure;
  EXPECT_EQ(run.arrived, 40);
  EXPECT_EQ(run.alive, 100);
  EXPECT_EQ(run.warmup_ns.front(), 1'000'000 + 40 * scripted::arriving_ns) << "the frame in which they came";
  EXPECT_EQ(run.warmup_ns[1], 1'000'000);
  EXPECT_EQ(run.samples_ns.front(), 1'000'000) << "with all of them";
}

/// Ignores arrivals.
class ClosedVariant : public Variant {
 public:
  ClosedVariant(VirtualClock& clock, std::int64_t count) : clock_(clock), count_(count) {}
  void run_frame(Frame&) override { clock_.pass(1'000'000); }
  std::int64_t alive() const override { return count_; }
  Outcome outcome() const override { return {}; }

 private:
  VirtualClock& clock_;
  std::int64_t count_;
};

TEST(MakeRun, AVariantThatLetsNobodyInFailsWithAdvice) {
  VirtualClock clock;
  Catalogue catalogue;
  Scenario scenario;
  scenario.name = "night";
  catalogue.add(scenario);
  catalogue.add_variant("night", {"closed", "", {}, ""}, [&](const mileage::SetUp& set_up) {
    return std::make_unique<ClosedVariant>(clock, set_up.count);
  });
  RunRequest request = request_for("closed");
  request.arrive = 40;
  EXPECT_THAT(make_run(request, catalogue, {&clock, nullptr}).failure,
              HasSubstr("100 entities were asked for, and 60 are alive at the end; a variant lets in as many as "
                        "Frame::arriving() says"));
}

TEST(MakeRun, IsProbedBetweenItsFramesOutsideTheirTime) {
  VirtualClock clock;
  const Catalogue catalogue =
      scripted::catalogue_of(clock, {{"objects", [](std::int64_t, std::int64_t) { return 2'000'000; }}});
  scripted::ScriptedYardstick yardstick([&] {
    clock.pass(15'000);
    return 15'000.0;
  });
  const mileage::Run run = make_run(request_for("objects"), catalogue, {&clock, &yardstick});
  ASSERT_TRUE(run.yardstick);
  EXPECT_EQ(run.yardstick->probes, 2 * static_cast<int>(run.samples_ns.size())) << "2 ms a frame, two probes each";
  for (const std::int64_t sample : run.samples_ns) EXPECT_EQ(sample, 2'000'000);
}

/// 1.5 cores busy, a quarter stolen.
LoadReading scripted_load() {
  static double readings = 0;
  ++readings;
  const double cores = std::thread::hardware_concurrency();
  return {1.5 * readings, 0.25 * cores * readings, cores * readings};
}

TEST(MakeRun, ReadsTheLoadOfTheMachineWhereThereIsOne) {
  VirtualClock clock;
  const Catalogue catalogue =
      scripted::catalogue_of(clock, {{"objects", [](std::int64_t, std::int64_t) { return 1'000'000; }}});
  const mileage::Run run = make_run(request_for("objects"), catalogue, {&clock, nullptr, scripted_load});
  EXPECT_EQ(run.failure, "");
  EXPECT_NEAR(run.load->busy_cores, 1.5, 1e-12);
  EXPECT_NEAR(run.load->stolen_share, 0.25, 1e-12);
  EXPECT_FALSE(make_run(request_for("objects"), catalogue, {&clock, nullptr}).load);
}

TEST(MakeRun, AVariantThatTheProgramDoesNotHaveFails) {
  VirtualClock clock;
  const Catalogue catalogue = scripted::catalogue_of(clock, {});
  EXPECT_THAT(make_run(request_for("objects"), catalogue, {&clock, nullptr}).failure,
              HasSubstr("no such variant; found \"objects of night\""));
}

/// 3 calls per frame, 500 pixels untimed.
class CountsAside : public Variant {
 public:
  explicit CountsAside(VirtualClock& clock) : clock_(&clock) {}
  void run_frame(Frame& frame) override {
    clock_->pass(2'000'000);
    frame.add("calls", 3);
  }
  void count_untimed(Frame& frame) const override { frame.add("pixels", 500); }
  std::int64_t alive() const override { return 100; }
  Outcome outcome() const override { return {}; }

 private:
  VirtualClock* clock_;
};

TEST(MakeRun, WhatIsCountedAsideHoldsForEveryFrame) {
  VirtualClock clock;
  Catalogue catalogue;
  Scenario night;
  night.name = "night";
  catalogue.add(night);
  catalogue.add_variant("night", {"objects", "", {}, ""},
                        [&](const mileage::SetUp&) { return std::make_unique<CountsAside>(clock); });
  const mileage::Run run = make_run(request_for("objects"), catalogue, {&clock, nullptr});
  EXPECT_EQ(run.measured_frames(), 20);
  EXPECT_EQ(run.counters.at("calls"), 60);
  EXPECT_EQ(run.counters.at("pixels"), 10'000);
}

TEST(MakeRun, ADriversStartStandsApartFromTheWorlds) {
  VirtualClock clock;
  Catalogue catalogue;
  Scenario night;
  night.name = "night";
  catalogue.add(night);
  const auto factory = [&](const mileage::SetUp&) {
    clock.pass(3'000'000);
    return std::make_unique<CountsAside>(clock);
  };
  catalogue.add_variant("night", {"compute", "", {}, ""}, factory, {}, [&] { clock.pass(40'000'000); });
  catalogue.add_variant("night", {"objects", "", {}, ""}, factory);
  catalogue.add_variant("night", {"broken", "", {}, ""}, factory, {}, [] { throw std::runtime_error("no driver"); });
  const mileage::Run run = make_run(request_for("compute"), catalogue, {&clock, nullptr});
  EXPECT_DOUBLE_EQ(run.start_ms.value_or(0), 40);
  EXPECT_TRUE(run.memory.start_bytes);
  EXPECT_DOUBLE_EQ(*run.setup_ms, 3);
  EXPECT_FALSE(make_run(request_for("objects"), catalogue, {&clock, nullptr}).start_ms);
  EXPECT_THAT(make_run(request_for("broken"), catalogue, {&clock, nullptr}).failure, HasSubstr("no driver"));
}

}  // namespace
}  // namespace mileage
