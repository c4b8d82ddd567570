#include "measure/machine/touch_speed.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstring>
#include <vector>

namespace mileage {
namespace {

constexpr std::int64_t max_touched_bytes = 16 << 20;
constexpr int touch_passes = 5;
/// Keeps the compiler from dropping the pass.
const void* volatile witness;

/// Fastest of a few touch_passes.
double pass_ns(const std::vector<char>& bytes, std::size_t passed) {
  double fastest = HUGE_VAL;
  for (int pass = 0; pass < touch_passes; ++pass) {
    const auto before = std::chrono::steady_clock::now();
    witness = std::memchr(bytes.data(), 1, passed);
    const std::chrono::duration<double, std::nano> took = std::chrono::steady_clock::now() - before;
    fastest = std::min(fastest, took.count());
  }
  return fastest;
}

}  // namespace

double touch_ns(std::int64_t bytes) {
  const std::int64_t passed = std::clamp<std::int64_t>(bytes, 1, max_touched_bytes);
  const std::vector<char> zeros(static_cast<std::size_t>(passed));
  const double of_clock_ns = pass_ns(zeros, 1);
  return std::max(0.0, pass_ns(zeros, zeros.size()) - of_clock_ns) * static_cast<double>(bytes) /
         static_cast<double>(passed);
}

}  // namespace mileage
