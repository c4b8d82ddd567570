#include "measure/machine/probe_threads.h"

#include <atomic>
#include <cmath>
#include <thread>

#include <gtest/gtest.h>

#include "measure/machine/process_facts.h"
#include "measure/machine/yardstick.h"

namespace mileage {
namespace {

/// Thread-safe.
class ScaledClock : public Clock {
 public:
  explicit ScaledClock(double times) : times_(times) {}
  std::int64_t now_ns() override { return std::llround(times_ * static_cast<double>(clock_.now_ns() - start_ns_)); }
  void pause_ns(std::int64_t) override {}

 private:
  double times_;
  SystemClock clock_;
  std::int64_t start_ns_ = clock_.now_ns();
};

/// Can hold other threads in their reading. Wakes take 1/10,000 of their time.
class HoldingClock : public ScaledClock {
 public:
  HoldingClock() : ScaledClock(1e-4) {}
  std::int64_t now_ns() override {
    while (holds_ && std::this_thread::get_id() != own_) {
      one_is_held_ = true;
      std::this_thread::yield();
    }
    return ScaledClock::now_ns();
  }
  void hold_others() { holds_ = true; }
  void let_go() { holds_ = false; }
  void wait_until_one_is_held() const {
    while (!one_is_held_) std::this_thread::yield();
  }

 private:
  std::thread::id own_ = std::this_thread::get_id();
  std::atomic<bool> holds_{false};
  std::atomic<bool> one_is_held_{false};
};

TEST(ProbeThreads, RunTheWorkOnEveryProbe) {
  ScaledClock clock(1e-4);  // A loaded machine wakes them within 1 s.
  ProbeThreads threads(1, clock);
  for (int probe = 0; probe < 50; ++probe) {
    threads.begin_together();
    EXPECT_GT(threads.slowest_ns(), 0);
  }
}

TEST(ProbeThreads, WhoIsNotAwakeInTimeTakesNoPartInThatProbe) {
  HoldingClock clock;
  ProbeThreads threads(1, clock);
  clock.hold_others();
  threads.begin_together();  // The other thread is in its work from here.
  clock.wait_until_one_is_held();
  threads.begin_together();
  EXPECT_EQ(threads.slowest_ns(), 0) << "it cannot be awake for the second probe";
  clock.let_go();
  threads.begin_together();
  EXPECT_GT(threads.slowest_ns(), 0) << "it is there again for the third one";
}

TEST(ProbeThreads, EndWithoutAnyProbe) {
  SystemClock clock;
  EXPECT_NO_THROW(ProbeThreads(3, clock));
}

TEST(ProbeThreads, SpendProcessorTimeBesideTheAskingThread) {
  SystemClock clock;
  MachineYardstick yardstick(clock);
  const SpentReading before = read_spent();
  yardstick.spread_over(2);
  for (int probe = 0; probe < 200; ++probe) EXPECT_GT(yardstick.probe_ns(), 0);
  const SpentReading spent = read_spent() - before;
  EXPECT_GT(spent.processor_ns, spent.thread_ns);
  yardstick.spread_over(1);
  const SpentReading alone_before = read_spent();
  yardstick.probe_ns();
  const SpentReading alone = read_spent() - alone_before;
  EXPECT_LT(alone.processor_ns, spent.processor_ns);
}

}  // namespace
}  // namespace mileage
