#include "analysis/answers/pays_off_from.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "analysis/curves/difference.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/crossings.h"

namespace mileage {
namespace {

/// What the other saves beyond the worth, at one place.
struct Beyond {
  double x;
  Difference difference;  ///< Above 0: more than the worth.

  bool surely_saves(std::size_t verdicts = 1) const {
    return difference.log_ratio > 0 && difference.is_clear(verdicts);
  }
  bool is_surely_not() const { return difference.log_ratio < 0 && difference.is_clear(); }
};

/// Between two places of which `is_beyond` holds at the second alone.
template <class IsBeyond>
double border_between(double from, double to, IsBeyond is_beyond) {
  for (int step = 0; step < pays_off_search_steps; ++step) {
    const double middle = std::sqrt(from * to);
    (is_beyond(middle) ? to : from) = middle;
  }
  return std::sqrt(from * to);
}

}  // namespace

std::optional<PaysOffFrom> pays_off_from(const Pair& pair, double min_saving_ms) {
  const double max = pair.max_known();
  if (pair.min() >= max) return std::nullopt;
  if (pair.blocks() < 3 && !pair.assumed_error()) return std::nullopt;
  const auto at = [&](double x) { return Beyond{x, pair.at_min_saving(x, min_saving_ms)}; };
  std::vector<Beyond> places;
  for (const double x : places_between(pair.min(), max, pays_off_places)) places.push_back(at(x));
  if (!places.back().surely_saves(pair.places())) return std::nullopt;

  PaysOffFrom answer;
  answer.range_ends = max;
  answer.saves_ms = -pair.saves_ms(max);
  const auto is_less = [](const Beyond& place) { return place.difference.log_ratio <= 0; };
  const auto is_unsure = [](const Beyond& place) { return !place.surely_saves(); };
  const auto is_not = [](const Beyond& place) { return place.is_surely_not(); };

  const auto last_less = std::find_if(places.rbegin(), places.rend(), is_less);
  answer.at = last_less == places.rend()
                  ? pair.min()
                  : border_between(last_less->x, std::prev(last_less)->x, [&](double x) { return !is_less(at(x)); });
  const auto last_not = std::find_if(places.rbegin(), places.rend(), is_not);
  if (last_not != places.rend())
    answer.interval.low = border_between(last_not->x, std::prev(last_not)->x, [&](double x) { return !is_not(at(x)); });
  const auto last_unsure = std::find_if(places.rbegin(), places.rend(), is_unsure);
  if (last_unsure == places.rend())
    answer.interval.high = pair.min();
  else if (last_unsure != places.rbegin())
    answer.interval.high =
        border_between(last_unsure->x, std::prev(last_unsure)->x, [&](double x) { return !is_unsure(at(x)); });
  return answer;
}

}  // namespace mileage
