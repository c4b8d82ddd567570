#include "measure/runners/frame_meter.h"

#include <gtest/gtest.h>

#include "support/scripted.h"
#include "types/error.h"

namespace mileage {
namespace {

/// Runs a function as its frame.
class FunctionVariant : public Variant {
 public:
  explicit FunctionVariant(std::function<void(Frame&)> run) : run_(std::move(run)) {}
  void run_frame(Frame& frame) override { run_(frame); }
  std::int64_t alive() const override { return 1; }
  Outcome outcome() const override { return {}; }

 private:
  std::function<void(Frame&)> run_;
};

TEST(FrameMeter, PhasesMayBeNestedOnceAndOccurSeveralTimes) {
  scripted::VirtualClock clock;
  FunctionVariant variant([&](Frame& frame) {
    const auto outer = frame.phase("update");
    for (int i = 0; i < 2; ++i) {
      const auto inner = frame.phase("gather");
      clock.pass(1'000'000);
    }
    clock.pass(3'000'000);
  });
  FrameMeter meter(variant, clock);
  meter.start();
  EXPECT_EQ(meter.sample(1), 5'000'000);
  EXPECT_DOUBLE_EQ(meter.phases_ms().at("update"), 5);
  EXPECT_DOUBLE_EQ(meter.phases_ms().at("gather"), 2);
}

TEST(FrameMeter, DeeperNestingIsAMistakeOfTheVariant) {
  scripted::VirtualClock clock;
  FunctionVariant variant([](Frame& frame) {
    const auto a = frame.phase("a");
    const auto b = frame.phase("b");
    const auto c = frame.phase("c");
  });
  FrameMeter meter(variant, clock);
  meter.start();
  EXPECT_THROW(meter.sample(1), Error);
}

TEST(FrameMeter, StartForgetsWhatWasMarkedBefore) {
  scripted::VirtualClock clock;
  FunctionVariant variant([&](Frame& frame) { frame.add("draws", 3); });
  FrameMeter meter(variant, clock);
  meter.start();
  meter.sample(5);
  meter.start();
  meter.sample(2);
  EXPECT_EQ(meter.counters().at("draws"), 6);
}

}  // namespace
}  // namespace mileage
