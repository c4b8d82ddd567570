// How the cost of each series grows: its points, the law that describes it, knees and exponents.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/parts.h"
#include "analysis/curves/reading.h"
#include "analysis/statistics/law.h"

namespace mileage {

struct Analysis;

/// A cell's place on the curve.
struct CurvePoint {
  double x = 0;
  double ms = 0;
  Interval interval;  ///< 95 %.
  int runs = 0;
};

/// A law that describes a curve. A fixed cost below a thousandth of the least cost is none.
struct NamedLaw : Law {
  std::vector<double> ms_at_1k;  ///< What each coefficient adds at 1,000; of a law with a knee nothing.
};

/// A law compared with a curve.
struct TestedLaw {
  LawKind kind = LawKind::constant;
  double deviation = 0;  ///< Largest at any place, as a share of the cost.
  bool fits = false;
};

/// A place where the slope of a series changes.
struct Knee {
  double at = 0;
  Interval interval;  ///< Other places where a knee fits.
  double slope_below = 0;
  double slope_above = 0;
  std::string cache;  ///< The cache whose size the entities pass nearest to it, within a factor of two; else empty.

  std::string knob;  ///< The series' knob whose value the count passes there, such as "batch"; else empty.
  double knob_value = 0;

  /// Nothing where it is flat below.
  std::optional<double> slope_ratio() const {
    return slope_below > 0 ? std::optional(slope_above / slope_below) : std::nullopt;
  }
};

/// A jump in cost between two measured places.
struct CostStep {
  double before = 0;
  double after = 0;
  double times = 1;   ///< What a frame takes then, beside what it grows between them.
  Interval interval;  ///< 95 %.
};

struct SeriesGrowth {
  std::vector<CurvePoint> points;  ///< Ascending.
  std::vector<CostStep> steps;     ///< Ascending. The law is of the points without them, at the height beyond the last.
  std::vector<NamedLaw> names;  ///< Equally simple laws that fit, the nearest first; none where `not_named` says why.
  NotNamed not_named = NotNamed::named;
  double largest_deviation = 0;  ///< Of the nearest from any point, as a share of the cost.
  std::vector<TestedLaw> tests;
  std::vector<Knee> knees;
  std::optional<double> exponent;  ///< Growth in percent for one percent more, within a factor of five of the largest
  Interval exponent_interval;      ///< place; nothing at a single one.
  std::optional<double> exponent_at_min;  ///< The same of the smallest.
  std::optional<double> setup_ms_at_max;  ///< Nothing where it is not known.
};

struct GrowthAnswer {
  std::vector<SeriesGrowth> series;  ///< One per series of the study.
};

/// `parts` of the same study show which memory is behind knees.
GrowthAnswer growth_answer(const Analysis& analysis, const PartsAnswer& parts);

}  // namespace mileage
