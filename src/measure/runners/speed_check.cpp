#include "measure/runners/speed_check.h"

#include <algorithm>
#include <thread>

#include <fmt/format.h>

namespace mileage {

std::optional<std::string> too_fast_to_be_true(const Visit& visit, const VariantFacts& facts) {
  const auto updates = visit.counters.find("updates");
  if (facts.may_skip || updates == visit.counters.end() || visit.samples_ns.empty()) return std::nullopt;
  double measured_ns = 0;
  for (const std::int64_t sample : visit.samples_ns) measured_ns += static_cast<double>(sample);
  const double cores = std::max(1U, std::thread::hardware_concurrency());
  if (measured_ns >= updates->second * fastest_touch_ns / cores) return std::nullopt;
  return fmt::format(
      "too fast to be true: {:.3g} updates are claimed in {:.3g} ms; a variant that may skip entities must "
      "declare it",
      updates->second, measured_ns * 1e-6);
}

}  // namespace mileage
