// The law that a curve goes by: real programs follow none exactly, and enough repetitions reject them all.
#pragma once

#include <optional>
#include <vector>

#include "analysis/curves/reading.h"
#include "analysis/statistics/cell_means.h"
#include "analysis/statistics/laws.h"

namespace mileage {

struct LawTest;

struct LawNames {
  NamedBy by = NamedBy::nothing;
  std::vector<Law> laws;         ///< Several where they do not differ significantly.
  std::optional<Law> nearest;    ///< Of these.
  double largest_deviation = 0;  ///< Of the nearest from any point, log scale.
};

/// Names what was tested, in three steps. First the laws up to one knee that the noise does not reject. Then those that
/// noise and deviations from the law do not reject. Then the simplest law of which no point lies farther than 10 %,
/// beyond two errors of its mean; a richer one only where that cuts the largest deviation to a third; and the same with
/// 20 %. `tests` are those of the points against the noise of one run; where there are none, there is no name. 0 to 30
/// ms.
LawNames name_laws(const Points& points, const Noise& noise, const std::vector<LawTest>& tests);

}  // namespace mileage
