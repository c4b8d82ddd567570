#include "analysis/curves/curve.h"

#include <algorithm>
#include <cmath>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/slowdown_drift.h"

namespace mileage {
namespace {

std::vector<Eigen::Index> rows_with_runs(const CellMeans& means) {
  std::vector<Eigen::Index> rows;
  for (Eigen::Index i = 0; i < means.runs.size(); ++i)
    if (means.runs(i) > 0) rows.push_back(i);
  return rows;
}

/// Lack-of-fit test: squared residuals per degree of freedom against the replication noise.
LawTest test_law(const LawFit& fit, Eigen::Index points, const Noise& noise) {
  const auto degrees_of_freedom = static_cast<int>(points) - free_coefficients(fit.law.kind);
  const double variance = std::max(noise.variance, min_sd * min_sd);
  LawTest test{
      fit,
      f_p_value(fit.squared_residuals / degrees_of_freedom / variance, degrees_of_freedom, noise.degrees_of_freedom),
      false};
  test.rejected = test.p_value < law_rejected_below;
  return test;
}

NotTested why_not_tested(const Points& points, const Noise& noise, int blocks) {
  if (points.x.size() < places_for_laws) return NotTested::too_few_places;
  return blocks < blocks_for_laws || noise.degrees_of_freedom < 1 ? NotTested::too_few_blocks : NotTested::tested;
}

/// Tier by tier, until one has a survivor.
std::vector<LawTest> test_laws(const Points& points, const Noise& noise) {
  std::vector<LawTest> tests;
  int tier_with_survivor = tier_of(LawKind::two_knees);
  for (const LawKind kind : all_laws) {
    if (tier_of(kind) > tier_with_survivor) break;
    const auto fit = fit_law(kind, points);
    if (!fit) continue;
    tests.push_back(test_law(*fit, points.x.size(), noise));
    if (!tests.back().rejected) tier_with_survivor = tier_of(kind);
  }
  return tests;
}

void take_nearest_survivor(Curve& curve) {
  double nearest = HUGE_VAL;
  for (const LawTest& test : curve.tests) {
    if (test.rejected) continue;
    if (test.fit.squared_residuals < nearest) curve.law = test.fit.law;
    nearest = std::min(nearest, test.fit.squared_residuals);
  }
}

/// The free power law, as it was tested or fitted for itself.
std::optional<Law> power_law(const Curve& curve) {
  for (const LawTest& test : curve.tests)
    if (test.fit.law.kind == LawKind::power) return test.fit.law;
  const auto fit = fit_law(LawKind::power, curve.smooth);
  return fit ? std::optional(fit->law) : std::nullopt;
}

bool is_near_every_point(const Law& law, const Points& points) {
  for (Eigen::Index i = 0; i < points.x.size(); ++i)
    if (std::fabs(log_ms_at(law, points.x(i)) - points.log_ms(i)) > near_a_point) return false;
  return true;
}

/// Where the law has no knee, the same points with one, if the noise does not reject that; else the points without a
/// law.
std::optional<Interpolant> other_interpolant_of(const Curve& curve) {
  if (!curve.is_read_from_law) return std::nullopt;
  if (!curve.law->knees.empty()) return Interpolant(curve.points, std::nullopt, curve.steps);
  if (curve.noise.degrees_of_freedom < 1) return std::nullopt;
  const auto fit = fit_law(LawKind::one_knee, curve.smooth);
  if (!fit || test_law(*fit, curve.points.x.size(), curve.noise).rejected) return std::nullopt;
  return Interpolant(curve.points, fit->law, curve.steps);
}

bool has_run(const Eigen::ArrayXXd& table) { return (table == table).any(); }

/// One less than this many blocks of one weight tell as much as those of the table (L. Kish, "Survey Sampling", 1965);
/// 1 where one block outweighs all others.
double degrees_of_freedom_of(const CostTable& costs) {
  const Eigen::ArrayXXd present = (costs.log_ms == costs.log_ms).cast<double>();
  const Eigen::ArrayXd told =
      (costs.weight.size() > 0 ? (present > 0).select(costs.weight, 0.0).eval() : present).colwise().sum();
  const double squares = told.square().sum();
  return squares > 0 ? std::max(1.0, told.sum() * told.sum() / squares - 1) : 1;
}

int blocks_with_runs(const Eigen::ArrayXXd& table) {
  return static_cast<int>((table == table).colwise().any().count());
}

}  // namespace

std::optional<Eigen::Index> Curve::point_at(double x) const {
  const auto found = std::find(points.x.begin(), points.x.end(), x);
  return found == points.x.end() ? std::nullopt : std::optional<Eigen::Index>(found - points.x.begin());
}

Source Curve::source_at(double x) const {
  if (!covers(x)) return Source::extrapolated;
  return is_read_from_law ? Source::law : Source::interpolated;
}

namespace {

/// Log cost of a constant plus a power through two points.
double log_through(double x1, double ms1, double x2, double ms2, double power, double x) {
  const double share = std::expm1(power * std::log(x / x1)) / std::expm1(power * std::log(x2 / x1));
  return std::log(ms1 + (ms2 - ms1) * share);
}

}  // namespace

Interval Curve::unknown_shape_at(double x) const {
  const auto above = std::upper_bound(points.x.begin(), points.x.end(), x) - points.x.begin();
  if (above == 0 || above == points.x.size() || is_read_from_law) return {0.0, 0.0};
  const double x1 = points.x(above - 1), x2 = points.x(above);
  const bool is_shown = interpolant.groups() > 2;
  if (x == x1 || x2 <= x1 * close_together || is_shown) return {0.0, 0.0};
  const double ms1 = std::exp(points.log_ms(above - 1)), ms2 = std::exp(points.log_ms(above));
  const double exponent = std::log(ms2 / ms1) / std::log(x2 / x1);
  Interval range{0.0, 0.0};
  // A smaller power than the exponent of the two points takes a constant below zero.
  for (const double mean_excess : {std::max(smallest_power, exponent), largest_power}) {
    if (mean_excess < exponent || exponent <= 0) continue;
    const double off = log_through(x1, ms1, x2, ms2, mean_excess, x) - log_ms_at(x);
    range.low = std::min(*range.low, off);
    range.high = std::max(*range.high, off);
  }
  return range;
}

Bend Curve::bend_at(double x) const {
  Bend bend = interpolant.bend_at(x, noise.variance);
  std::optional<double> other;
  if (other_interpolant && !law->knees.empty() && interpolant.has_knee_around(x))
    other = other_interpolant->curved_log_ms_at(x);
  if (other_interpolant && law->knees.empty()) other = other_interpolant->log_ms_at(x);
  if (other) bend.other = *other - log_ms_at(x);
  if (const Step* step = step_at(x, steps)) bend.step = step->log_jump;
  return bend;
}

Curve fit_curve(const std::vector<double>& x, const CostTable& costs, const Noise& assumed_noise, int left_out,
                const std::vector<Step>* gaps) {
  Curve curve;
  const CellMeans means = cell_means(costs.log_ms, costs.weight);
  const auto rows = rows_with_runs(means);
  const Eigen::Map<const Eigen::ArrayXd> places(x.data(), static_cast<Eigen::Index>(x.size()));
  curve.points = Points{places, means.log_ms, means.weight, costs.uncertainty}.at(rows);
  curve.runs = means.runs(rows).cast<int>();
  curve.noise = means.noise;
  const Noise& noise = curve.noise.degrees_of_freedom > 0 ? curve.noise : assumed_noise;
  curve.tested_against = noise;
  curve.steps = gaps != nullptr ? steps_seen_by(curve.points, *gaps) : find_steps(curve.points, curve.noise);
  curve.smooth = without_steps(curve.points, curve.steps);
  curve.not_tested = why_not_tested(
      curve.points, noise,
      assumed_noise.degrees_of_freedom > 0 ? blocks_for_laws : blocks_with_runs(costs.log_ms) + left_out);
  if (curve.not_tested == NotTested::tested) curve.tests = test_laws(curve.smooth, noise);
  take_nearest_survivor(curve);
  curve.is_read_from_law = curve.law && is_near_every_point(*curve.law, curve.smooth);
  curve.interpolant = Interpolant(curve.points, curve.is_read_from_law ? curve.law : std::nullopt, curve.steps);
  curve.power = power_law(curve);
  return curve;
}

int SeriesCurve::blocks() const { return static_cast<int>(std::count(block_counts.begin(), block_counts.end(), true)); }

std::vector<const Curve*> SeriesCurve::without_counting_blocks() const {
  std::vector<const Curve*> curves;
  for (std::size_t block = 0; block < leave_one_out.size(); ++block)
    if (block_counts[block]) curves.push_back(&leave_one_out[block]);
  return curves;
}

double SeriesCurve::uncertainty_at(double x) const {
  if (place_uncertainties.empty()) return 0;
  const auto above = std::lower_bound(places.begin(), places.end(), x) - places.begin();
  const auto last = static_cast<std::ptrdiff_t>(places.size()) - 1;
  const auto at = [&](std::ptrdiff_t place) { return place_uncertainties[static_cast<std::size_t>(place)]; };
  if (above > last) return at(last);
  return places[static_cast<std::size_t>(above)] == x || above == 0 ? at(above) : std::max(at(above - 1), at(above));
}

double SeriesCurve::slope_error_at(double x) const {
  const Eigen::MatrixXd& covariance = adjustment.cost_covariance;
  if (covariance.size() == 0) return 0;
  const auto error = [&](std::ptrdiff_t place) {
    return std::sqrt(std::max(0.0, covariance(place, place)) + adjustment.unexplained_variance);
  };
  const auto above = std::lower_bound(places.begin(), places.end(), x) - places.begin();
  const auto last = static_cast<std::ptrdiff_t>(places.size()) - 1;
  if (above == 0 || above > last) return error(std::min(above, last));
  const double from = places[static_cast<std::size_t>(above - 1)], to = places[static_cast<std::size_t>(above)];
  const double share = (x - from) / (to - from);
  return (1 - share) * error(above - 1) + share * error(above);
}

std::vector<StandardError> SeriesCurve::errors_beside_blocks(double x, bool with_slowdown) const {
  const double adjusted = with_slowdown ? adjusted_error_at(x) : slope_error_at(x);
  return {{std::hypot(adjusted, load_uncertainty / normal_95)}, {between_processes_sd, assumed_degrees}};
}

double SeriesCurve::adjusted_error_at(double x) const {
  return std::hypot(slope_error_at(x), adjustment.slope * full_speed_sd);
}

double SeriesCurve::degrees_of_freedom_at(double x) const {
  const auto point = measured_point_at(x);
  return point ? std::min(degrees_of_freedom, std::max(1.0, all.runs(*point) - 1.0)) : degrees_of_freedom;
}

Interval SeriesCurve::ms_interval_at(double x) const {
  Readings readings;
  for (const Curve* one : without_counting_blocks()) readings.push_back(one->log_ms_at(x));
  Interval interval = interval_from_log(
      all.log_ms_at(x), half_width(*this, x, readings, std::hypot(all.interpolation_error(x), uncertainty_at(x)), 1));
  const Interval shape = all.unknown_shape_at(x);
  if (interval.low) *interval.low *= std::exp(*shape.low);
  if (interval.high) *interval.high *= std::exp(*shape.high);
  return interval;
}

Interval SeriesCurve::ms_interval_of_point(Eigen::Index point) const {
  Readings readings;
  for (const Curve* one : without_counting_blocks()) {
    const auto same = one->point_at(all.points.x(point));
    readings.push_back(same ? std::optional<double>(one->points.log_ms(*same)) : std::nullopt);
  }
  const double x = all.points.x(point);
  return interval_from_log(all.points.log_ms(point),
                           half_width(*this, x, readings, uncertainty_at(x), 1, degrees_of_freedom_at(x)));
}

std::optional<Eigen::Index> SeriesCurve::measured_point_at(double x) const {
  const auto point = all.point_at(x);
  return point && all.runs(*point) >= min_runs_for_spikes ? point : std::nullopt;
}

double SeriesCurve::max_known() const {
  const Eigen::ArrayXd& x = all.points.x;
  for (Eigen::Index last = x.size() - 1; last >= 0; --last) {
    double runs = 0;
    for (Eigen::Index point = last; point >= 0 && x(last) <= x(point) * close_together; --point) {
      runs += all.runs(point);
      if (runs >= min_runs_for_spikes) return x(point);
    }
  }
  return x(x.size() - 1);
}

std::optional<CostReading> SeriesCurve::cost_at(double x) const {
  if (!all.covers(x)) return std::nullopt;
  if (const auto point = measured_point_at(x))
    return CostReading{std::exp(all.points.log_ms(*point)), ms_interval_of_point(*point)};
  return CostReading{std::exp(all.log_ms_at(x)), ms_interval_at(x)};
}

SeriesCurve fit_series(const std::vector<double>& x, Eigen::Index blocks,
                       const std::function<CostTable(std::optional<Eigen::Index>)>& table) {
  const CostTable whole = table(std::nullopt);
  SeriesCurve curve;
  curve.all = fit_curve(x, whole);
  curve.all.other_interpolant = other_interpolant_of(curve.all);
  curve.degrees_of_freedom = degrees_of_freedom_of(whole);
  for (Eigen::Index block = 0; block < blocks; ++block) {
    const bool counts = has_run(whole.log_ms.col(block));
    curve.block_counts.push_back(counts);
    const CostTable rest = counts ? table(block) : whole;
    curve.leave_one_out.push_back(counts && has_run(rest.log_ms) ? fit_curve(x, rest, {}, 1, &curve.all.steps)
                                                                 : curve.all);
  }
  return curve;
}

namespace {

CostTable adjusted(const Eigen::ArrayXXd& log_ms, const SlowdownCorrection& adjustment) {
  return {adjustment.at_full_speed(log_ms), adjustment.weight, adjustment.row_covariance};
}

/// Without one block, by the slope that is then told.
CostTable costs_without(const SeriesEvidence& evidence, Eigen::Index block) {
  const Eigen::ArrayXXd log_ms = without_column(evidence.log_ms, block);
  return adjusted(log_ms, correct_for_slowdown(log_ms, evidence.slowdowns.without_column(block)));
}

/// What does not depend on how often anything was repeated.
void describe_machine(const SeriesEvidence& evidence, const SlowdownCorrection& adjustment, SeriesCurve& curve) {
  curve.adjustment = adjustment;
  curve.full_speed_sd = evidence.full_speed_sd;
  curve.probed_by = evidence.probed_by;
  curve.load_uncertainty = evidence.load_uncertainty;
  curve.places = evidence.x;
  curve.place_uncertainties = evidence.taken_cores;
  curve.fails_from = evidence.fails_from;
}

}  // namespace

SeriesCurve fit_series(const SeriesEvidence& evidence) {
  const SlowdownCorrection adjustment = correct_for_slowdown(evidence.log_ms, evidence.slowdowns);
  if (evidence.assumed_error) {
    const Noise assumed{assumed_run_sd * assumed_run_sd, static_cast<int>(assumed_blocks) - 1};
    SeriesCurve curve;
    curve.all = fit_curve(evidence.x, adjusted(evidence.log_ms, adjustment), assumed);
    curve.assumed_error = evidence.assumed_error;
    describe_machine(evidence, adjustment, curve);
    for (Eigen::Index block = 0; block < evidence.log_ms.cols(); ++block) {
      curve.block_counts.push_back(has_run(evidence.log_ms.col(block)));
      curve.leave_one_out.push_back(curve.all);
    }
    return curve;
  }
  SeriesCurve curve = fit_series(evidence.x, evidence.log_ms.cols(), [&](std::optional<Eigen::Index> block) {
    return block ? costs_without(evidence, *block) : adjusted(evidence.log_ms, adjustment);
  });
  curve.drift_error = slowdown_drift_error(adjustment.at_full_speed(evidence.log_ms), evidence.order);
  curve.between_processes_sd = evidence.between_processes_sd;
  describe_machine(evidence, adjustment, curve);
  return curve;
}

std::optional<double> error_of(const Readings& without_each_block) {
  std::vector<double> values;
  for (const auto& reading : without_each_block) {
    if (!reading) return std::nullopt;
    values.push_back(*reading);
  }
  if (values.size() < 3) return std::nullopt;
  return jackknife_error(values);
}

std::optional<double> half_width(const Readings& without_each_block) {
  const auto error = error_of(without_each_block);
  if (!error) return std::nullopt;
  return t_factor(without_each_block.size()) * *error;
}

std::optional<double> half_width(const SeriesCurve& curve, double x, const Readings& without_each_block, double bend,
                                 double slope, std::optional<double> degrees_of_freedom) {
  std::vector<StandardError> errors = curve.errors_beside_blocks(x);
  if (curve.assumed_error) {
    errors = {{*curve.assumed_error, assumed_degrees}, errors.front()};
  } else {
    const auto error = error_of(without_each_block);
    if (!error) return std::nullopt;
    errors.push_back({*error * slope, degrees_of_freedom.value_or(curve.degrees_of_freedom)});  // of the reading itself
    errors.push_back({curve.drift_error, stretches_of_drift - 1});
  }
  for (StandardError& one : errors) one.value /= slope;
  errors.push_back({bend / normal_95});
  return sum_of(errors).half_width();
}

Interval interval_from_log(double log_value, const std::optional<double>& half_width) {
  if (!half_width) return {};
  return {std::exp(log_value - *half_width), std::exp(log_value + *half_width)};
}

}  // namespace mileage
