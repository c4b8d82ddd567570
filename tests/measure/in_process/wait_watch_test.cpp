#include "measure/in_process/wait_watch.h"

#include <atomic>
#include <chrono>
#include <thread>

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

class Busy : public Variant {
 public:
  void run_frame(Frame&) override {
    const auto end = std::chrono::steady_clock::now() + std::chrono::milliseconds(10);
    while (std::chrono::steady_clock::now() < end) {}
  }
  std::int64_t alive() const override { return 1; }
  Outcome outcome() const override { return {}; }
};

mileage::Run watched(double expected_ns, int cores) {
  SystemClock clock;
  Busy busy;
  FrameMeter meter(busy, clock);
  WaitWatch waits(meter, expected_ns, cores);
  mileage::Run run;
  meter.start();
  for (int sample = 0; sample < 12; ++sample) {
    waits.before_sample();
    run.samples_ns.push_back(meter.sample(1));
    waits.after_sample(run);
  }
  waits.tell(run);
  return run;
}

TEST(WaitWatch, AsksNobodyOnAVirtualMachineOrOfShortSamples) {
  EXPECT_TRUE(watched(10e6, 0).waited_ns.empty());
  EXPECT_TRUE(watched(10e3, 1).waited_ns.empty());
}

TEST(WaitWatch, TellsOfEverySampleBesideOthers) {
  if (!ThreadWaits(false).waited_ns()) GTEST_SKIP() << "this system does not tell";
  std::atomic<bool> is_done{false};
  std::vector<std::thread> others;
  for (unsigned i = 0; i < 2 * std::thread::hardware_concurrency(); ++i)
    others.emplace_back([&] {
      while (!is_done) {}
    });
  const mileage::Run alone = watched(10e6, 1);
  is_done = true;
  for (std::thread& other : others) other.join();
  ASSERT_EQ(alone.waited_ns.size(), 12U);
  std::int64_t waited = 0;
  for (const std::int64_t ns : alone.waited_ns) waited += ns;
  EXPECT_GT(waited, 10'000'000) << "three threads for each core";
}

TEST(WaitWatch, SaysWhatAskingTakes) {
  if (!ThreadWaits(false).waited_ns()) GTEST_SKIP() << "this system does not tell";
  SystemClock clock;
  Busy busy;
  FrameMeter meter(busy, clock);
  WaitWatch waits(meter, 10e6, 1);
  EXPECT_EQ(waits.spent().thread_ns, 0);
  mileage::Run run;
  for (int sample = 0; sample < 200; ++sample) {
    waits.before_sample();
    run.samples_ns.push_back(1);
    waits.after_sample(run);
  }
  EXPECT_GT(waits.spent().thread_ns, 0);
  EXPECT_EQ(waits.spent().processor_ns, waits.spent().thread_ns);
}

TEST(WaitWatch, ForgetsWhatIsNextToNothing) {
  SystemClock clock;
  Busy busy;
  FrameMeter meter(busy, clock);
  const WaitWatch waits(meter, 1e6, 1);
  mileage::Run run;
  run.samples_ns.assign(4, 1'000'000);
  run.waited_ns = {1000, 0, 0, 2000};
  waits.tell(run);
  EXPECT_TRUE(run.waited_ns.empty());
  run.waited_ns = {1000, 0, 0, 20'000};
  waits.tell(run);
  EXPECT_EQ(run.waited_ns.size(), 4U);
}

}  // namespace
}  // namespace mileage
