// Series held against one variant, place by place.
#pragma once

#include <string>
#include <vector>

#include "analysis/statistics/interval.h"

namespace mileage {

struct Analysis;

/// A series held against another, at the places that both have measured.
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

/// All series that share their conditions with one of the variant, against it; nothing where no variant is named.
/// Throws Error (usage) for a variant that is not in the study.
std::vector<SeriesAgainst> against_answer(const Analysis& analysis, const std::string& variant);

/// The variant of the series that costs most at the largest place that all have reached.
const std::string& slowest_variant(const Analysis& analysis);

}  // namespace mileage
