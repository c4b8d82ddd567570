#include "analysis/statistics/statistics.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>

#include <boost/math/distributions/binomial.hpp>
#include <boost/math/distributions/students_t.hpp>

#include "analysis/statistics/constants.h"

namespace mileage {

/// Long double adds time and no useful digits.
using InDouble = boost::math::policies::policy<boost::math::policies::promote_double<false>>;

double t_quantile(double probability, double degrees_of_freedom) {
  return boost::math::quantile(boost::math::students_t_distribution<double, InDouble>(degrees_of_freedom), probability);
}

Interval median_interval(std::vector<double> values) {
  const auto n = static_cast<double>(values.size());
  if (values.size() < 6) return {};
  std::sort(values.begin(), values.end());
  // The largest rank r with P(Binomial(n, 1/2) < r) <= 2.5 %: ranks r and n + 1 - r bound the median.
  using boost::math::policies::discrete_quantile;
  using Down = boost::math::policies::policy<discrete_quantile<boost::math::policies::integer_round_down>>;
  const auto rank =
      static_cast<std::size_t>(boost::math::quantile(boost::math::binomial_distribution<double, Down>(n, 0.5), 0.025));
  if (rank < 1) return {values.front(), values.back()};
  return {values[rank - 1], values[values.size() - rank]};
}

bool PairedRatio::surely_within(double low, double high) const {
  return interval.closed() && *interval.low >= low && *interval.high <= high;
}

int PairedRatio::verdict() const {
  if (interval.high && *interval.high < 1) return -1;
  return interval.low && *interval.low > 1 ? 1 : 0;
}

PairedRatio paired_ratio(const std::vector<double>& one, const std::vector<double>& other) {
  std::vector<double> ratios;
  for (std::size_t i = 0; i < one.size(); ++i) ratios.push_back(one[i] / other[i]);
  return {median(ratios), median_interval(ratios)};
}

double jackknife_error(const std::vector<double>& without_each_block) {
  const auto blocks = static_cast<double>(without_each_block.size());
  if (without_each_block.size() < 3) return std::numeric_limits<double>::infinity();
  const double mean = std::accumulate(without_each_block.begin(), without_each_block.end(), 0.0) / blocks;
  double squares = 0;
  for (const double value : without_each_block) squares += (value - mean) * (value - mean);
  return std::sqrt((blocks - 1) / blocks * squares);
}

double t_factor(std::size_t blocks) { return t_quantile(0.975, static_cast<int>(blocks) - 1); }

std::vector<double> places_between(double min, double max, int how_many) {
  std::vector<double> places;
  for (int i = 0; i < how_many; ++i)
    places.push_back(min * std::pow(max / min, static_cast<double>(i) / std::max(1, how_many - 1)));
  places.back() = max;
  return places;
}

}  // namespace mileage
