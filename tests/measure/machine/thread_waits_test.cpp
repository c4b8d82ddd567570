#include "measure/machine/thread_waits.h"

#include <atomic>
#include <chrono>
#include <thread>
#include <vector>

#include <sched.h>

#include <gtest/gtest.h>

namespace mileage {
namespace {

using namespace std::chrono_literals;

class OnOneCore {
 public:
  OnOneCore() {
    sched_getaffinity(0, sizeof before_, &before_);
    cpu_set_t one;
    CPU_ZERO(&one);
    for (int core = 0; core < CPU_SETSIZE && CPU_COUNT(&one) == 0; ++core)
      if (CPU_ISSET(core, &before_)) CPU_SET(core, &one);
    sched_setaffinity(0, sizeof one, &one);
  }
  ~OnOneCore() { sched_setaffinity(0, sizeof before_, &before_); }

 private:
  cpu_set_t before_;
};

std::int64_t ns_since(std::chrono::steady_clock::time_point start) {
  return std::chrono::duration_cast<std::chrono::nanoseconds>(std::chrono::steady_clock::now() - start).count();
}

void work_for(std::chrono::milliseconds time) {
  const auto end = std::chrono::steady_clock::now() + time;
  while (std::chrono::steady_clock::now() < end) {}
}

TEST(ThreadWaits, AreNotThoseOfThreadsThatComeLater) {
  const OnOneCore on_one_core;
  const ThreadWaits all(true);
  if (!all.waited_ns()) GTEST_SKIP() << "this system does not tell";
  const std::int64_t before = *all.waited_ns();
  std::atomic<std::int64_t> others_waited{0};
  std::vector<std::thread> others;
  for (int i = 0; i < 2; ++i)
    others.emplace_back([&] {
      const ThreadWaits own(false);
      work_for(200ms);
      others_waited += own.waited_ns().value_or(0);
    });
  for (std::thread& other : others) other.join();  // Asleep during that time.
  EXPECT_GT(others_waited, 20'000'000) << "two threads share a core";
  EXPECT_LT(*all.waited_ns() - before, others_waited / 2);
}

TEST(ThreadWaits, CountTheTimeThatOthersHadTheCore) {
  const OnOneCore on_one_core;
  const ThreadWaits own(false);
  if (!own.waited_ns()) GTEST_SKIP() << "this system does not tell";
  std::atomic<bool> is_done{false};
  std::thread other([&] {
    while (!is_done) {}
  });
  const auto start = std::chrono::steady_clock::now();
  const std::int64_t before = *own.waited_ns();
  work_for(200ms);
  const std::int64_t beside_another = *own.waited_ns() - before;
  const std::int64_t passed = ns_since(start);
  is_done = true;
  other.join();
  EXPECT_GT(beside_another, 20'000'000) << "two threads share a core";
  EXPECT_LT(beside_another, passed);
}

TEST(ThreadWaits, SleepingIsNoWaiting) {
  const ThreadWaits own(false);
  if (!own.waited_ns()) GTEST_SKIP() << "this system does not tell";
  const auto start = std::chrono::steady_clock::now();
  const std::int64_t before = *own.waited_ns();
  std::this_thread::sleep_for(100ms);
  const std::int64_t waited = *own.waited_ns() - before;
  EXPECT_LE(waited, ns_since(start) - 95'000'000) << "what passed beyond the sleep may be waiting";
}

TEST(ThreadWaits, OfAllThreadsAreAtLeastThoseOfOne) {
  std::atomic<bool> is_done{false};
  std::thread other([&] {
    while (!is_done) std::this_thread::yield();
  });
  const ThreadWaits own(false);
  const ThreadWaits all(true);
  if (own.waited_ns()) EXPECT_GE(*all.waited_ns(), *own.waited_ns());
  is_done = true;
  other.join();
}

}  // namespace
}  // namespace mileage
