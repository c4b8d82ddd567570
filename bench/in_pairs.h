#pragma once

#include <random>
#include <vector>

#include "analysis/statistics/statistics.h"

namespace mileage {

/// In random order; a side returns its nanoseconds.
template <class One, class Other>
PairedRatio in_pairs(int pairs, One one, Other other) {
  std::mt19937 random(1);
  std::vector<double> ones, others;
  for (int i = 0; i < pairs; ++i) {
    const bool one_first = random() % 2 == 0;
    if (!one_first) others.push_back(other());
    ones.push_back(one());
    if (one_first) others.push_back(other());
  }
  return paired_ratio(ones, others);
}

}  // namespace mileage
