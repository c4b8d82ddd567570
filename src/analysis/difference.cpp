#include "analysis/difference.h"

#include <algorithm>
#include <cmath>

namespace mileage {

bool Difference::is_clear(std::size_t verdicts) const {
  return std::isfinite(error) && std::fabs(log_ratio) > t_factor(blocks, verdicts) * error;
}

double Difference::ratio() const { return std::exp(log_ratio); }

Interval Difference::ratio_interval() const {
  if (!std::isfinite(error)) return {};
  return around(log_ratio, t_factor(blocks) * error);
}

double Pair::least() const { return std::max(one_->all.least(), other_->all.least()); }

double Pair::most() const { return std::min(one_->all.most(), other_->all.most()); }

std::size_t Pair::places() const {
  const auto within = [this](const Curve& curve) {
    return static_cast<std::size_t>((curve.points.x >= least() && curve.points.x <= most()).count());
  };
  return std::max({std::size_t{1}, within(one_->all), within(other_->all)});
}

int Pair::blocks() const { return static_cast<int>(counting_blocks().size()); }

double Pair::log_ratio(double x) const { return one_->all.log_ms_at(x) - other_->all.log_ms_at(x); }

double Pair::log_ratio_without(std::size_t block, double x) const {
  return one_->without[block].log_ms_at(x) - other_->without[block].log_ms_at(x);
}

std::vector<std::size_t> Pair::counting_blocks() const {
  std::vector<std::size_t> blocks;
  for (std::size_t block = 0; block < one_->without.size(); ++block)
    if (one_->block_counts[block] || other_->block_counts[block]) blocks.push_back(block);
  return blocks;
}

double Pair::bend_at(double x) const { return std::hypot(one_->all.bend_at(x), other_->all.bend_at(x)); }

Difference Pair::at(double x) const {
  std::vector<double> without;
  for (const std::size_t block : counting_blocks()) without.push_back(log_ratio_without(block, x));
  Difference difference{log_ratio(x), jackknife_error(without), without.size()};
  // The bend is a half-width; as an error it is divided by the factor that will multiply it.
  if (std::isfinite(difference.error)) difference.error = std::hypot(difference.error, bend_at(x) / t_factor(without.size()));
  return difference;
}

}  // namespace mileage
