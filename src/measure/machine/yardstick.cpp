#include "measure/machine/yardstick.h"

#include <cstdlib>
#include <new>
#include <vector>

#include "analysis/statistics/statistics.h"
#include "measure/machine/yardstick_work.h"

namespace mileage {
namespace {

constexpr int arithmetic_rounds = 5;
constexpr int memory_rounds = 3;

template <class Work>
double typical_ns(Clock& clock, int rounds, Work work) {
  std::vector<double> times;
  for (int round = 0; round < rounds; ++round) {
    const std::int64_t start = clock.now_ns();
    work();
    times.push_back(static_cast<double>(clock.now_ns() - start));
  }
  return median(std::move(times));
}

}  // namespace

MachineYardstick::MachineYardstick(Clock& clock)
    : clock_(&clock), memory_(static_cast<double*>(std::aligned_alloc(4096, yardstick_memory_bytes))) {
  if (memory_ == nullptr) throw std::bad_alloc();
  for (std::size_t i = 0; i < yardstick_memory_bytes / sizeof(double); ++i) memory_[i] = 1.0;
}

MachineYardstick::~MachineYardstick() { std::free(memory_); }

YardstickTimes MachineYardstick::take() {
  YardstickTimes times;
  times.arithmetic_ns = typical_ns(*clock_, arithmetic_rounds, yardstick_arithmetic);
  times.memory_ns = typical_ns(*clock_, memory_rounds, [this] { yardstick_memory(memory_); });
  return times;
}

}  // namespace mileage
