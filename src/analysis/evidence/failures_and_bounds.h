// What a study has cells that are no points of a curve.
#pragma once

#include <string>
#include <vector>

#include "analysis/evidence/judged_run.h"

namespace mileage {

/// A run that failed.
struct Failure {
  std::string label;
  double x = 0;
  int block = 0;
  std::string reason;
};

/// A cell of which only an upper bound is known.
struct Bound {
  std::string label;
  double x = 0;
  double at_most_ms = 0;
  std::string reason;
};

/// Of a study over the count, without any evidence being judged.
std::vector<Failure> failures_of(const Study& study);

/// In the order of the runs; `series` are those that labels distinguish.
std::vector<Failure> failures_among(const std::vector<JudgedRun>& runs, const std::vector<Series>& series);
/// Ascending for each series and reason, the largest of several at one place.
std::vector<Bound> bounds_among(const std::vector<JudgedRun>& runs, const std::vector<Series>& series);

}  // namespace mileage
