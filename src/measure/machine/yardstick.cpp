#include "measure/machine/yardstick.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "analysis/statistics/constants.h"
#include "types/order_statistics.h"
#include "measure/machine/probe_threads.h"
#include "measure/machine/yardstick_work.h"

namespace mileage {
namespace {

/// Of the probes: a fast moment lasts at least this long.
constexpr double fast_share = 0.1;

/// Smaller exponents are the geometric mean.
constexpr double min_power = 1e-3;

double sum_of(const std::vector<double>& values) { return std::accumulate(values.begin(), values.end(), 0.0); }

/// Relative to the median, against overflow.
struct Weighted {
  double ratio;
  double weight;
};

/// Trims this share of weight at each end.
void cut_ends(std::vector<Weighted>& probes, double share) {
  std::sort(probes.begin(), probes.end(), [](const Weighted& a, const Weighted& b) { return a.ratio < b.ratio; });
  double all = 0, before = 0;
  for (const Weighted& probe : probes) all += probe.weight;
  for (Weighted& probe : probes) {
    const double inside = std::min(before + probe.weight, (1 - share) * all) - std::max(before, share * all);
    before += probe.weight;
    probe.weight = std::max(0.0, inside);
  }
}

/// Geometric mean on the log scale, and log of power mean / geometric mean.
struct LogMeans {
  double geometric;
  double mean_excess = 0;
};

/// `of_moments`: corrects the power mean's excess for a small number of moments.
LogMeans log_means(const std::vector<Weighted>& probes, double power, double of_moments) {
  double sum = 0, logs = 0, all = 0;
  for (const Weighted& probe : probes) {
    sum += probe.weight * std::pow(probe.ratio, power);
    logs += probe.weight * std::log(probe.ratio);
    all += probe.weight;
  }
  LogMeans means{logs / all};
  if (power >= min_power)
    means.mean_excess = (std::log(sum / all) / power - means.geometric) * of_moments / std::max(1.0, of_moments - 1);
  return means;
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

void Probes::add(Half half, double ns) {
  moments_[half] += ns_[half].empty() || half != last_half_;
  last_half_ = half;
  ns_[half].push_back(ns);
}

double Probes::total_ns() const { return sum_of(ns_[one]) + sum_of(ns_[other]); }

std::optional<YardstickReading> Probes::reading(ProbedBy by, double frame_ns, int cores) const {
  if (!are_in_both_halves()) return std::nullopt;
  std::vector<double> all = ns_[one];
  all.insert(all.end(), ns_[other].begin(), ns_[other].end());
  const auto fast = all.begin() + static_cast<std::ptrdiff_t>(fast_share * static_cast<double>(all.size() - 1));
  std::nth_element(all.begin(), fast, all.end());
  const double middle_ns = median(all);
  const double averaging = frame_ns / (frame_ns + 1e6 * states_last_ms);
  const auto means_of = [&](Half half) {
    std::vector<Weighted> probes;
    for (const double ns : ns_[half])
      probes.push_back({ns / middle_ns, by == ProbedBy::time ? std::pow(ns / middle_ns, -usual_slope) : 1});
    cut_ends(probes, cut_share * (1 - averaging));
    const auto moments = static_cast<double>(by == ProbedBy::work ? moments_[half] : probes.size());
    return log_means(probes, usual_slope * averaging, moments);
  };
  const LogMeans of_one = means_of(one), of_other = means_of(other);
  YardstickReading reading;
  reading.version = yardstick_version;
  reading.probes = static_cast<int>(all.size());
  reading.one_half_ns = middle_ns * std::exp(of_one.geometric + of_one.mean_excess);
  reading.other_half_ns = middle_ns * std::exp(of_other.geometric + of_other.mean_excess);
  reading.geometric_ns = middle_ns * std::exp((of_one.geometric + of_other.geometric) / 2);
  reading.fast_ns = *fast;
  reading.cores = cores;
  if (by == ProbedBy::work) reading.moments = static_cast<int>(moments_[one] + moments_[other]);
  return reading;
}

}  // namespace mileage
