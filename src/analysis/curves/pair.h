// Two series compared draw by draw, so that what affects both cancels.
#pragma once

#include <algorithm>
#include <optional>
#include <vector>

#include "analysis/curves/series_curve.h"

namespace mileage {

/// log(cost of one) - log(cost of other) at one place.
class Difference {
 public:
  Difference(double log_ratio, Drawn drawn) : log_ratio_(log_ratio), drawn_(std::move(drawn)) {}

  double log_ratio() const { return log_ratio_; }  ///< Below 0: the one is faster.
  const Drawn& drawn() const { return drawn_; }
  /// 1: the one is significantly slower, -1: faster, 0: inconclusive; corrected for `verdicts`.
  int verdict(std::size_t verdicts = 1) const;
  /// The same as a one-sided question.
  int side() const;
  /// one / other.
  double ratio() const { return std::exp(log_ratio_); }
  Interval ratio_interval(std::size_t verdicts = 1) const { return interval_of(drawn_.exp(), verdicts); }

 private:
  double log_ratio_;
  Drawn drawn_;
};

/// Refers to the curves, which must outlive it.
class Pair {
 public:
  Pair(const SeriesCurve& one, const SeriesCurve& other) : one_(&one), other_(&other) {}

  /// Common measured range; none if min() >= max().
  double min() const { return std::max(one_->min(), other_->min()); }
  double max() const { return std::min(one_->max(), other_->max()); }
  /// Measured places in the common range, of the series with more; at least 1.
  std::size_t places() const;

  double ms_of_one(double x) const { return one_->ms_at(x); }
  /// other - one, in ms.
  double saves_ms(double x) const { return other_->ms_at(x) - one_->ms_at(x); }
  Difference at(double x) const;
  /// one - other - min_saving_ms: above 0 where switching to the other pays off.
  double saved_beyond(double x, double min_saving_ms) const { return -saves_ms(x) - min_saving_ms; }
  Drawn drawn_saved_beyond(double x, double min_saving_ms) const;
  /// Places in the common range between which draws are nearly straight, ascending, ends included.
  std::vector<double> drawn_places() const;
  /// Where knowledge of both ends (SeriesCurve::max_known).
  double max_known() const { return std::min({one_->max_known(), other_->max_known(), max()}); }
  /// The step of either that contains x, or nullptr.
  const Step* step_at(double x) const;
  Source source_at(double x) const;

 private:
  const SeriesCurve* one_;
  const SeriesCurve* other_;
};

}  // namespace mileage
