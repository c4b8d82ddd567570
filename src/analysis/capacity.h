// Capacity: how far a series goes along the axis before a frame no longer fits its budget.
#pragma once

#include <optional>
#include <string>

#include "analysis/curve.h"

namespace mileage {

struct Capacity {
  double budget_ms = 0;
  std::optional<double> at;  ///< First place where the cost rises through the budget; more is better.
  Interval interval;         ///< 95 %; open when `interval_missing` says why.
  Source source = Source::law;
  std::string reason;            ///< Why there is no capacity; empty when there is one.
  std::string interval_missing;  ///< Why there is no interval; empty when there is one.
};

/// The capacity of a series for the typical frame. Within the measured range, or from a law up to four times its end
/// (marked as extrapolated); none when the smallest place is over the budget already, and none beyond. budget_ms > 0.
Capacity capacity(const SeriesCurve& series, double budget_ms);

}  // namespace mileage
