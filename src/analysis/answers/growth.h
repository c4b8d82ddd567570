// Growth: points, laws, knees, steps and exponents of each series.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/parts.h"
#include "analysis/curves/reading.h"
#include "analysis/statistics/law.h"

namespace mileage {

struct Analysis;

struct CurvePoint {
  double x = 0;
  double ms = 0;
  Interval interval;
  int runs = 0;
};

/// A fixed cost below 0.1 % of the smallest cost is omitted.
struct NamedLaw : Law {
  std::vector<double> ms_at_1k;  ///< Added by each coefficient at 1,000; empty for a law with a knee.
};

struct TestedLaw {
  LawKind kind = LawKind::constant;
  double deviation = 0;  ///< Largest, relative.
  bool fits = false;
};

struct Knee {
  double at = 0;
  Interval interval;  ///< Places where a knee fits.
  double slope_below = 0;
  double slope_above = 0;
  std::string cache;  ///< Matching cache, within a factor of two; else empty.

  std::string knob;  ///< Matching knob, such as "batch"; else empty.
  double knob_value = 0;

  std::optional<double> slope_ratio() const {
    return slope_below > 0 ? std::optional(slope_above / slope_below) : std::nullopt;
  }
};

/// A jump in cost between two measured places.
struct CostStep {
  double before = 0;
  double after = 0;
  double times = 1;  ///< Without regular growth.
  Interval interval;
};

struct SeriesGrowth {
  std::vector<CurvePoint> points;
  std::vector<CostStep> steps;  ///< The law is fitted with the points below lifted to the height after the last.
  std::vector<NamedLaw> names;  ///< Equally simple laws that fit, best first.
  NotNamed not_named = NotNamed::named;
  double largest_deviation = 0;  ///< Of the best, relative.
  std::vector<TestedLaw> tests;
  std::vector<Knee> knees;
  std::optional<double> exponent;  ///< Percent per percent, within a factor of five of the largest place.
  Interval exponent_interval;
  std::optional<double> exponent_at_min;  ///< The same at the smallest place.
  std::optional<double> setup_ms_at_max;
};

struct GrowthAnswer {
  std::vector<SeriesGrowth> series;  ///< Per series.
};

/// `parts` of the same study name the cache at a knee.
GrowthAnswer growth_answer(const Analysis& analysis, const PartsAnswer& parts);

}  // namespace mileage
