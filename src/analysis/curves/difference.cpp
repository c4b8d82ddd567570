#include "analysis/curves/difference.h"

#include <algorithm>
#include <cmath>

#include "analysis/statistics/constants.h"

namespace mileage {

bool Difference::is_clear(std::size_t verdicts) const {
  return std::isfinite(error.value) && std::fabs(log_ratio) > error.half_width(verdicts);
}

double Difference::ratio() const { return std::exp(log_ratio); }

Interval Difference::ratio_interval() const {
  if (!std::isfinite(error.value)) return {};
  return interval_from_log(log_ratio, error.half_width());
}

double Pair::least() const { return std::max(one_->all.least(), other_->all.least()); }

double Pair::most_told() const { return std::min(one_->most_told(), other_->most_told()); }

double Pair::most() const { return std::min(one_->all.most(), other_->all.most()); }

std::size_t Pair::places() const {
  const auto within = [this](const Curve& curve) {
    return static_cast<std::size_t>((curve.points.x >= least() && curve.points.x <= most()).count());
  };
  return std::max({std::size_t{1}, within(one_->all), within(other_->all)});
}

int Pair::blocks() const { return std::min(one_->blocks(), other_->blocks()); }

double Pair::log_ratio(double x) const { return one_->all.log_ms_at(x) - other_->all.log_ms_at(x); }

double Pair::saves_ms(double x) const { return std::exp(other_->all.log_ms_at(x)) - std::exp(one_->all.log_ms_at(x)); }

double Pair::log_ratio_without(std::size_t block, double x) const {
  return one_->without[block].log_ms_at(x) - other_->without[block].log_ms_at(x);
}

std::vector<std::size_t> Pair::counting_blocks() const {
  std::vector<std::size_t> blocks;
  for (std::size_t block = 0; block < one_->without.size(); ++block)
    if (one_->block_counts[block] || other_->block_counts[block]) blocks.push_back(block);
  return blocks;
}

Noise Pair::noise() const {
  return {one_->all.noise.variance + other_->all.noise.variance,
          std::min(one_->all.noise.degrees_of_freedom, other_->all.noise.degrees_of_freedom)};
}

Source Pair::source_at(double x) const {
  const Source one = one_->all.source_at(x);
  return one == Source::law ? other_->all.source_at(x) : one;
}

namespace {

Points shared(const Points& one, const Points& other) {
  std::vector<Eigen::Index> of_one, of_other;
  for (Eigen::Index i = 0; i < one.x.size(); ++i)
    for (Eigen::Index j = 0; j < other.x.size(); ++j)
      if (one.x(i) == other.x(j)) {
        of_one.push_back(i);
        of_other.push_back(j);
      }
  const Points there = one.at(of_one), against = other.at(of_other);
  Points points{there.x, there.log_ms - against.log_ms, there.weight.min(against.weight), there.doubt};
  if (against.doubt.size() > 0)
    points.doubt = there.doubt.size() > 0 ? Eigen::MatrixXd(there.doubt + against.doubt) : against.doubt;
  return points;
}

}  // namespace

Points Pair::shared_points() const { return shared(one_->all.points, other_->all.points); }

std::vector<Step> Pair::steps() const {
  std::vector<Step> steps = one_->all.steps;
  steps.insert(steps.end(), other_->all.steps.begin(), other_->all.steps.end());
  return steps;
}

Points Pair::shared_points_without(std::size_t block) const {
  return shared(one_->without[block].points, other_->without[block].points);
}

double Pair::interpolation_error(double x, double other_share) const {
  const Bend bend = one_->all.bend_at(x).less(other_->all.bend_at(x), other_share);
  const auto shape = [x](const SeriesCurve& curve) {
    const Interval unknown = curve.all.unknown_shape_at(x);
    return std::max(-*unknown.low, *unknown.high);
  };
  return std::hypot(bend.half_width(), std::hypot(one_->doubt_at(x), other_share * other_->doubt_at(x)),
                    std::hypot(shape(*one_), other_share * shape(*other_)));
}

std::optional<double> Pair::assumed_error() const {
  if (!one_->assumed_error || !other_->assumed_error) return std::nullopt;
  return std::hypot(*one_->assumed_error, *other_->assumed_error);
}

double Pair::doubt_at(double x) const { return std::hypot(one_->doubt_at(x), other_->doubt_at(x)); }

double Pair::between_processes_sd() const { return std::hypot(one_->between_processes_sd, other_->between_processes_sd); }

double Pair::adjusted_error_at(double x, double other_share) const {
  const double one_level = one_->adjustment.slope * one_->fast_level_deviation;
  const double other_level = other_share * other_->adjustment.slope * other_->fast_level_deviation;
  const double levels =
      one_->probed_by == other_->probed_by ? one_level - other_level : std::hypot(one_level, other_level);
  return std::hypot(one_->slope_error_at(x), other_share * other_->slope_error_at(x), levels);
}

Difference Pair::with_error(double x, double log_ratio, const StandardError& between_blocks, double bend,
                            double other_share) const {
  const StandardError beside{std::hypot(bend / normal_95, adjusted_error_at(x, other_share), load_doubt() / normal_95)};
  if (assumed_error()) return {log_ratio, sum_of({{*assumed_error(), assumed_degrees}, beside})};
  if (blocks() < 3) return {log_ratio, {HUGE_VAL}};
  return {log_ratio, sum_of({between_blocks, {between_processes_sd(), assumed_degrees}, beside})};
}

Difference Pair::with_error(double x, double log_ratio, const std::vector<double>& without_each_block, double bend,
                            double other_share) const {
  const double degrees = std::min(one_->degrees_of_freedom, other_->degrees_of_freedom);
  return with_error(x, log_ratio, StandardError{jackknife_error(without_each_block), degrees}, bend, other_share);
}

double Pair::spread_at(double x, const std::vector<double>& without_each_block, double other_share) const {
  return std::max(jackknife_error(without_each_block),
                  std::hypot(one_->all.noise_error_at(x), other_share * other_->all.noise_error_at(x)));
}

Difference Pair::at(double x) const {
  std::vector<double> without;
  for (const std::size_t block : counting_blocks()) without.push_back(log_ratio_without(block, x));
  const double degrees = std::min(one_->degrees_of_freedom, other_->degrees_of_freedom);
  return with_error(x, log_ratio(x), StandardError{spread_at(x, without, 1), degrees}, interpolation_error(x), 1);
}

Difference Pair::at_worth(double x, double worth_ms) const {
  const auto less_worth = [&](const Curve& one, const Curve& other) {
    return one.log_ms_at(x) - std::log(std::exp(other.log_ms_at(x)) + worth_ms);
  };
  std::vector<double> without;
  for (const std::size_t block : counting_blocks())
    without.push_back(less_worth(one_->without[block], other_->without[block]));
  const double other_ms = std::exp(other_->all.log_ms_at(x));
  const double other_share = other_ms / (other_ms + worth_ms);
  const double degrees = std::min(one_->degrees_of_freedom, other_->degrees_of_freedom);
  return with_error(x, less_worth(one_->all, other_->all), StandardError{spread_at(x, without, other_share), degrees},
                    interpolation_error(x, other_share), other_share);
}

std::optional<Difference> Pair::measured_at(double x) const {
  const auto one = one_->measured_point_at(x);
  const auto other = other_->measured_point_at(x);
  if (!one || !other) return std::nullopt;
  const double log_ratio = one_->all.points.log_ms(*one) - other_->all.points.log_ms(*other);
  std::vector<double> without;
  for (const std::size_t block : counting_blocks()) {
    const auto rest = one_->without[block].point_at(x);
    const auto other_rest = other_->without[block].point_at(x);
    without.push_back(rest && other_rest ? one_->without[block].points.log_ms(*rest) -
                                               other_->without[block].points.log_ms(*other_rest)
                                         : log_ratio);
  }
  const double degrees = std::min(one_->degrees_of_freedom_at(x), other_->degrees_of_freedom_at(x));
  return with_error(x, log_ratio, StandardError{spread_at(x, without, 1), degrees}, doubt_at(x), 1);
}

}  // namespace mileage
