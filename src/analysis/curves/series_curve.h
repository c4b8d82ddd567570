// The curve of a series: cost over the axis, as draws of the joint model.
#pragma once

#include <cmath>
#include <optional>
#include <utility>
#include <vector>

#include <Eigen/Core>

#include "analysis/curves/reading.h"
#include "analysis/evidence/evidence_set.h"
#include "analysis/model/readings.h"

namespace mileage {

/// A jump in cost between two neighbouring places.
struct Step {
  double before = 0;
  double after = 0;

  bool holds(double x) const { return x > before && x < after; }
};

class SeriesCurve {
 public:
  /// `places`: measured, ascending; `log_x`: ascending places of the draws, the measured ones among them; `log_ms`: a
  /// row for each draw, a column for each of its places.
  SeriesCurve(std::vector<double> places, std::vector<double> log_x, Eigen::MatrixXd log_ms);

  std::vector<Step> steps;           ///< Ascending.
  std::optional<double> fails_from;  ///< The count from which on its runs failed.

  /// Share of its times that was subtracted to correct them to full speed; nothing without probes.
  std::optional<double> corrected_by() const { return corrected_by_; }
  void set_corrected_by(double share) { corrected_by_ = share; }

  /// Measured ones, ascending.
  const std::vector<double>& places() const { return places_; }
  double min() const { return places_.front(); }
  double max() const { return places_.back(); }
  /// The largest place with three runs within a factor of 1.25, so that an outlier shows; max() where none has.
  double max_known() const { return max_known_.value_or(max()); }
  void set_max_known(double x) { max_known_ = x; }
  /// How far readings go: from three places on up to twice the largest.
  double farthest() const { return std::exp(log_x_.back()); }
  bool is_extrapolated() const { return log_x_.back() > std::log(max()); }
  bool covers(double x) const { return x >= min() && x <= max(); }
  bool is_measured_at(double x) const;
  /// The step that x is in; nullptr where there is none.
  const Step* step_at(double x) const;
  Source source_at(double x) const;

  /// Natural logarithm of the middle cost in ms, and that cost. Places outside the draws count as the nearest end.
  double log_ms_at(double x) const;
  double ms_at(double x) const { return std::exp(log_ms_at(x)); }
  /// Natural logarithm of the cost in ms of each draw.
  Drawn drawn_log_ms(double x) const;
  /// 95 % interval of the cost in ms.
  Interval ms_interval_at(double x) const;
  /// Nothing where the series was not measured that far.
  std::optional<CostReading> cost_at(double x) const;

  /// Where the middle cost rises through a log cost for the first time; nothing where it does not.
  std::optional<double> rise(double log_ms) const;
  /// The same of each draw, with a log cost for each: 0 where it is above from the start, infinity where it stays
  /// below.
  Drawn drawn_rise(const Drawn& log_ms) const;
  /// Growth in percent for one percent more of the axis, of each draw: slope of a line through the places between two.
  /// Needs two of them.
  Drawn drawn_exponent(double from, double to) const;

  /// By how much each draw rises over a step, log scale, without the growth that its slopes on both sides predict.
  Drawn drawn_log_rise(const Step& step) const;

  Eigen::Index draws() const { return log_ms_.rows(); }
  const std::vector<double>& log_x() const { return log_x_; }
  const Eigen::MatrixXd& drawn() const { return log_ms_; }

 private:
  std::vector<double> places_, log_x_;
  Eigen::MatrixXd log_ms_;
  std::vector<double> middle_;
  std::optional<double> corrected_by_, max_known_;
};

/// One for each series of the evidence, from one joint fit of all runs. `within_processes`: EvidenceWanted.
std::vector<SeriesCurve> fit_curves(const EvidenceSet& evidence, bool within_processes = false);

}  // namespace mileage
