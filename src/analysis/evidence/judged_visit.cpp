#include "analysis/evidence/judged_visit.h"

#include <algorithm>
#include <cmath>

#include "analysis/statistics/constants.h"

namespace mileage {

std::int64_t own_ns(const Visit& visit, std::size_t sample) {
  const std::int64_t all = visit.samples_ns[sample];
  if (visit.waited_ns.size() != visit.samples_ns.size()) return all;
  // More than there is: the core was taken away right beside the sample.
  const std::int64_t waited = visit.waited_ns[sample];
  return waited < all ? all - waited : all;
}

double measured_wall_ms(const Visit& visit, bool own) {
  double sum = 0;
  for (std::size_t i = 0; i < visit.samples_ns.size(); ++i)
    sum += static_cast<double>(own ? own_ns(visit, i) : visit.samples_ns[i]);
  return sum * 1e-6;
}

double mean_frame_ms(const Visit& visit) {
  return measured_wall_ms(visit, true) / static_cast<double>(visit.measured_frames());
}

double typical_frame_ms(const Visit& visit) {
  std::vector<std::int64_t> times;
  for (std::size_t i = 0; i < visit.samples_ns.size(); ++i) times.push_back(own_ns(visit, i));
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
  return std::exp(sum / static_cast<double>(end - begin)) / visit.frames_per_sample * 1e-6;
}

std::optional<double> power_of(const Visit& visit) {
  const auto joules = visit.counters.find(joules_counter);
  const double wall_ms = measured_wall_ms(visit);
  if (joules == visit.counters.end() || joules->second <= 0 || wall_ms <= 0) return std::nullopt;
  return joules->second / wall_ms * 1000;
}

std::optional<double> typical_cost_ms(const Visit& visit, CostOf what) {
  if (what == CostOf::frame) return typical_frame_ms(visit);
  if (what == CostOf::energy) {
    const auto power_w = power_of(visit);
    return power_w ? std::optional(typical_frame_ms(visit) * *power_w) : std::nullopt;
  }
  const std::optional<double>& busy_ms = what == CostOf::frame_thread ? visit.thread_busy_ms : visit.processor_ms;
  const double own = measured_wall_ms(visit, true);
  if (!busy_ms || *busy_ms <= 0 || own <= 0) return std::nullopt;
  return typical_frame_ms(visit) * *busy_ms / own;
}

}  // namespace mileage
