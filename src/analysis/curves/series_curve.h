// Cost over the axis of one series, as draws of the joint model.
#pragma once

#include <cmath>
#include <optional>
#include <utility>
#include <vector>

#include <Eigen/Core>

#include "analysis/curves/reading.h"
#include "analysis/evidence/evidence_set.h"
#include "analysis/curves/drawn.h"

namespace mileage {

/// A jump in cost between neighbouring places.
struct Step {
  double before = 0;
  double after = 0;

  bool holds(double x) const { return x > before && x < after; }
};

class SeriesCurve {
 public:
  /// `places`: measured, ascending; `log_x`: places of the draws, ascending, including the measured ones; `log_ms`:
  /// draws by places.
  SeriesCurve(std::vector<double> places, std::vector<double> log_x, Eigen::MatrixXd log_ms);

  std::vector<Step> steps;           ///< Ascending.
  std::optional<double> fails_from;  ///< Count of the smallest failed run.

  /// Share of its times subtracted to correct for slowdown; nothing without probes.
  std::optional<double> corrected_by() const { return corrected_by_; }
  void set_corrected_by(double share) { corrected_by_ = share; }

  /// Measured, ascending.
  const std::vector<double>& places() const { return places_; }
  double min() const { return places_.front(); }
  double max() const { return places_.back(); }
  /// Largest place with three runs within a factor of 1.25; else max().
  double max_known() const { return max_known_.value_or(max()); }
  void set_max_known(double x) { max_known_ = x; }
  /// End of extrapolation: twice the largest place, from three places on.
  double farthest() const { return std::exp(log_x_.back()); }
  bool is_extrapolated() const { return log_x_.back() > std::log(max()); }
  bool covers(double x) const { return x >= min() && x <= max(); }
  bool is_measured_at(double x) const;
  /// The step that contains x, or nullptr.
  const Step* step_at(double x) const;
  Source source_at(double x) const;

  /// Middle cost. Places beyond the draws use the nearest end.
  double log_ms_at(double x) const;
  double ms_at(double x) const { return std::exp(log_ms_at(x)); }
  Drawn drawn_log_ms(double x) const;
  Interval ms_interval_at(double x) const;
  /// Nothing beyond extrapolation.
  std::optional<CostReading> cost_at(double x) const;

  /// Where the middle cost first rises through a log cost.
  std::optional<double> rise(double log_ms) const;
  /// The same per draw: 0 if above from the start, infinity if always below.
  Drawn drawn_rise(const Drawn& log_ms) const;
  /// Percent per percent: slope of a line through the places in the range, at least two.
  Drawn drawn_exponent(double from, double to) const;

  /// Rise over a step without growth predicted by the slopes on both sides, log scale.
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

/// Per series, from one joint fit. `within_processes`: EvidenceWanted.
std::vector<SeriesCurve> fit_curves(const EvidenceSet& evidence, bool within_processes = false);

}  // namespace mileage
