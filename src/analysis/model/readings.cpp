#include "analysis/model/readings.h"

#include <algorithm>
#include <cmath>

#include "analysis/model/priors.h"

namespace mileage {
namespace {

double unsure_share(std::size_t verdicts) { return (1 - prior::sure_share) / static_cast<double>(verdicts); }

/// Partially sorts.
double at_share(Drawn& drawn, double share) {
  const auto place = drawn.begin() + std::lround(share * static_cast<double>(drawn.size() - 1));
  std::nth_element(drawn.begin(), place, drawn.end());
  return *place;
}

}  // namespace

double middle_of(Drawn drawn) { return at_share(drawn, 0.5); }

Interval interval_of(Drawn drawn, std::size_t verdicts) {
  const auto end = [&](double share) {
    const double value = at_share(drawn, share);
    return std::isfinite(value) ? std::optional(value) : std::nullopt;
  };
  return {end(unsure_share(verdicts)), end(1 - unsure_share(verdicts))};
}

bool is_surely_positive(const Drawn& drawn, std::size_t verdicts) {
  return (drawn > 0).cast<double>().mean() >= 1 - unsure_share(verdicts);
}

}  // namespace mileage
