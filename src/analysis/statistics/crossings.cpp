#include "analysis/statistics/crossings.h"

#include <algorithm>
#include <cmath>

#include <boost/math/tools/roots.hpp>

#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

/// The place of a change of sign between two places, by their logarithms.
double root_between(const std::function<double(double)>& f, double below, double above) {
  const auto of_log = [&](double log_x) { return f(std::exp(log_x)); };
  const auto is_close = [](double low, double high) { return high - low < root_is_known_within; };
  const auto [low, high] = boost::math::tools::bisect(of_log, std::log(below), std::log(above), is_close);
  return std::exp((low + high) / 2);
}

/// Where it gets clear when one goes from `from` towards `to`; nothing where it does not.
std::optional<double> clear_towards(const std::function<bool(double)>& is_clear, double from, double to) {
  double unclear = from;
  for (int step = 1; step <= steps_of_a_search; ++step) {
    double clear = from * std::pow(to / from, static_cast<double>(step) / steps_of_a_search);
    if (!is_clear(clear)) {
      unclear = clear;
      continue;
    }
    while (std::fabs(std::log(clear / unclear)) > end_is_known_within) {
      const double middle = std::sqrt(clear * unclear);
      (is_clear(middle) ? clear : unclear) = middle;
    }
    return clear;
  }
  return std::nullopt;
}

}  // namespace

std::vector<double> places_between(double min, double max, int how_many) {
  std::vector<double> places;
  for (int i = 0; i < how_many; ++i)
    places.push_back(min * std::pow(max / min, static_cast<double>(i) / std::max(1, how_many - 1)));
  places.back() = max;
  return places;
}

std::vector<Crossing> crossings(const std::function<double(double)>& f, double min, double max) {
  std::vector<Crossing> found;
  const std::vector<double> places = places_between(min, max, crossing_places);
  bool above_before = f(places.front()) > 0;
  for (std::size_t i = 1; i < places.size(); ++i) {
    const bool above = f(places[i]) > 0;
    if (above != above_before) found.push_back({root_between(f, places[i - 1], places[i]), above});
    above_before = above;
  }
  return found;
}

std::optional<Crossing> nearest_crossing(const std::vector<Crossing>& all, bool upward, double x) {
  std::optional<Crossing> nearest;
  for (const Crossing& one : all) {
    if (one.upward != upward) continue;
    if (!nearest || std::fabs(std::log(one.x / x)) < std::fabs(std::log(nearest->x / x))) nearest = one;
  }
  return nearest;
}

Interval ambiguous_range(double crossing, const std::function<bool(double)>& is_clear, const Interval& range) {
  return {clear_towards(is_clear, crossing, *range.low), clear_towards(is_clear, crossing, *range.high)};
}

}  // namespace mileage
