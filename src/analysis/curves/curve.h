// A curve: cost as a function of what stands on the axis, with the same curve computed without each block, so that
// every number read from it can be given an interval.
#pragma once

#include <cmath>
#include <functional>
#include <optional>
#include <vector>

#include "analysis/curves/reading.h"
#include "analysis/evidence/evidence_set.h"
#include "analysis/statistics/cell_means.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/interpolant.h"
#include "analysis/statistics/laws.h"
#include "analysis/statistics/slowdown_correction.h"
#include "analysis/statistics/statistics.h"
#include "analysis/statistics/steps.h"

namespace mileage {

/// How a law stood the test against replication noise.
struct LawTest {
  LawFit fit;
  double p_value = 0;  ///< Probability of such large squared residuals if the law were true; rejected below 1 %.
  bool rejected = false;
};

/// One fitted curve.
struct Curve {
  Points points;
  Eigen::ArrayXi runs;         ///< Of each point.
  Noise noise;                 ///< Of one run, as repetition shows it.
  std::vector<Step> steps;     ///< Between neighbouring points.
  Points smooth;               ///< The points without steps, at the slowdown beyond the last one: laws are of these.
  std::vector<LawTest> tests;  ///< Simplest law first, up to the tier that has a survivor; empty where none was tested.
  NotTested not_tested = NotTested::tested;
  Noise tested_against;      ///< That of the runs, or an assumed one.
  std::optional<Law> law;    ///< The nearest survivor, for reading; none means that the points speak for themselves.
  std::optional<Law> power;  ///< The free power law whether rejected or not: its exponent describes the growth.

  /// Whether the law stays within 10 % of every point, so that its shape is followed between them: where noise is
  /// large, it rejects nothing, and the simplest law says little.
  bool is_read_from_law = false;
  Interpolant interpolant;  ///< Along the law where its shape is followed.
  /// Another interpolant between the same points: with a knee where the law has none, if it may have one; without a law
  /// where it has one. Looked for where numbers are read: with all blocks.
  std::optional<Interpolant> other_interpolant;

  /// The point at a place that was measured itself; nothing elsewhere.
  std::optional<Eigen::Index> point_at(double x) const;
  double min() const { return points.x(0); }
  double max() const { return points.x(points.x.size() - 1); }
  /// Whether the measured range holds x.
  bool covers(double x) const { return x >= min() && x <= max(); }
  /// How far readings go: the measured range, and up to twice the largest place where a law may be read.
  double farthest() const { return is_read_from_law ? max() * farthest_extrapolation : max(); }
  Source source_at(double x) const;
  /// Natural logarithm of the cost in ms: through the points, along the shape of the law where it may be read and
  /// straight in log-log else. Any x > 0 where a law may be read; else x is taken into the measured range.
  double log_ms_at(double x) const { return interpolant.log_ms_at(x); }
  /// Between the only two points, nothing shows the shape: how far below and above the reading every constant plus a
  /// power of 0.5 to 2 through both of them goes, as log costs; zeros elsewhere.
  Interval unknown_shape_at(double x) const;
  /// What may lie between the points around x, or behind the last of them: a parabola and another interpolant, and
  /// inside a step all of that.
  Bend bend_at(double x) const;
  /// Standard error of the log cost at x from the noise of the runs around it, as repetition at all points shows it.
  double noise_error_at(double x) const { return std::sqrt(noise.variance * interpolant.variance_at(x)); }
  /// Half-width on the log scale that a reading has from it.
  double interpolation_error(double x) const { return bend_at(x).half_width(); }
};

/// Log costs (rows: places, columns: blocks; NaN where there is no run), and how much each tells, in (0, 1]; all
/// alike where that is empty.
struct CostTable {
  Eigen::ArrayXXd log_ms;
  Eigen::ArrayXXd weight = {};
  Eigen::MatrixXd uncertainty = {};  ///< Covariance of the rows' costs beside the noise of runs; empty: none.
};

/// Fits and tests the laws on a table of log costs, tier by tier until one has a survivor. Needs one row with a run.
/// 0.1 to 30 ms. `assumed_noise`: what laws are tested against where the table tells nothing about its noise. Otherwise
/// none is tested below blocks_for_laws blocks with a run; `left_out` more were excluded of this table and count.
/// None is ever tested below places_for_laws places. `gaps`: where steps lie, as all blocks show; looked for unless
/// given.
Curve fit_curve(const std::vector<double>& x, const CostTable& costs, const Noise& assumed_noise = {}, int left_out = 0,
                const std::vector<Step>* gaps = nullptr);

/// The curve of a series, and what it becomes without each block that has a run of it.
struct SeriesCurve {
  Curve all;
  std::vector<Curve> leave_one_out;  ///< One per block of the study; a copy of `all` where the block holds no run.
  /// Standard error of the whole curve on the log scale where nothing was repeated and one is assumed; else nothing.
  std::optional<double> assumed_error;
  double drift_error = 0;             ///< Standard error of its slowdown beyond what blocks show (slowdown_drift.h).
  SlowdownCorrection adjustment;      ///< By which its costs are at the machine's full speed.
  double full_speed_sd = 0;           ///< Standard deviation of that slowdown; 0 where no yardstick was read.
  DisturbanceFilter::Kind probed_by;  ///< Whose probes tell that slowdown.
  double load_uncertainty = 0;        ///< Half-width of its slowdown from work beside it that it does not have.
  std::vector<double> places;         ///< That were measured, ascending,
  std::vector<double>
      place_uncertainties;  ///< and half-widths of costs there that leaving blocks out does not show: cores
                            ///< that others had, slow runs under a 99 % end. Empty where there are none.
  double between_processes_sd =
      0;  ///< Standard error assumed of its slowdown because too few processes made all its runs.
  double degrees_of_freedom = 1;     ///< Of what leaving blocks out shows: fewer where some count little, 1 at least.
  std::optional<double> fails_from;  ///< The count from which on its runs failed.
  std::vector<bool> block_counts;    ///< Whether the block holds a run of this series.

  int blocks() const;
  /// Of what leaving blocks out shows of the cost measured at x: one less than the runs there, at most those of the
  /// curve. Between points, those of the curve.
  double degrees_of_freedom_at(double x) const;
  /// Standard error of the cost at x, log scale, from how the machine slows its frames: the uncertainty of the slopes
  /// that runs left, between the places around x, and what no slowdown tells.
  double slope_error_at(double x) const;
  /// The same from all the uncertainty of the adjustment.
  double adjusted_error_at(double x) const;
  /// Independent standard errors of the log cost at x that leaving blocks out does not show: correction for a slow
  /// machine, other work on it, and processes that were too few. `with_slowdown`: the uncertainty of full speed
  /// included, which is the same for all series.
  std::vector<StandardError> errors_beside_blocks(double x, bool with_slowdown = true) const;
  /// Half-width of the cost at x from what place_uncertainties tells: the larger one of the places around it.
  double uncertainty_at(double x) const;
  /// What it becomes without each block that counts.
  std::vector<const Curve*> without_counting_blocks() const;
  /// 95 % interval of the cost at x in ms: from leaving blocks out, and the bend.
  Interval ms_interval_at(double x) const;
  /// 95 % interval of a point, from leaving blocks out.
  Interval ms_interval_of_point(Eigen::Index point) const;
  /// The largest place that was measured often enough to tell a spike from its value, alone or with larger ones close
  /// to it; else the largest of all.
  double max_known() const;
  /// The point at x where that was measured often enough to tell a spike from its value; nothing elsewhere.
  std::optional<Eigen::Index> measured_point_at(double x) const;
  /// The cost at x with its interval: as measured where that was measured, and along the curve elsewhere. Nothing where
  /// the series was not measured that far.
  std::optional<CostReading> cost_at(double x) const;
};

/// The whole chain of the analysis (means, laws, choice of a law), once with all blocks and once without each.
SeriesCurve fit_series(const SeriesEvidence& evidence);

/// The same chain on a table that depends on the block excluded: `table(block)` is the one without its column,
/// `table(nothing)` the one with all blocks.
SeriesCurve fit_series(const std::vector<double>& x, Eigen::Index blocks,
                       const std::function<CostTable(std::optional<Eigen::Index>)>& table);

/// The number that is read off without each block in turn, natural logarithm; nothing where it does not exist then.
using Readings = std::vector<std::optional<double>>;

/// Standard error on the log scale from the readings without each block; nothing below three blocks, or when a reading
/// does not exist in one of them.
std::optional<double> error_of(const Readings& without_each_block);

/// 95 % half-width of the same.
std::optional<double> half_width(const Readings& without_each_block);

/// The same for a reading of a curve at x: the drift of its slowdown, the uncertainty of its adjustment there, what is
/// assumed between processes, and `bend`, a half-width (0 for none), are added in quadrature. From the assumed error
/// where there is one. `slope` is the steepness (> 0) with which the curve passes the reading, 1 for a cost: the errors
/// of its slowdown are divided by it. `degrees_of_freedom` of what the blocks show: those of the curve unless given.
std::optional<double> half_width(const SeriesCurve& curve, double x, const Readings& without_each_block, double bend,
                                 double slope, std::optional<double> degrees_of_freedom = std::nullopt);

/// exp(log_value -+ half-width); open when there is no half-width.
Interval interval_from_log(double log_value, const std::optional<double>& half_width);

}  // namespace mileage
