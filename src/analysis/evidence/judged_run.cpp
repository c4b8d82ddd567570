#include "analysis/evidence/judged_run.h"

#include <algorithm>
#include <cmath>

#include "analysis/statistics/constants.h"

namespace mileage {

std::int64_t own_ns(const Run& run, std::size_t sample) {
  const std::int64_t all = run.samples_ns[sample];
  if (run.waited_ns.size() != run.samples_ns.size()) return all;
  // More waiting than time: the core was taken right before the sample.
  const std::int64_t waited = run.waited_ns[sample];
  return waited < all ? all - waited : all;
}

double measured_wall_ms(const Run& run, bool own) {
  double sum = 0;
  for (std::size_t i = 0; i < run.samples_ns.size(); ++i)
    sum += static_cast<double>(own ? own_ns(run, i) : run.samples_ns[i]);
  return sum * 1e-6;
}

double mean_frame_ms(const Run& run) {
  return measured_wall_ms(run, true) / static_cast<double>(run.measured_frames());
}

double typical_frame_ms(const Run& run) {
  std::vector<std::int64_t> times;
  for (std::size_t i = 0; i < run.samples_ns.size(); ++i) times.push_back(own_ns(run, i));
  const std::size_t size = times.size();
  const std::size_t cut =
      size < 3 ? 0 : std::max<std::size_t>(1, static_cast<std::size_t>(cut_share * static_cast<double>(size)));
  const auto begin = times.begin() + static_cast<std::ptrdiff_t>(cut);
  const auto end = times.end() - static_cast<std::ptrdiff_t>(cut);
  if (cut > 0) {
    std::nth_element(times.begin(), begin, times.end());
    std::nth_element(begin, end - 1, times.end());
  }
  double sum = 0;
  for (auto time = begin; time != end; ++time) sum += std::log(static_cast<double>(*time));
  return std::exp(sum / static_cast<double>(end - begin)) / run.frames_per_sample * 1e-6;
}

std::optional<double> power_of(const Run& run) {
  const auto joules = run.counters.find(joules_counter);
  const double wall_ms = measured_wall_ms(run);
  if (joules == run.counters.end() || joules->second <= 0 || wall_ms <= 0) return std::nullopt;
  return joules->second / wall_ms * 1000;
}

std::optional<double> typical_cost_ms(const Run& run, CostOf what) {
  if (what == CostOf::frame) return typical_frame_ms(run);
  if (what == CostOf::energy) {
    const auto power_w = power_of(run);
    return power_w ? std::optional(typical_frame_ms(run) * *power_w) : std::nullopt;
  }
  const std::optional<double>& busy_ms = what == CostOf::frame_thread ? run.thread_busy_ms : run.processor_ms;
  const double own = measured_wall_ms(run, true);
  if (!busy_ms || *busy_ms <= 0 || own <= 0) return std::nullopt;
  return typical_frame_ms(run) * *busy_ms / own;
}

}  // namespace mileage
