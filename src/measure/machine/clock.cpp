#include "measure/machine/clock.h"

#include <time.h>

#include <chrono>
#include <thread>
#include <vector>

#include "types/order_statistics.h"

namespace mileage {

std::int64_t SystemClock::now_ns() {
  timespec now{};
  ::clock_gettime(CLOCK_MONOTONIC, &now);
  return std::int64_t{now.tv_sec} * 1'000'000'000 + now.tv_nsec;
}

void SystemClock::pause_ns(std::int64_t ns) { std::this_thread::sleep_for(std::chrono::nanoseconds(ns)); }

double reading_cost_ns(Clock& clock) {
  constexpr int rounds = 21;
  constexpr int readings = 100;
  std::vector<double> costs;
  for (int round = 0; round < rounds; ++round) {
    const std::int64_t start = clock.now_ns();
    std::int64_t last = start;
    for (int i = 0; i < readings; ++i) last = clock.now_ns();
    costs.push_back(static_cast<double>(last - start) / readings);
  }
  return median(std::move(costs));
}

}  // namespace mileage
