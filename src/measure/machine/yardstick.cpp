#include "measure/machine/yardstick.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "analysis/statistics/constants.h"
#include "measure/machine/probe_threads.h"
#include "measure/machine/yardstick_work.h"

namespace mileage {
namespace {

/// Share of the probes that a fast moment has to have lasted for.
constexpr double fast_share = 0.1;

/// Frames that take so long lie halfway between those of one state and those that average over many.
constexpr double states_last_ns = 1e6;
/// A power mean with a smaller exponent is the geometric one.
constexpr double least_power = 1e-3;

double sum_of(const std::vector<double>& values) { return std::accumulate(values.begin(), values.end(), 0.0); }

/// How the probes of a half become their mean.
struct Mean {
  double power = 0;
  double weight_power = 0;  ///< Each probe counts as much as its value to this power.
  double cut = 0;           ///< Share of the weight that is cut off at each end.
};

/// Relative to the middle one, so that nothing overflows.
double mean_of(std::vector<double> values, const Mean& mean) {
  std::sort(values.begin(), values.end());
  const double scale = values[values.size() / 2];
  std::vector<double> weights;
  for (const double value : values) weights.push_back(std::pow(value / scale, mean.weight_power));
  const double all = sum_of(weights);
  const double from = mean.cut * all, to = all - from;
  double before = 0, sum = 0;
  for (std::size_t i = 0; i < values.size(); ++i) {
    const double inside = std::min(before + weights[i], to) - std::max(before, from);
    const double ratio = values[i] / scale;
    sum += std::max(0.0, inside) * (mean.power < least_power ? std::log(ratio) : std::pow(ratio, mean.power));
    before += weights[i];
  }
  const double found = sum / (to - from);
  return scale * (mean.power < least_power ? std::exp(found) : std::pow(found, 1 / mean.power));
}

}  // namespace

MachineYardstick::MachineYardstick(Clock& clock) : clock_(&clock) {}

MachineYardstick::~MachineYardstick() = default;

void MachineYardstick::spread_over(int cores) {
  others_ = cores > 1 ? std::make_unique<ProbeThreads>(cores - 1, *clock_) : nullptr;
}

double MachineYardstick::probe_ns() {
  if (others_) others_->begin_together();
  const double own_ns = timed_work_ns(*clock_);
  return others_ ? std::max(own_ns, others_->slowest_ns()) : own_ns;
}

double Probes::total_ns() const { return sum_of(ns_[one]) + sum_of(ns_[other]); }

std::optional<YardstickReading> Probes::reading(ProbedBy by, double frame_ns, int cores) const {
  if (!are_in_both_halves()) return std::nullopt;
  std::vector<double> all = ns_[one];
  all.insert(all.end(), ns_[other].begin(), ns_[other].end());
  const auto fast = all.begin() + static_cast<std::ptrdiff_t>(fast_share * static_cast<double>(all.size() - 1));
  std::nth_element(all.begin(), fast, all.end());
  const double averaging = frame_ns / (frame_ns + states_last_ns);
  const Mean mean{slope_prior * averaging, by == ProbedBy::time ? -slope_prior : 0, cut_share * (1 - averaging)};
  return YardstickReading{yardstick_version,
                          static_cast<int>(all.size()),
                          mean_of(ns_[one], mean),
                          mean_of(ns_[other], mean),
                          *fast,
                          cores,
                          {}};
}

}  // namespace mileage
