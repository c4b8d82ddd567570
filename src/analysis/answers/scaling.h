// Time over workers: serial share, and how many workers are useful.
#pragma once

#include <cstddef>
#include <vector>

#include "analysis/statistics/interval.h"

namespace mileage {

class SeriesCurve;

/// T(w) = T(1) (serial + (1 - serial) / w + contention (w - 1)): Amdahl's law (G. Amdahl, AFIPS 1967) plus contention.
/// Non-negative least squares on relative residuals.
struct Scaling {
  double x = 0;
  std::size_t values = 0;  ///< Numbers of workers measured.
  double serial = 0;
  /// Open below four numbers.
  Interval serial_interval;
  double contention = 0;
  double useful_workers = 1;  ///< One more saves less than 5 % of the time.
};

/// The curve must outlive it.
struct WorkersCurve {
  double workers = 1;
  const SeriesCurve* curve = nullptr;
};

/// At least one.
Scaling scaling_of(const std::vector<WorkersCurve>& curves, double x);

}  // namespace mileage
