#include "analysis/answers/growth.h"

#include <algorithm>
#include <cmath>

#include <Eigen/Eigenvalues>

#include "analysis/analysis.h"
#include "analysis/curves/law_names.h"
#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

std::vector<CurvePoint> points_of(const SeriesCurve& curve) {
  std::vector<CurvePoint> points;
  for (Eigen::Index i = 0; i < curve.all.points.x.size(); ++i)
    points.push_back({curve.all.points.x(i), std::exp(curve.all.points.log_ms(i)), curve.ms_interval_of_point(i),
                      curve.all.runs(i)});
  return points;
}

/// Each with what it becomes without each block that counts.
std::vector<CostStep> steps_of(const SeriesCurve& curve) {
  std::vector<CostStep> steps;
  for (const Step& step : curve.all.steps) {
    Readings readings;
    for (const Curve* leave_one_out : curve.without_counting_blocks()) {
      const Step* same = step_at(std::sqrt(step.before * step.after), leave_one_out->steps);
      readings.push_back(same != nullptr ? std::optional(same->log_jump) : std::nullopt);
    }
    steps.push_back(
        {step.before, step.after, std::exp(step.log_jump), interval_from_log(step.log_jump, half_width(readings))});
  }
  return steps;
}

NamedLaw named(const Law& law, double min_ms) {
  NamedLaw named{law, {}};
  if (named.fixed_ms < share_of_a_fixed_cost * min_ms) named.fixed_ms = 0;
  for (std::size_t i = 0; i < law.coefficients.size() && law.knees.empty(); ++i)
    named.ms_at_1k.push_back(term_ms_at(law, i, 1000));
  return named;
}

std::vector<TestedLaw> tests_of(const Curve& curve, bool with_left_out_errors) {
  std::vector<TestedLaw> tests;
  for (const LawTest& test : curve.tests) {
    const LawKind kind = test.fit.law.kind;
    tests.push_back(
        {kind, test.p_value, test.rejected, with_left_out_errors ? left_out_error(kind, curve.smooth) : std::nullopt});
  }
  return tests;
}

/// Half of the range, log scale, in which a cost grows: above the place where the fixed cost is half of it.
double growing_half(const Curve& curve) {
  const Law& law = *curve.power;
  const double grows_from = std::pow(law.fixed_ms / law.coefficients.front(), 1 / law.exponent);
  return std::log(curve.max() / std::clamp(grows_from, curve.min(), curve.max())) / 2;
}

/// Covariance of the curve's points from what the adjustment leaves uncertain; empty where it leaves nothing.
Eigen::MatrixXd covariance_of_points(const SeriesCurve& curve) {
  if (curve.adjustment.cost_covariance.size() == 0) return {};
  std::vector<Eigen::Index> rows;
  for (const double x : curve.all.points.x)
    rows.push_back(std::lower_bound(curve.places.begin(), curve.places.end(), x) - curve.places.begin());
  return curve.adjustment.cost_covariance(rows, rows);
}

/// What that makes of the exponent, as a standard error: of the points moved by one standard deviation each way in
/// which they move together.
double exponent_uncertainty(const SeriesCurve& curve) {
  const Eigen::MatrixXd covariance = covariance_of_points(curve);
  if (covariance.size() == 0) return 0;
  const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> implementations(covariance);
  double uncertainty = 0;
  for (Eigen::Index way = 0; way < covariance.rows(); ++way) {
    const double variance = implementations.eigenvalues()(way);
    if (variance <= min_mode_variance_share * covariance.trace()) continue;
    Points moved = curve.all.smooth;
    moved.log_ms += std::sqrt(variance) * implementations.eigenvectors().col(way).array();
    if (const auto fit = fit_law(LawKind::power, moved))
      uncertainty = std::hypot(uncertainty, fit->law.exponent - curve.all.power->exponent);
  }
  return uncertainty;
}

/// A small count at which others had the cores looks as dear as it would without them.
double uncertainty_between_places(const SeriesCurve& curve) {
  if (curve.place_uncertainties.empty()) return 0;
  const auto [min, max] = std::minmax_element(curve.place_uncertainties.begin(), curve.place_uncertainties.end());
  return (*max - *min) / std::max(2 * growing_half(curve.all), 1.0);
}

void read_exponent(const SeriesCurve& curve, SeriesGrowth& growth) {
  if (!curve.all.power) return;
  growth.exponent = curve.all.power->exponent;
  Readings readings;
  for (const Curve* leave_one_out : curve.without_counting_blocks())
    readings.push_back(leave_one_out->power ? std::optional<double>(leave_one_out->power->exponent) : std::nullopt);
  const auto error = error_of(readings);
  if (!error) return;
  const double whole = sum_of({{*error, curve.degrees_of_freedom},
                               {exponent_uncertainty(curve)},
                               {uncertainty_between_places(curve) / normal_95}})
                           .half_width();
  growth.exponent_interval = {*growth.exponent - whole, *growth.exponent + whole};
}

/// Growth in percent for one percent more of the axis, at an end of the measured range; nothing at a single place.
std::optional<double> exponent_at_end(const Curve& curve, const LawNames& names, bool lower) {
  const double x = lower ? curve.min() : curve.max();
  if (names.by == NamedBy::noise) return exponent_at(*names.nearest, x);
  const Points& points = curve.smooth;
  if (points.x.size() < 2) return std::nullopt;
  const Eigen::Index i = lower ? 0 : points.x.size() - 2;
  return (points.log_ms(i + 1) - points.log_ms(i)) / std::log(points.x(i + 1) / points.x(i));
}

/// The same from the points near the large end alone: the slope of a line through them, log-log.
std::optional<double> exponent_of_points(const Points& points) {
  const Eigen::Index last = points.x.size() - 1;
  Eigen::Index first = std::max<Eigen::Index>(0, last - 1);
  while (first > 0 && points.x(first - 1) * large_end_within >= points.x(last)) --first;
  if (first == last) return std::nullopt;
  const Eigen::ArrayXd x = points.x.tail(last - first + 1).log();
  const Eigen::ArrayXd y = points.log_ms.tail(last - first + 1);
  const Eigen::ArrayXd centred = x - x.mean();
  return (centred * y).sum() / centred.square().sum();
}

/// The cache that holds about as much as the entities at a knee take, by the memory of the runs there.
std::string cache_near(double bytes, const Machine& machine) {
  std::string nearest;
  double best = about_a_cache;
  for (const auto& [name, size] : machine.cache_bytes) {
    const double ratio = bytes > size ? bytes / size : size / bytes;
    if (ratio >= best) continue;
    best = ratio;
    nearest = name;
  }
  return nearest;
}

/// A knob whose value the axis passes near a knee: up to one batch, one chunk, one call.
void name_knob_near(Knee& knee, const Series& series) {
  double nearest = std::log(about_a_knob);
  for (const auto& [name, value] : series.knobs.values()) {
    const double* number = std::get_if<double>(&value);
    if (number == nullptr || *number < smallest_knob_named) continue;
    const double distance = std::fabs(std::log(knee.at / *number));
    if (distance >= nearest) continue;
    nearest = distance;
    knee.knob = name;
    knee.knob_value = *number;
  }
}

/// Where the same knee lies without each block that counts.
Interval knee_interval(const SeriesCurve& curve, const Law& law, std::size_t knee) {
  Readings readings;
  for (const Curve* leave_one_out : curve.without_counting_blocks()) {
    const auto& other = leave_one_out->law;
    const bool has_it = other && other->knees.size() == law.knees.size();
    readings.push_back(has_it ? std::optional<double>(std::log(other->knees[knee])) : std::nullopt);
  }
  return interval_from_log(std::log(law.knees[knee]), half_width(readings));
}

std::vector<Knee> knees_of(const SeriesCurve& curve, const LawNames& names, const std::vector<CellDetail>& details,
                           const Series& series, const Machine& machine) {
  std::vector<Knee> knees;
  if (!names.nearest) return knees;
  const Law& law = *names.nearest;
  for (std::size_t i = 0; i < law.knees.size(); ++i) {
    Knee knee{law.knees[i], knee_interval(curve, law, i), law.coefficients[i], law.coefficients[i + 1], {}, {}, 0};
    name_knob_near(knee, series);
    if (!details.empty() && details.back().bytes_per_entity)
      knee.cache = cache_near(*details.back().bytes_per_entity * knee.at, machine);
    knees.push_back(std::move(knee));
  }
  return knees;
}

}  // namespace

GrowthAnswer growth_answer(const Analysis& analysis, const PartsAnswer& parts, bool with_left_out_errors) {
  GrowthAnswer answer;
  for (std::size_t i = 0; i < analysis.curves.size(); ++i) {
    const SeriesCurve& curve = analysis.curves[i];
    const std::vector<CellDetail>& details = parts.series[i].cells;
    SeriesGrowth growth;
    growth.points = points_of(curve);
    growth.steps = steps_of(curve);
    const LawNames names = name_laws(curve.all.smooth, curve.all.tested_against, curve.all.tests);
    const double min_ms = std::exp(curve.all.points.log_ms.minCoeff());
    for (const Law& law : names.laws) growth.names.push_back(named(law, min_ms));
    if (names.nearest) growth.law = named(*names.nearest, min_ms);
    growth.named_by = names.by;
    growth.largest_deviation = std::expm1(names.largest_deviation);
    growth.not_tested = curve.all.not_tested;
    growth.tests = tests_of(curve.all, with_left_out_errors);
    growth.knees = knees_of(curve, names, details, analysis.evidence.series[i].series, analysis.evidence.head.machine);
    read_exponent(curve, growth);
    growth.exponent_at_min = exponent_at_end(curve.all, names, true);
    growth.exponent_at_max = exponent_at_end(curve.all, names, false);
    growth.exponent_of_points = exponent_of_points(curve.all.smooth);
    if (!details.empty()) growth.setup_ms_at_max = details.back().setup_ms;
    answer.series.push_back(std::move(growth));
  }
  return answer;
}

}  // namespace mileage
