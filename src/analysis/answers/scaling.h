// Time against workers: how much of a frame is serial, and how many workers are of use.
#pragma once

#include <cstddef>
#include <vector>

#include "analysis/statistics/interval.h"

namespace mileage {

class SeriesCurve;

/// T(w) = T(1) (serial + (1 - serial) / w + contention (w - 1)). The first two terms are Amdahl's law (G. Amdahl, AFIPS
/// 1967); the third stands for what each worker more costs all others. Least squares on log time with coefficients that
/// are not negative.
struct Scaling {
  double x = 0;
  std::size_t values = 0;  ///< Numbers of workers measured there.
  double serial = 0;
  /// 95 %; open where fewer than four numbers were measured.
  Interval serial_interval;
  double contention = 0;
  double useful_workers = 1;  ///< More of them save less than 5 % of the time each, or cost some.
};

/// One way with a number of workers. The curve must outlive it.
struct WorkersCurve {
  double workers = 1;
  const SeriesCurve* curve = nullptr;
};

/// One number of workers at least; all of the same blocks.
Scaling scaling_of(const std::vector<WorkersCurve>& curves, double x);

}  // namespace mileage
