// Series compared with a baseline, place by place.
#pragma once

#include <vector>

#include "analysis/statistics/interval.h"

namespace mileage {

struct Analysis;
struct Questions;

struct SeriesAgainst {
  std::size_t series = 0;
  std::size_t against = 0;
  struct Place {
    double x = 0;
    double share = 1;   ///< Of the baseline's time.
    Interval interval;  ///< Covers all places together.
    double saves_ms = 0;
  };
  std::vector<Place> places;
};

/// All series under the same conditions as one of the baseline, at the places asked for, or else where both were
/// measured.
std::vector<SeriesAgainst> against_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
