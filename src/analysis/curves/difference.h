// The difference of two series along the axis, on the log scale, with what repetition says about it.
#pragma once

#include <optional>
#include <vector>

#include "analysis/curves/curve.h"

namespace mileage {

/// log(cost of one) - log(cost of other) at one place.
struct Difference {
  double log_ratio = 0;      ///< Below 0: the one is faster.
  StandardError error = {};  ///< From leaving blocks out, bends included; infinite below three blocks.

  /// Whether the difference is more than its interval: at 95 %, shared among this many verdicts given together. Without
  /// an interval nothing is.
  bool is_clear(std::size_t verdicts = 1) const;
  /// exp of the difference, with its 95 % interval: the one takes this share of the time of the other.
  double ratio() const;
  Interval ratio_interval() const;
};

/// Two series seen side by side: blocks are excluded of both at once, so that what a block does to both is no
/// uncertainty of their difference. Refers to the curves; they must outlive it.
class Pair {
 public:
  Pair(const SeriesCurve& one, const SeriesCurve& other) : one_(&one), other_(&other) {}

  /// Ends of the range that both have measured. There is none when least() >= most().
  double min() const;
  double max() const;
  /// Upper end of the range that both have measured often enough to tell a spike from its value; most() where one of
  /// them nowhere has.
  double max_known() const;
  /// Number of measured places of the series that has more of them in the common range.
  std::size_t places() const;
  /// Number of blocks that hold runs of the one of both that fewer hold: leaving out others tells nothing of it.
  int blocks() const;

  double log_ratio(double x) const;
  /// Natural logarithm of what a frame of the one takes, in milliseconds.
  double log_ms_of_one(double x) const { return one_->all.log_ms_at(x); }
  /// What a frame of the other takes more than one of the one, in milliseconds; negative where it takes less.
  double saves_ms(double x) const;
  Difference at(double x) const;
  /// log(cost of one) - log(cost of other + worth): above 0 where the other saves more than this many milliseconds.
  Difference at_min_saving(double x, double min_saving_ms) const;
  /// As it was measured at x; nothing where one of them was not measured there often enough.
  std::optional<Difference> measured_at(double x) const;
  /// A difference at x that was read in another way: what it becomes without each block that counts, and a 95 %
  /// half-width to add to what these show. `other_share`: how much of an error of the other one's log cost the
  /// difference has.
  Difference with_error(double x, double log_ratio, const std::vector<double>& without_each_block, double bend,
                        double other_share = 1) const;
  /// Half-width that the difference has from the bends between the points of both (Curve::bend_at) and from the
  /// uncertainty of their places (SeriesCurve::uncertainty_at).
  double interpolation_error(double x, double other_share = 1) const;
  /// The same from the places alone.
  double uncertainty_at(double x) const;
  /// Curves of log_ratio without each block that counts, for readings of other kinds.
  double log_ratio_without(std::size_t block, double x) const;
  std::vector<std::size_t> counting_blocks() const;
  /// Standard error of their difference where nothing was repeated and one is assumed; else nothing.
  std::optional<double> assumed_error() const;
  /// Standard error assumed of the difference because too few processes made all runs; 0 where they did not.
  double between_processes_sd() const;
  /// Standard error of the difference at x from the uncertainty of both adjustments. The full speed is the same for
  /// both where the same probes tell it.
  double adjusted_error_at(double x, double other_share = 1) const;
  /// Half-width of the difference from other work on the machine: two ways may respond to it as unlike as that.
  double load_uncertainty() const { return std::max(one_->load_uncertainty, other_->load_uncertainty); }
  /// Noise of the difference of two runs.
  Noise noise() const;
  /// Where a reading of both comes from: between points where one of them has no law.
  Source source_at(double x) const;

  /// Differences at the places that both have measured, with all blocks and without one of them: points of log(one) -
  /// log(other), for local readings.
  Points shared_points() const;
  /// Steps of both.
  std::vector<Step> steps() const;
  Points shared_points_without(std::size_t block) const;

 private:
  /// The same with a spread without each block that is known already, with its degrees of freedom.
  Difference with_error(double x, double log_ratio, const StandardError& between_blocks, double bend,
                        double other_share) const;
  /// What leaving blocks out shows, but no less than the noise of the runs around x makes: of few blocks, some
  /// combination of neighbouring counts always agrees by luck.
  double spread_at(double x, const std::vector<double>& without_each_block, double other_share) const;
  const SeriesCurve* one_;
  const SeriesCurve* other_;
};

}  // namespace mileage
