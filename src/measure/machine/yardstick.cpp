#include "measure/machine/yardstick.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "measure/machine/yardstick_work.h"

namespace mileage {
namespace {

/// Share of the probes that a fast moment has to have lasted for.
constexpr double fast_share = 0.1;

double geometric_mean(const std::vector<double>& values) {
  double sum = 0;
  for (const double value : values) sum += std::log(value);
  return std::exp(sum / static_cast<double>(values.size()));
}

double sum_of(const std::vector<double>& values) { return std::accumulate(values.begin(), values.end(), 0.0); }

}  // namespace

double MachineYardstick::probe_ns() {
  const std::int64_t start = clock_->now_ns();
  yardstick_work();
  return static_cast<double>(std::max<std::int64_t>(1, clock_->now_ns() - start));
}

double Probes::total_ns() const { return sum_of(ns_[one]) + sum_of(ns_[other]); }

std::optional<YardstickReading> Probes::reading() const {
  if (ns_[one].empty() || ns_[other].empty()) return std::nullopt;
  std::vector<double> all = ns_[one];
  all.insert(all.end(), ns_[other].begin(), ns_[other].end());
  const auto fast = all.begin() + static_cast<std::ptrdiff_t>(fast_share * static_cast<double>(all.size() - 1));
  std::nth_element(all.begin(), fast, all.end());
  return YardstickReading{yardstick_version, static_cast<int>(all.size()), geometric_mean(ns_[one]),
                          geometric_mean(ns_[other]), *fast};
}

}  // namespace mileage
