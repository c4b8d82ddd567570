// Numbers from draws: median and central 95 %.
#pragma once

#include <cstddef>

#include <Eigen/Core>

#include "analysis/statistics/interval.h"

namespace mileage {

/// One number per draw; +-infinity for none.
using Drawn = Eigen::ArrayXd;

double middle_of(Drawn drawn);

/// Central 95 %, Bonferroni-corrected for `verdicts`; open at infinite ends.
Interval interval_of(Drawn drawn, std::size_t verdicts = 1);

/// Whether 97.5 % of draws are above 0, with the same correction.
bool is_surely_positive(const Drawn& drawn, std::size_t verdicts = 1);

}  // namespace mileage
