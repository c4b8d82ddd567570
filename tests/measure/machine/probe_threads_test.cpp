#include "measure/machine/probe_threads.h"

#include <cmath>

#include <gtest/gtest.h>

#include "measure/machine/process_facts.h"
#include "measure/machine/yardstick.h"

namespace mileage {
namespace {

/// Its readings may come from any thread.
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

TEST(ProbeThreads, RunTheWorkOnEveryProbe) {
  ScaledClock clock(1e-4);  // a busy machine wakes them within 1 s
  ProbeThreads threads(1, clock);
  for (int probe = 0; probe < 50; ++probe) {
    threads.begin_together();
    EXPECT_GT(threads.slowest_ns(), 0);
  }
}

TEST(ProbeThreads, WhoIsNotAwakeInTimeTakesNoPartInThatProbe) {
  ScaledClock clock(1e6);  // nobody wakes within 0.1 ns
  ProbeThreads threads(2, clock);
  int of_nobody = 0;
  for (int probe = 0; probe < 2000; ++probe) {
    threads.begin_together();
    of_nobody += threads.slowest_ns() == 0;
  }
  EXPECT_GT(of_nobody, 1000) << "but for those during which the asking thread slept itself";
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
