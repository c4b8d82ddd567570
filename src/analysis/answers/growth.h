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
  Interval interval;  ///< 95 %, from leaving blocks out.
  int runs = 0;
};

/// A law that describes a curve. A fixed cost below a thousandth of the least cost is none.
struct NamedLaw : Law {
  std::vector<double> ms_at_1k;  ///< What each coefficient adds at 1,000; of a law with knees nothing.
};

/// How a law stood the test against replication noise.
struct TestedLaw {
  LawKind kind = LawKind::constant;
  double p_value = 0;  ///< Of the lack-of-fit test; rejected below 1 %.
  bool rejected = false;
  /// Root mean square error, on the log scale, of predicting each place from the others. Nothing where there are not
  /// enough places, and where it was not asked for.
  std::optional<double> left_out_error;
};

/// A place where the slope of a series changes.
struct Knee {
  double at = 0;
  Interval interval;  ///< 95 %; open where a curve without one of the blocks has no such knee.
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
  std::vector<CostStep> steps;  ///< Ascending. The law is of the points without them, at the slowdown beyond the last.
  std::vector<NamedLaw> names;  ///< Several where they do not differ significantly; none where no law comes near.
  std::optional<NamedLaw> law;  ///< The nearest of them.
  NamedBy named_by = NamedBy::nothing;
  double largest_deviation = 0;  ///< Of that law from any point, as a share of the cost.
  NotTested not_tested = NotTested::tested;
  std::vector<TestedLaw> tests;
  std::vector<Knee> knees;
  std::optional<double> exponent;  ///< Of the free power law with a fixed cost.
  Interval exponent_interval;
  /// Local exponent at the smallest and the largest place, by the law or between points; nothing at a single place.
  std::optional<double> exponent_at_min;
  std::optional<double> exponent_at_max;
  std::optional<double> exponent_of_points;  ///< Of the points within a factor of five of the largest, without any law.
  std::optional<double> setup_ms_at_max;     ///< Nothing where it is not known.
};

struct GrowthAnswer {
  std::vector<SeriesGrowth> series;  ///< One per series of the study.
};

/// `parts` of the same study tell what memory stands behind knees. Left-out errors cost a fit per place and tested law.
GrowthAnswer growth_answer(const Analysis& analysis, const PartsAnswer& parts, bool with_left_out_errors);

}  // namespace mileage
