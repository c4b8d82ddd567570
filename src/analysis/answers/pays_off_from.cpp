#include "analysis/answers/pays_off_from.h"

#include <cmath>
#include <limits>
#include <vector>

#include "analysis/curves/pair.h"

namespace mileage {
namespace {

/// Last place where values rise through 0: the first place if they are never below, infinity if they end below.
template <class Value>
double last_rise(const std::vector<double>& x, const Value& value) {
  for (std::size_t i = x.size(); i-- > 0;) {
    const double below = value(i);
    if (below > 0) continue;
    if (i + 1 == x.size()) return std::numeric_limits<double>::infinity();
    return x[i] * std::pow(x[i + 1] / x[i], -below / (value(i + 1) - below));
  }
  return x.front();
}

}  // namespace

std::optional<PaysOffFrom> pays_off_from(const Pair& pair, double min_saving_ms) {
  const double max = pair.max_known();
  if (pair.min() >= max) return std::nullopt;
  if (!is_surely_positive(pair.drawn_saved_beyond(max, min_saving_ms))) return std::nullopt;
  std::vector<double> x = pair.drawn_places();
  std::erase_if(x, [&](double place) { return place > max; });
  std::vector<Drawn> saved;
  for (const double place : x) saved.push_back(pair.drawn_saved_beyond(place, min_saving_ms));
  PaysOffFrom answer;
  answer.range_ends = max;
  answer.saves_ms = -pair.saves_ms(max);
  answer.at = last_rise(x, [&](std::size_t i) { return pair.saved_beyond(x[i], min_saving_ms); });
  Drawn places(saved.front().size());
  for (Eigen::Index draw = 0; draw < places.size(); ++draw)
    places(draw) = last_rise(x, [&](std::size_t i) { return saved[i](draw); });
  answer.interval = interval_of(std::move(places));
  if (answer.interval.low == pair.min()) answer.interval.low.reset();  // It may pay off below the range.
  return answer;
}

}  // namespace mileage
