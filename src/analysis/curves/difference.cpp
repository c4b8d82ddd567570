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

double Pair::min() const { return std::max(one_->all.min(), other_->all.min()); }

double Pair::max_known() const { return std::min(one_->max_known(), other_->max_known()); }

double Pair::max() const { return std::min(one_->all.max(), other_->all.max()); }

std::size_t Pair::places() const {
  const auto within = [this](const Curve& curve) {
    return static_cast<std::size_t>((curve.points.x >= min() && curve.points.x <= max()).count());
  };
  return std::max({std::size_t{1}, within(one_->all), within(other_->all)});
}

int Pair::blocks() const { return std::min(one_->blocks(), other_->blocks()); }

double Pair::log_ratio(double x) const { return one_->all.log_ms_at(x) - other_->all.log_ms_at(x); }

double Pair::saves_ms(double x) const { return std::exp(other_->all.log_ms_at(x)) - std::exp(one_->all.log_ms_at(x)); }

double Pair::log_ratio_without(std::size_t block, double x) const {
  return one_->leave_one_out[block].log_ms_at(x) - other_->leave_one_out[block].log_ms_at(x);
}

std::vector<std::size_t> Pair::counting_blocks() const {
  std::vector<std::size_t> blocks;
  for (std::size_t block = 0; block < one_->leave_one_out.size(); ++block)
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
  Points points{there.x, there.log_ms - against.log_ms, there.weight.min(against.weight), there.uncertainty};
  if (against.uncertainty.size() > 0)
    points.uncertainty =
        there.uncertainty.size() > 0 ? Eigen::MatrixXd(there.uncertainty + against.uncertainty) : against.uncertainty;
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
  return shared(one_->leave_one_out[block].points, other_->leave_one_out[block].points);
}

double Pair::interpolation_error(double x, double other_share) const {
  const Bend bend = one_->all.bend_at(x).less(other_->all.bend_at(x), other_share);
  const auto shape = [x](const SeriesCurve& curve) {
    const Interval unknown = curve.all.unknown_shape_at(x);
    return std::max(-*unknown.low, *unknown.high);
  };
  return std::hypot(bend.half_width(), std::hypot(one_->uncertainty_at(x), other_share * other_->uncertainty_at(x)),
                    std::hypot(shape(*one_), other_share * shape(*other_)));
}

std::optional<double> Pair::assumed_error() const {
  if (!one_->assumed_error || !other_->assumed_error) return std::nullopt;
  return std::hypot(*one_->assumed_error, *other_->assumed_error);
}

double Pair::uncertainty_at(double x) const { return std::hypot(one_->uncertainty_at(x), other_->uncertainty_at(x)); }

double Pair::between_processes_sd() const {
  return std::hypot(one_->between_processes_sd, other_->between_processes_sd);
}

double Pair::adjusted_error_at(double x, double other_share) const {
  const double one_slowdown = one_->adjustment.slope * one_->full_speed_sd;
  const double other_slowdown = other_share * other_->adjustment.slope * other_->full_speed_sd;
  const double slowdowns =
      one_->probed_by == other_->probed_by ? one_slowdown - other_slowdown : std::hypot(one_slowdown, other_slowdown);
  return std::hypot(one_->slope_error_at(x), other_share * other_->slope_error_at(x), slowdowns);
}

Difference Pair::with_error(double x, double log_ratio, const StandardError& between_blocks, double bend,
                            double other_share) const {
  const StandardError beside{
      std::hypot(bend / normal_95, adjusted_error_at(x, other_share), load_uncertainty() / normal_95)};
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
  std::vector<double> leave_one_out;
  for (const std::size_t block : counting_blocks()) leave_one_out.push_back(log_ratio_without(block, x));
  const double degrees = std::min(one_->degrees_of_freedom, other_->degrees_of_freedom);
  return with_error(x, log_ratio(x), StandardError{spread_at(x, leave_one_out, 1), degrees}, interpolation_error(x), 1);
}

Difference Pair::at_min_saving(double x, double min_saving_ms) const {
  const auto less_min_saving = [&](const Curve& one, const Curve& other) {
    return one.log_ms_at(x) - std::log(std::exp(other.log_ms_at(x)) + min_saving_ms);
  };
  std::vector<double> leave_one_out;
  for (const std::size_t block : counting_blocks())
    leave_one_out.push_back(less_min_saving(one_->leave_one_out[block], other_->leave_one_out[block]));
  const double other_ms = std::exp(other_->all.log_ms_at(x));
  const double other_share = other_ms / (other_ms + min_saving_ms);
  const double degrees = std::min(one_->degrees_of_freedom, other_->degrees_of_freedom);
  return with_error(x, less_min_saving(one_->all, other_->all),
                    StandardError{spread_at(x, leave_one_out, other_share), degrees},
                    interpolation_error(x, other_share), other_share);
}

std::optional<Difference> Pair::measured_at(double x) const {
  const auto one = one_->measured_point_at(x);
  const auto other = other_->measured_point_at(x);
  if (!one || !other) return std::nullopt;
  const double log_ratio = one_->all.points.log_ms(*one) - other_->all.points.log_ms(*other);
  std::vector<double> leave_one_out;
  for (const std::size_t block : counting_blocks()) {
    const auto rest = one_->leave_one_out[block].point_at(x);
    const auto other_rest = other_->leave_one_out[block].point_at(x);
    leave_one_out.push_back(rest && other_rest ? one_->leave_one_out[block].points.log_ms(*rest) -
                                                     other_->leave_one_out[block].points.log_ms(*other_rest)
                                               : log_ratio);
  }
  const double degrees = std::min(one_->degrees_of_freedom_at(x), other_->degrees_of_freedom_at(x));
  return with_error(x, log_ratio, StandardError{spread_at(x, leave_one_out, 1), degrees}, uncertainty_at(x), 1);
}

}  // namespace mileage
