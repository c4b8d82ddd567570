// Two series next to each other: what differs between them in the same draws, so that what the machine does to both is
// no uncertainty of their difference.
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
  /// 1 the one is surely slower, -1 surely faster, 0 is not known; corrected for this many verdicts.
  int verdict(std::size_t verdicts = 1) const;
  /// The same where only one of both ways is asked for.
  int side() const;
  /// The one takes this share of the time of the other, with its 95 % interval.
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

  /// Ends of the range that both have measured. There is none when min() >= max().
  double min() const { return std::max(one_->min(), other_->min()); }
  double max() const { return std::min(one_->max(), other_->max()); }
  /// Number of measured places of the series that has more of them in the common range; 1 at least.
  std::size_t places() const;

  double ms_of_one(double x) const { return one_->ms_at(x); }
  /// What a frame of the other takes more than one of the one, in ms; negative where it takes less.
  double saves_ms(double x) const { return other_->ms_at(x) - one_->ms_at(x); }
  Difference at(double x) const;
  /// What a frame of the one takes more than one of the other and this, in ms, of the middle costs and of each draw:
  /// above 0 where switching to the other saves more.
  double saved_beyond(double x, double min_saving_ms) const { return -saves_ms(x) - min_saving_ms; }
  Drawn drawn_saved_beyond(double x, double min_saving_ms) const;
  /// Places of draws of either in the common range, ascending, its ends included.
  std::vector<double> drawn_places() const;
  /// Upper end of the range that both are known in (SeriesCurve::max_known).
  double max_known() const { return std::min({one_->max_known(), other_->max_known(), max()}); }
  /// The step of either that x is in; nullptr where there is none.
  const Step* step_at(double x) const;
  Source source_at(double x) const;

 private:
  const SeriesCurve* one_;
  const SeriesCurve* other_;
};

}  // namespace mileage
