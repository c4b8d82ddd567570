// Series compared with one variant, place by place.
#pragma once

#include <vector>

#include "analysis/statistics/interval.h"

namespace mileage {

struct Analysis;
struct Questions;

/// A series compared with another.
struct SeriesAgainst {
  std::size_t series = 0;  ///< Places among the series of the study.
  std::size_t against = 0;
  struct Place {
    double x = 0;
    double share = 1;   ///< Takes this share of the other's time.
    Interval interval;  ///< 95 % for all places together, as verdicts on the pair are.
    double saves_ms = 0;
  };
  std::vector<Place> places;
};

/// All series that share their conditions with one of the baseline (the first variant where none is named), against
/// it: at the places asked for, else at those that both have measured.
std::vector<SeriesAgainst> against_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
