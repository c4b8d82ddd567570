#include "measure/in_process/frame_meter.h"

#include <gtest/gtest.h>

#include "support/scripted.h"
#include "types/error.h"

namespace mileage {
namespace {

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

TEST(FrameMeter, PhasesInsideOthersAreKnown) {
  scripted::VirtualClock clock;
  FunctionVariant variant([](Frame& frame) {
    const auto outer = frame.phase("update");
    const auto inner = frame.phase("gather");
  });
  FrameMeter meter(variant, clock);
  meter.start();
  meter.sample(1);
  EXPECT_EQ(meter.inner_phases(), std::vector<std::string>{"gather"});
}

TEST(FrameMeter, ATraceKeepsEachFrameWithItsPhasesAndBatches) {
  scripted::VirtualClock clock;
  int frame_number = 0;
  FunctionVariant variant([&](Frame& frame) {
    ++frame_number;
    if (frame_number == 1) return;  // A later phase.
    const auto phase = frame.phase("glow");
    const auto work = frame.work(1, 64);
    clock.pass(frame_number * 1000);
  });
  FrameMeter meter(variant, clock);
  meter.trace();
  meter.start();
  for (int i = 0; i < 3; ++i) meter.sample(1);
  ASSERT_TRUE(meter.traced());
  EXPECT_EQ(meter.traced()->phases_ns.at("glow"), (std::vector<std::int64_t>{0, 2000, 3000}));
  EXPECT_EQ(meter.traced()->spans, (std::vector<std::vector<double>>{{1, 1, 0, 2000, 64}, {2, 1, 0, 3000, 64}}));
  ASSERT_TRUE(meter.work());
  EXPECT_DOUBLE_EQ(meter.work()->busy_ms.at(1), 0.005);
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
