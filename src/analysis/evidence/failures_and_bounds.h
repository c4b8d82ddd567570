// Cells that are no points of a curve.
#pragma once

#include <string>
#include <vector>

#include "analysis/evidence/judged_run.h"

namespace mileage {

struct Failure {
  std::string label;
  double x = 0;
  int block = 0;
  std::string reason;
};

/// A cell with an upper bound only.
struct Bound {
  std::string label;
  double x = 0;
  double at_most_ms = 0;
  std::string reason;
};

/// On the count axis, without judging runs.
std::vector<Failure> failures_of(const Study& study);

/// In run order; `series` for labels.
std::vector<Failure> failures_among(const std::vector<JudgedRun>& runs, const std::vector<Series>& series);
/// Ascending by series and reason; the largest of several at one place.
std::vector<Bound> bounds_among(const std::vector<JudgedRun>& runs, const std::vector<Series>& series);

}  // namespace mileage
