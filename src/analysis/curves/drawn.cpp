#include "analysis/curves/drawn.h"

#include <algorithm>
#include <cmath>

#include "analysis/model/priors.h"

namespace mileage {
namespace {

/// Place from either end of the sorted draws beyond which the rest is unsure. Of n draws the k-th is exceeded with
/// probability k / (n + 1) (A. Davison and D. Hinkley, Bootstrap Methods, 1997, 4.2); the first is the surest there is.
Eigen::Index unsure_place(const Drawn& drawn, std::size_t verdicts) {
  const double share = (1 - prior::sure_share) / static_cast<double>(verdicts);
  return std::max(Eigen::Index{0}, static_cast<Eigen::Index>(share * static_cast<double>(drawn.size() + 1)) - 1);
}

/// Partially sorts.
double at_place(Drawn& drawn, Eigen::Index place) {
  std::nth_element(drawn.begin(), drawn.begin() + place, drawn.end());
  return drawn(place);
}

}  // namespace

double middle_of(Drawn drawn) { return at_place(drawn, drawn.size() / 2); }

Interval interval_of(Drawn drawn, std::size_t verdicts) {
  const auto end = [&](Eigen::Index place) {
    const double value = at_place(drawn, place);
    return std::isfinite(value) ? std::optional(value) : std::nullopt;
  };
  const Eigen::Index place = unsure_place(drawn, verdicts);
  return {end(place), end(drawn.size() - 1 - place)};
}

bool is_surely_positive(const Drawn& drawn, std::size_t verdicts) {
  return (drawn <= 0).count() <= unsure_place(drawn, verdicts);
}

}  // namespace mileage
