// From the visits of a study to one table per series: the logarithm of the typical frame time, by place on the axis and
// block. Everything after this step works on these tables and does not know what stands on the axis.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include <Eigen/Core>

#include "study/study.h"

namespace mileage {

/// Typical cost of a visit: median over its samples of the time per frame, in milliseconds. The visit must have samples.
double typical_frame_ms(const Visit& visit);

/// All evidence on one series.
struct SeriesEvidence {
  Series series;
  std::string label;       ///< The variant, and the knobs that tell it from the study's other series of that variant.
  int rank = 0;            ///< Place of the variant in the scenario's list; names keep their colour by it.
  std::vector<double> x;   ///< Places on the axis, ascending.
  Eigen::ArrayXXd log_ms;  ///< x.size() rows, one column per block of the study; NaN where there is no visit.
  Eigen::ArrayXXd order;   ///< Of the same shape: place of the visit (or the mean of several) among all of the study.
  /// Standard error of the whole series on the log scale where nothing was repeated and one is assumed; else nothing.
  std::optional<double> assumed_error;
  double between_runs = 0;       ///< Standard error assumed because its visits share the luck of one or two runs; 0 where they do not.
  std::vector<std::optional<double>> setup_ms;  ///< Median set-up time at each place; nothing where it is not known.
};

/// What could not be measured.
struct Failure {
  std::string label;
  double x = 0;
  int block = 0;
  std::string reason;
};

struct Evidence {
  std::vector<int> blocks;  ///< Numbers of the blocks, ascending; columns of every table.
  std::vector<SeriesEvidence> series;  ///< In the order of the plan.
  std::vector<Failure> failures;
};

/// Gathers the visits that answers rest on (yardstick_judge.h). Several visits of one cell in one block are averaged on the log scale. Series
/// without one are left out (their failures stay), and so are those whose outcome differs from the reference's.
/// Where fewer than three runs of a program made all blocks (runs.h), an error between runs is assumed.
/// A block that holds less than half as many of a series' cells as its fullest one is left out for that series.
/// Not where `within_runs`: what repeating more within the same runs would narrow.
Evidence gather_evidence(const Study& study, bool within_runs = false);

}  // namespace mileage
