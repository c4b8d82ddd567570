#include "measure/in_process/speed_check.h"

#include <algorithm>
#include <cmath>
#include <thread>

#include <fmt/format.h>

#include "measure/machine/touch_speed.h"

namespace mileage {

namespace {

/// The pass may have been timed in a slow moment, the frames in a fast one.
constexpr double sure_share = 0.5;
/// Claims may be any number.
constexpr double max_claimed = 1e15;

}  // namespace

std::optional<std::string> too_fast_to_be_true(const Run& run, const VariantFacts& facts) {
  const bool is_elsewhere = !facts.device.empty() && !facts.software_device;
  if (facts.may_skip || is_elsewhere || run.samples_ns.empty()) return std::nullopt;
  double measured_ns = 0;
  for (const std::int64_t sample : run.samples_ns) measured_ns += static_cast<double>(sample);
  const auto frames = static_cast<double>(run.measured_frames());
  const auto updates = run.counters.find("updates");
  const double entities = updates == run.counters.end() ? static_cast<double>(run.count) : updates->second / frames;
  const double cores = std::max(1U, std::thread::hardware_concurrency());
  const double touched_ns = frames * touch_ns(std::llround(std::min(entities, max_claimed))) / cores;
  if (measured_ns >= sure_share * touched_ns) return std::nullopt;
  return fmt::format(
      "too fast to be true: {:.3g} entities a frame in {:.3g} ms, where reading one byte of each takes {:.3g} ms on "
      "all "
      "cores; a variant that may skip entities must declare it",
      entities, measured_ns / frames * 1e-6, touched_ns / frames * 1e-6);
}

}  // namespace mileage
