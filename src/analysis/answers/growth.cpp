#include "analysis/answers/growth.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "analysis/analysis.h"
#include "analysis/curves/laws.h"
#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

std::vector<CurvePoint> points_of(const SeriesCurve& curve, const SeriesEvidence& evidence) {
  std::map<double, int> runs;
  for (const JudgedRun* one : evidence.runs) ++runs[one->x];
  std::vector<CurvePoint> points;
  for (const double x : curve.places()) points.push_back({x, curve.ms_at(x), curve.ms_interval_at(x), runs[x]});
  return points;
}

std::vector<CostStep> steps_of(const SeriesCurve& curve) {
  std::vector<CostStep> steps;
  for (const Step& step : curve.steps) {
    const Drawn times = curve.drawn_log_rise(step).exp();
    steps.push_back({step.before, step.after, middle_of(times), interval_of(times)});
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

/// Over the places within a factor of five of an end, at least two.
void read_exponents(const SeriesCurve& curve, SeriesGrowth& growth) {
  const std::vector<double>& places = curve.places();
  if (places.size() < 2) return;
  const Drawn at_max =
      curve.drawn_exponent(std::min(places.back() / large_end_within, places[places.size() - 2]), places.back());
  growth.exponent = middle_of(at_max);
  growth.exponent_interval = interval_of(at_max);
  growth.exponent_at_min =
      middle_of(curve.drawn_exponent(places.front(), std::max(places.front() * large_end_within, places[1])));
}

/// Cache whose size matches the entities' memory at a knee.
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

/// A knob whose value is near the knee: one batch, one chunk, one call.
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

std::vector<Knee> knees_of(const LawNames& names, const std::vector<CellDetail>& details, const Series& series,
                           const Machine& machine) {
  if (names.laws.empty() || names.laws.front().knees.empty()) return {};
  const Law& law = names.laws.front();
  Knee knee{law.knees.front(), names.knee, law.coefficients[0], law.coefficients[1], {}, {}, 0};
  name_knob_near(knee, series);
  if (!details.empty() && details.back().bytes_per_entity)
    knee.cache = cache_near(*details.back().bytes_per_entity * knee.at, machine);
  return {knee};
}

}  // namespace

GrowthAnswer growth_answer(const Analysis& analysis, const PartsAnswer& parts) {
  GrowthAnswer answer;
  for (std::size_t i = 0; i < analysis.curves.size(); ++i) {
    const SeriesCurve& curve = analysis.curves[i];
    const std::vector<CellDetail>& details = parts.series[i].cells;
    SeriesGrowth growth;
    growth.points = points_of(curve, analysis.evidence.series[i]);
    growth.steps = steps_of(curve);
    const LawNames names = name_laws(curve);
    const double min_ms =
        std::min_element(growth.points.begin(), growth.points.end(), [](const auto& a, const auto& b) {
          return a.ms < b.ms;
        })->ms;
    for (const Law& law : names.laws) growth.names.push_back(named(law, min_ms));
    growth.not_named = names.why;
    growth.largest_deviation = std::expm1(names.largest_deviation);
    for (const LawTest& test : names.tests)
      growth.tests.push_back({test.law.kind, std::expm1(test.deviation), test.fits});
    growth.knees = knees_of(names, details, analysis.evidence.series[i].series, analysis.evidence.head.machine);
    read_exponents(curve, growth);
    if (!details.empty()) growth.setup_ms_at_max = details.back().setup_ms;
    answer.series.push_back(std::move(growth));
  }
  return answer;
}

}  // namespace mileage
