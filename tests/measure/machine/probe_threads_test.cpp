#include "measure/machine/probe_threads.h"

#include <gtest/gtest.h>

#include "measure/machine/process_facts.h"
#include "measure/machine/yardstick.h"

namespace mileage {
namespace {

TEST(ProbeThreads, RunTheWorkOnEveryProbe) {
  SystemClock clock;
  ProbeThreads threads(1, clock);
  for (int probe = 0; probe < 50; ++probe) {
    threads.begin_together();
    EXPECT_GT(threads.slowest_ns(), 0);
  }
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
