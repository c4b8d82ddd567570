#include "analysis/curves/series_curve.h"

#include <algorithm>
#include <bit>
#include <limits>
#include <random>

#include <boost/random/normal_distribution.hpp>

#include "analysis/model/draws.h"
#include "analysis/model/priors.h"
#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

using Eigen::Index;

const double never = std::numeric_limits<double>::infinity();

/// Indices of the neighbours of a number, and its share of the way.
struct Between {
  std::size_t below = 0;
  double share = 0;
};

Between between(const std::vector<double>& ascending, double value) {
  if (ascending.size() == 1 || value <= ascending.front()) return {};
  const auto above = std::lower_bound(ascending.begin() + 1, ascending.end() - 1, value);
  const double from = *std::prev(above), to = *above;
  return {static_cast<std::size_t>(above - ascending.begin()) - 1, std::min((value - from) / (to - from), 1.0)};
}

/// Where values first rise through a level.
template <class Values>
double first_rise(const std::vector<double>& log_x, const Values& value, double level) {
  if (value(0) > level) return 0;
  for (std::size_t i = 1; i < log_x.size(); ++i) {
    const double before = value(static_cast<Index>(i) - 1), after = value(static_cast<Index>(i));
    if (after > level) return std::exp(log_x[i - 1] + (log_x[i] - log_x[i - 1]) * (level - before) / (after - before));
  }
  return never;
}

/// Measured places, others at most a factor of 1.5 apart between them, and some beyond.
std::vector<double> drawn_places(const std::vector<double>& places) {
  std::vector<double> log_x{std::log(places.front())};
  const auto go_to = [&](double log_to, int steps) {
    const double from = log_x.back();
    for (int step = 1; step < steps; ++step) log_x.push_back(from + (log_to - from) * step / steps);
    log_x.push_back(log_to);
  };
  const double widest = std::log(1.5);
  for (std::size_t i = 1; i < places.size(); ++i)
    go_to(std::log(places[i]), std::max(2, static_cast<int>(std::ceil(std::log(places[i] / places[i - 1]) / widest))));
  if (places.size() >= prior::places_to_extrapolate) go_to(log_x.back() + std::log(prior::farthest_extrapolation), 4);
  return log_x;
}

/// Beyond the last place curves bend by the prior's amount, whatever this one does.
void bend_beyond(const std::vector<double>& log_x, double log_max, Eigen::MatrixXd& log_ms, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  boost::random::normal_distribution<double> normal;
  for (Index draw = 0; draw < log_ms.rows(); ++draw) {
    double height = 0, slope = 0;
    for (std::size_t i = 1; i < log_x.size(); ++i) {
      const double step = log_x[i] - std::max(log_x[i - 1], log_max);
      if (log_x[i] <= log_max) continue;
      const double of_slope = normal(random), own = normal(random);
      height += slope * step + std::pow(step, 1.5) * prior::bend.median * (of_slope / 2 + own / std::sqrt(12.0));
      slope += std::sqrt(step) * prior::bend.median * of_slope;
      log_ms(draw, static_cast<Index>(i)) += height;
    }
  }
}

/// Largest place where three runs (with two an outlier is ambiguous) are within a factor of 1.25.
std::optional<double> max_known_of(const SeriesEvidence& evidence) {
  for (auto x = evidence.x.rbegin(); x != evidence.x.rend(); ++x) {
    const auto runs = std::count_if(evidence.runs.begin(), evidence.runs.end(), [&](const JudgedRun* one) {
      return std::max(one->x / *x, *x / one->x) <= same_place_within;
    });
    if (runs >= 3) return *x;
  }
  return std::nullopt;
}

/// Mean of (time - time at full speed) / time.
double share_corrected(const JointFit& fit, int series, const SeriesCurve& curve) {
  const Inputs& inputs = fit.inputs();
  double sum = 0, runs = 0;
  for (Index i = 0; i < inputs.size(); ++i) {
    if (inputs.series(i) != series) continue;
    sum += inputs.runs(i) * (inputs.log_ms(i) - curve.log_ms_at(std::exp(inputs.t(i) + inputs.middle)));
    runs += inputs.runs(i);
  }
  return -std::expm1(-sum / runs);
}

double nearest(const std::vector<double>& places, double log_x) {
  return *std::min_element(places.begin(), places.end(), [&](double a, double b) {
    return std::fabs(std::log(a) - log_x) < std::fabs(std::log(b) - log_x);
  });
}

/// So that unrelated studies are drawn independently.
std::uint64_t seed_of(const JointFit& fit) { return std::bit_cast<std::uint64_t>(fit.inputs().log_ms.sum()); }

std::vector<Step> steps_of(const JointFit& fit, int series, const std::vector<double>& places) {
  std::vector<Step> steps;
  for (const ModelStep& step : fit.steps())
    if (step.series == series)
      steps.push_back(
          {nearest(places, step.from + fit.inputs().middle), nearest(places, step.to + fit.inputs().middle)});
  std::sort(steps.begin(), steps.end(), [](const Step& a, const Step& b) { return a.before < b.before; });
  return steps;
}

SeriesCurve curve_of(const JointFit& fit, int series, const SeriesEvidence& evidence, const std::vector<double>& log_x,
                     Eigen::MatrixXd log_ms) {
  bend_beyond(log_x, std::log(evidence.x.back()), log_ms, seed_of(fit) + static_cast<std::uint64_t>(series));
  SeriesCurve curve(evidence.x, log_x, std::move(log_ms));
  curve.fails_from = evidence.fails_from;
  curve.steps = steps_of(fit, series, evidence.x);
  if (const auto x = max_known_of(evidence)) curve.set_max_known(*x);
  if (fit.inputs().are_probed) curve.set_corrected_by(share_corrected(fit, series, curve));
  return curve;
}

}  // namespace

SeriesCurve::SeriesCurve(std::vector<double> places, std::vector<double> log_x, Eigen::MatrixXd log_ms)
    : places_(std::move(places)), log_x_(std::move(log_x)), log_ms_(std::move(log_ms)) {
  for (Index i = 0; i < log_ms_.cols(); ++i) middle_.push_back(middle_of(log_ms_.col(i)));
}

bool SeriesCurve::is_measured_at(double x) const { return std::binary_search(places_.begin(), places_.end(), x); }

const Step* SeriesCurve::step_at(double x) const {
  const auto found = std::find_if(steps.begin(), steps.end(), [&](const Step& step) { return step.holds(x); });
  return found == steps.end() ? nullptr : &*found;
}

Source SeriesCurve::source_at(double x) const {
  if (!covers(x)) return Source::extrapolated;
  return step_at(x) != nullptr ? Source::step : Source::measured;
}

double SeriesCurve::log_ms_at(double x) const {
  const auto [below, share] = between(log_x_, std::log(x));
  return share > 0 ? middle_[below] + share * (middle_[below + 1] - middle_[below]) : middle_[below];
}

Drawn SeriesCurve::drawn_log_ms(double x) const {
  const auto [below, share] = between(log_x_, std::log(x));
  const auto column = static_cast<Index>(below);
  Drawn drawn = log_ms_.col(column).array();
  if (share > 0) drawn += share * (log_ms_.col(column + 1) - log_ms_.col(column)).array();
  return drawn;
}

Interval SeriesCurve::ms_interval_at(double x) const { return interval_of(drawn_log_ms(x).exp()); }

std::optional<CostReading> SeriesCurve::cost_at(double x) const {
  return covers(x) ? std::optional(CostReading{ms_at(x), ms_interval_at(x)}) : std::nullopt;
}

std::optional<double> SeriesCurve::rise(double log_ms) const {
  const double at = first_rise(
      log_x_, [&](Index i) { return middle_[static_cast<std::size_t>(i)]; }, log_ms);
  return at > 0 && at < never ? std::optional(at) : std::nullopt;
}

Drawn SeriesCurve::drawn_rise(const Drawn& log_ms) const {
  Drawn rises(draws());
  for (Index draw = 0; draw < draws(); ++draw)
    rises(draw) = first_rise(
        log_x_, [&](Index i) { return log_ms_(draw, i); }, log_ms(draw));
  return rises;
}

Drawn SeriesCurve::drawn_exponent(double from, double to) const {
  std::vector<double> log_x;
  for (const double x : places_)
    if (x >= from && x <= to) log_x.push_back(std::log(x));
  const Eigen::ArrayXd centred = Eigen::Map<Eigen::ArrayXd>(log_x.data(), static_cast<Index>(log_x.size())) -
                                 Eigen::Map<Eigen::ArrayXd>(log_x.data(), static_cast<Index>(log_x.size())).mean();
  Drawn sum = Drawn::Zero(draws());
  for (std::size_t i = 0; i < log_x.size(); ++i)
    sum += centred(static_cast<Index>(i)) * drawn_log_ms(std::exp(log_x[i]));
  return sum / centred.square().sum();
}

Drawn SeriesCurve::drawn_log_rise(const Step& step) const {
  const auto before = std::lower_bound(places_.begin(), places_.end(), step.before);
  const auto slope = [&](double from, double to) -> Drawn {
    return (drawn_log_ms(to) - drawn_log_ms(from)) / std::log(to / from);
  };
  const double from = *before, to = *(before + 1);
  const Drawn grows = (slope(*(before - 1), from) + slope(to, *(before + 2))) / 2 * std::log(to / from);
  return drawn_log_ms(to) - drawn_log_ms(from) - grows;
}

std::vector<SeriesCurve> fit_curves(const EvidenceSet& evidence, bool within_processes) {
  std::vector<SeriesCurve> curves;
  if (evidence.series.empty()) return curves;
  std::vector<std::vector<double>> log_x;
  for (const SeriesEvidence& one : evidence.series) log_x.push_back(drawn_places(one.x));
  for (const JointFit& fit : JointFit::in_groups(model_rows(evidence, within_processes))) {
    Draws draws = draw_curves(fit, log_x, prior::draws, seed_of(fit));
    for (std::size_t i = 0; i < draws.size(); ++i)
      if (draws[i].size() > 0)  // Groups keep the order of series.
        curves.push_back(curve_of(fit, static_cast<int>(i), evidence.series[i], log_x[i], std::move(draws[i])));
  }
  return curves;
}

}  // namespace mileage
