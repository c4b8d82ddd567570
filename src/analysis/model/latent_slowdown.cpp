#include "analysis/model/latent_slowdown.h"

#include <algorithm>
#include <cmath>
#include <map>

#include <boost/math/distributions/normal.hpp>

#include "analysis/model/priors.h"
#include "types/order_statistics.h"

namespace mileage {
namespace {

using Eigen::ArrayXd;
using Eigen::Index;

struct FullSpeed {
  double ns = 0;
  double sd = 0;
};

/// Quantile of sorted values.
double at_share(const std::vector<double>& sorted, double share) {
  return sorted[static_cast<std::size_t>(share * static_cast<double>(sorted.size() - 1))];
}

/// Median of the fastest 5 % (within 3 % of the fastest), minus the 0.3 % that such medians exceed full speed by.
/// Sorted input.
double shown_full_speed_ns(const std::vector<double>& fast_ns) {
  const double below = 1.03 * at_share(fast_ns, 0.05);
  std::vector<double> fastest;
  std::copy_if(fast_ns.begin(), fast_ns.end(), std::back_inserter(fastest), [&](double ns) { return ns < below; });
  return 1.003 * median(fastest);
}

/// Remembered full speed with normal error, and fastest runs slower by an exponential: together a normal distribution
/// truncated at what the runs show (N. L. Johnson et al., Continuous Univariate Distributions, 1994, 13.10).
FullSpeed full_speed_of(std::vector<double> fast_ns, const std::optional<double>& remembered_ns) {
  std::sort(fast_ns.begin(), fast_ns.end());
  const double shown_ns = shown_full_speed_ns(fast_ns);
  // If a quarter of the runs were as fast, the fastest are closer to full speed.
  const double slower = std::clamp(std::log(at_share(fast_ns, 0.25) / at_share(fast_ns, 0.05)),
                                   prior::least_fastest_slowdown, prior::fastest_slowdown);
  if (!remembered_ns) return {shown_ns * std::exp(-slower), slower};
  const double sd = prior::remembered_full_speed_sd;
  const double middle = sd * sd / slower;
  const double cut = (std::log(shown_ns / *remembered_ns) - middle) / sd;
  const boost::math::normal standard;
  if (cut < -8) return {shown_ns, sd / -cut};  // the tail is exponential
  const double hazard = boost::math::pdf(standard, cut) / boost::math::cdf(standard, cut);
  return {*remembered_ns * std::exp(middle - sd * hazard), sd * std::sqrt(1 - cut * hazard - hazard * hazard)};
}

std::map<int, FullSpeed> full_speeds(const std::vector<ModelRow>& rows) {
  std::map<int, std::vector<double>> fast_ns;
  std::map<int, std::optional<double>> remembered_ns;
  for (const ModelRow& row : rows) {
    if (!row.probes) continue;
    fast_ns[row.probes->kind].push_back(row.probes->fast_ns);
    remembered_ns[row.probes->kind] = row.probes->remembered_ns;
  }
  std::map<int, FullSpeed> speeds;
  for (const auto& [kind, ns] : fast_ns) speeds[kind] = full_speed_of(ns, remembered_ns[kind]);
  return speeds;
}

/// Log scale, by row.
struct Readings {
  ArrayXd slowdown;            ///< Mean of both halves.
  ArrayXd half_error_squared;  ///< Squared error of that mean, by the halves.
  ArrayXd moments;
  ArrayXd log2_frame;  ///< Distance of probes: log2 of frame ms, at least 0.7 ms.
};

/// Share of slow moments of each run.
struct SlowShares {
  ArrayXd mean;
  ArrayXd moments;            ///< Independent ones.
  double slow = 1, fast = 1;  ///< Beta prior.
};

/// Moments close in time are correlated: how many count as one, from runs with similar frame times.
ArrayXd moments_per_independent(const Readings& readings, const ArrayXd& share, double largest, bool is_first) {
  const ArrayXd expected = share * (1 - share) * largest * largest / readings.moments + 1e-7;
  std::map<int, std::pair<double, double>> sums;  // Seen and expected errors, by tenths of log2 frame ms.
  const auto bin_of = [&](Index i) { return static_cast<int>(std::lround(10 * readings.log2_frame(i))); };
  for (Index i = 0; i < expected.size(); ++i) {
    auto& [seen, of_model] = sums[bin_of(i)];
    seen += readings.half_error_squared(i);
    of_model += expected(i);
  }
  std::map<int, double> ratios;
  for (const auto& [bin, own] : sums) {
    // The first pass, without shares, assumes moments a third as noisy as independent ones.
    double seen = is_first ? 0.6 : 0, of_model = seen;
    for (const auto& [other, sum] : sums) {
      const double apart = (bin - other) / 10.0, weight = 1 / (1 + apart * apart);
      seen += weight * sum.first;
      of_model += weight * sum.second;
    }
    ratios[bin] = seen / of_model;
  }
  ArrayXd ratio(expected.size());
  for (Index i = 0; i < ratio.size(); ++i) ratio(i) = ratios[bin_of(i)];
  return ratio.max(0.02).min(4);
}

SlowShares slow_shares(const Readings& readings, double largest) {
  const ArrayXd seen = (readings.slowdown / largest).max(0).min(1);
  SlowShares shares;
  shares.mean = (seen * readings.moments + 1) / (readings.moments + 2);
  for (int pass = 0; pass < 6; ++pass) {  // Changes by less than 1 % after four.
    shares.moments = readings.moments / moments_per_independent(readings, shares.mean, largest, pass == 0);
    const ArrayXd error = shares.mean * (1 - shares.mean) / shares.moments;
    const ArrayXd weight = 1 / (0.02 + error);
    const double mean = std::clamp((weight * seen).sum() / weight.sum(), 0.01, 0.99);
    const double spread = std::max(0.003, (weight * ((seen - mean).square() - error)).sum() / weight.sum());
    const double certainty = std::max(0.3, mean * (1 - mean) / spread - 1);
    shares.slow = mean * certainty;
    shares.fast = (1 - mean) * certainty;
    shares.mean = (shares.slow + shares.moments * seen) / (certainty + shares.moments);
  }
  return shares;
}

double upper_end(const ArrayXd& values) {
  std::vector<double> sorted(values.begin(), values.end());
  std::sort(sorted.begin(), sorted.end());
  return at_share(sorted, 0.98);
}

}  // namespace

LatentSlowdowns latent_slowdowns(const std::vector<ModelRow>& rows) {
  const auto size = static_cast<Index>(rows.size());
  LatentSlowdowns latent{Eigen::VectorXd::Zero(size), Eigen::VectorXd::Zero(size), Eigen::VectorXi::Zero(size), 0};
  std::vector<Index> probed;
  for (Index i = 0; i < size; ++i)
    if (rows[static_cast<std::size_t>(i)].probes) probed.push_back(i);
  if (probed.empty()) return latent;
  const std::map<int, FullSpeed> speeds = full_speeds(rows);
  const auto known = static_cast<Index>(probed.size());
  Readings readings{ArrayXd(known), ArrayXd(known), ArrayXd(known), ArrayXd(known)};
  for (Index i = 0; i < known; ++i) {
    const ModelRow& row = rows[static_cast<std::size_t>(probed[static_cast<std::size_t>(i)])];
    const ProbeRow& probes = *row.probes;
    const FullSpeed& speed = speeds.at(probes.kind);
    readings.slowdown(i) = std::log(std::sqrt(probes.one_half_ns * probes.other_half_ns) / speed.ns);
    const double difference = std::log(probes.one_half_ns / probes.other_half_ns);
    readings.half_error_squared(i) = difference * difference / 4;
    readings.moments(i) = std::max(2.0, probes.moments);
    readings.log2_frame(i) = std::log2(std::max(0.7, std::exp(row.log_ms)));
    latent.kind(probed[static_cast<std::size_t>(i)]) = probes.kind;
    latent.full_speed_sd = std::max(latent.full_speed_sd, speed.sd);
  }
  const double largest = std::max(prior::min_largest_slowdown, 1.05 * upper_end(readings.slowdown));
  const SlowShares shares = slow_shares(readings, largest);
  const ArrayXd beyond = readings.slowdown - readings.slowdown.max(0).min(largest);
  // Runs without probes get the study's usual slowdown.
  const double certainty = shares.slow + shares.fast, usual = shares.slow / certainty;
  latent.mean.setConstant(usual * largest);
  latent.variance.setConstant(usual * (1 - usual) / (certainty + 1) * largest * largest);
  latent.mean(probed) = shares.mean * largest + beyond;
  latent.variance(probed) = shares.mean * (1 - shares.mean) / (certainty + shares.moments + 1) * largest * largest;
  return latent;
}

}  // namespace mileage
