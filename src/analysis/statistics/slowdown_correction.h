// Costs corrected to full speed: how the frames of a series slow down with the yardstick, and what
// that leaves uncertain.
#pragma once

#include <vector>

#include <Eigen/Core>

namespace mileage {

/// How slow the machine was during the runs of a table, on the log scale, above full speed: mean and both halves
/// of the probes (study.h). Of the table's shape; empty where the yardstick was not read beside every run.
struct SlowdownTables {
  Eigen::ArrayXXd slowdown;
  Eigen::ArrayXXd one_half;
  Eigen::ArrayXXd other_half;
  /// Part of the slowdown that comes of long frames adding up moments of several states, for frames that follow the
  /// yardstick as usual; empty for none.
  Eigen::ArrayXXd mean_excess = {};
  /// Of each row: milliseconds of frames between two moments at which probes were made; empty where that is not known.
  Eigen::ArrayXd probe_spacing_ms = {};
  /// Of each row: logarithm of its place on the axis, by which rows respond alike; empty: all alike.
  Eigen::ArrayXd log_x = {};

  bool are_known() const { return slowdown.size() > 0; }
  SlowdownTables without_column(Eigen::Index column) const;
};

/// Bent lines through log cost over slowdown, one for each row, by which costs are corrected to slowdown 0.
struct SlowdownCorrection {
  Eigen::ArrayXXd slowdown;    ///< Of each cell, as far as it is reliable; empty where slowdowns are not known.
  Eigen::ArrayXXd weight;      ///< How much each cell tells, in (0, 1]: the farther from full speed, the less.
  Eigen::ArrayXd below_bend;   ///< Change of the log cost of each row per unit of slowdown up to the bend,
  Eigen::ArrayXd beyond_bend;  ///< and beyond it.
  double bend_sd = 0;          ///< Standard deviation of what they differ by.
  double slope = 0;            ///< Of the whole series: the change per unit on the way from the mean slowdown to 0.
  double trust = 0;            ///< Share of that slope that the study told, in [0, 1); the rest is the prior.
  double mean_slowdown = 0;    ///< Of the runs, each as much as it tells.
  /// Covariance of both slopes of each row, as far as they are the prior's; the rest is chance, which blocks show.
  std::vector<Eigen::Matrix2d> slope_covariance;
  /// The same of the rows' costs at slowdown 0 that comes of it, log scale. What the uncertainty of full speed makes is
  /// skipped: slowdowns within that put no slope uncertain.
  Eigen::MatrixXd cost_covariance;
  /// The same of all that is uncertain of the slopes, chance of runs included: by it rows lie beside each other whose
  /// runs were made at unlike slowdowns.
  Eigen::MatrixXd row_covariance;
  /// Of all of these costs together: what others do to frames and no slowdown tells. Grows with the mean slowdown up to
  /// a most.
  double unexplained_variance = 0;

  /// Log cost of a row at a slowdown, less that at slowdown 0.
  double log_slower_at(Eigen::Index row, double slowdown) const;
  /// Standard deviation of what that differs by between two slowdowns, as far as it is the priors'.
  double slower_sd(Eigen::Index row, double from, double to) const;
  /// How far the bend deviates from the straight line between two slowdowns, log scale, if known: runs that are
  /// fast in part and slow in part lie on that line. 0 where both slowdowns are on one side of it.
  double log_bent_between(double low, double high) const;
  /// What it takes off, as a share: 0.2 where frames would be 20 % shorter on the fast machine.
  double taken_off() const;
  /// The costs of the same table at slowdown 0.
  Eigen::ArrayXXd at_full_speed(const Eigen::ArrayXXd& log_ms) const;
};

/// Beside a neighbour on the core, frames slow down with the share of his time up to the bend, and with what he does
/// beyond it, so that runs of one kind tell little of the other. Costs are a mixed model: a row, a block by chance, a
/// slope for each part of the slowdown, and what the slope of a row differs by, which is like that of rows close by
/// (a Gaussian process along the axis: C. E. Rasmussen, C. K. I. Williams, "Gaussian Processes for Machine Learning",
/// 2006). All have priors (constants.h); spikes are clipped. The mean of moments that long frames add up is their power
/// mean with the slope as its exponent: it lies above the geometric one in proportion to the slope (to second order).
/// Few probes dilute a slope; so slowdowns of runs and of blocks are first shrunk to what both halves agree on
/// (regression calibration by the reliability ratio: R. J. Carroll et al., "Measurement Error in Nonlinear Models",
/// 2006). No effect where slowdowns are not known. `log_ms`: rows places, columns blocks, NaN where there is no run.
SlowdownCorrection correct_for_slowdown(const Eigen::ArrayXXd& log_ms, const SlowdownTables& slowdowns);

/// How much a frame is slower at a slowdown, both on the log scale, by the slopes that all series are drawn to.
double usual_log_slower_at(double slowdown);
/// Standard deviation of that: slopes differ between series.
double usual_slower_sd_at(double slowdown);

}  // namespace mileage
