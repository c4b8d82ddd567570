// Numbers read from draws. One rule for all of them: the middle draw, and between which 95 % of draws are.
#pragma once

#include <cstddef>

#include <Eigen/Core>

#include "analysis/statistics/interval.h"

namespace mileage {

/// A number, one of each draw. A draw that has none is at an end of the line: +-infinity.
using Drawn = Eigen::ArrayXd;

/// Infinite where most draws have none.
double middle_of(Drawn drawn);

/// 95 %, shared among so many verdicts that are given together (Bonferroni); open at an end that is infinite.
Interval interval_of(Drawn drawn, std::size_t verdicts = 1);

/// Whether so large a share of draws is above 0 that it is sure: 97.5 %, with the same correction.
bool is_surely_positive(const Drawn& drawn, std::size_t verdicts = 1);

}  // namespace mileage
