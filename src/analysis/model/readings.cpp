#include "analysis/model/readings.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "analysis/model/priors.h"

namespace mileage {
namespace {

using Eigen::ArrayXd;
using Eigen::ArrayXXd;
using Eigen::Index;

const double never = std::numeric_limits<double>::infinity();

Index places_up_to(const Draws& draws, double log_to) {
  const double rounding = 1e-9;
  return std::upper_bound(draws.log_x.begin(), draws.log_x.end(), log_to + rounding) - draws.log_x.begin();
}

/// Where a draw rises through 0, on the scale of places: the first or the last time; -infinity where it is above 0
/// from the start and does not cross, +infinity where it never rises.
double upward_crossing(const std::vector<double>& log_x, const ArrayXXd& values, Index draw, bool last) {
  double at = values(draw, 0) > 0 ? -never : never;
  for (Index i = 0; i + 1 < values.cols(); ++i) {
    const double before = values(draw, i), after = values(draw, i + 1);
    if (before > 0 || !(after > 0)) continue;
    const double from = log_x[static_cast<std::size_t>(i)], to = log_x[static_cast<std::size_t>(i) + 1];
    at = from + (to - from) * (-before / (after - before));
    if (!last) break;
  }
  return at;
}

Drawn crossings_of(const Draws& draws, const ArrayXXd& values, bool last) {
  std::vector<double> places;
  for (Index draw = 0; draw < values.rows(); ++draw)
    places.push_back(std::exp(upward_crossing(draws.log_x, values, draw, last)));
  return quantiles(std::move(places));
}

ArrayXXd costs(const Draws& draws, int series, Index places) {
  return draws.log_ms[static_cast<std::size_t>(series)].leftCols(places).array();
}

ArrayXd column(const Draws& draws, int series, std::size_t place) {
  return draws.log_ms[static_cast<std::size_t>(series)].col(static_cast<Index>(place)).array();
}

std::vector<double> listed(const ArrayXd& values) { return {values.begin(), values.end()}; }

double share_above_zero(const ArrayXd& values) { return (values > 0).cast<double>().mean(); }

}  // namespace

Drawn quantiles(std::vector<double> of_draws) {
  std::sort(of_draws.begin(), of_draws.end());
  const auto at = [&](double share) {
    return of_draws[static_cast<std::size_t>(std::lround(share * static_cast<double>(of_draws.size() - 1)))];
  };
  const auto end = [&](double share) {
    const double value = at(share);
    return std::isfinite(value) && value != 0 ? std::optional(value) : std::nullopt;
  };
  return {at(0.5), {end(1 - prior::sure_share), end(prior::sure_share)}};
}

Drawn drawn_cost(const Draws& draws, int series, std::size_t place) {
  return quantiles(listed(column(draws, series, place).exp()));
}

Drawn drawn_ratio(const Draws& draws, int series, int baseline, std::size_t place) {
  return quantiles(listed((column(draws, series, place) - column(draws, baseline, place)).exp()));
}

Drawn drawn_exponent(const Draws& draws, int series, std::size_t place) {
  const std::size_t from = place == 0 ? 0 : place - 1, to = std::min(place + 1, draws.log_x.size() - 1);
  return quantiles(
      listed((column(draws, series, to) - column(draws, series, from)) / (draws.log_x[to] - draws.log_x[from])));
}

Drawn drawn_capacity(const Draws& draws, int series, double budget_ms, double log_to) {
  return crossings_of(draws, costs(draws, series, places_up_to(draws, log_to)) - std::log(budget_ms), false);
}

std::optional<Drawn> drawn_break_even(const Draws& draws, int from, int to, double log_to) {
  const Index places = places_up_to(draws, log_to);
  const ArrayXXd gains = costs(draws, from, places) - costs(draws, to, places);
  bool is_slower_first = false, is_faster_later = false;
  for (Index i = 0; i < places; ++i) {
    const double faster = share_above_zero(gains.col(i));
    is_slower_first = is_slower_first || faster <= 1 - prior::sure_share;
    is_faster_later = is_faster_later || (is_slower_first && faster >= prior::sure_share);
  }
  if (!is_faster_later) return std::nullopt;
  return crossings_of(draws, gains, true);
}

std::optional<Drawn> drawn_pays_off_from(const Draws& draws, int from, int to, double saving_ms, double log_to) {
  const Index places = places_up_to(draws, log_to);
  const ArrayXXd savings = costs(draws, from, places).exp() - costs(draws, to, places).exp() - saving_ms;
  if (share_above_zero(savings.col(places - 1)) < prior::sure_share) return std::nullopt;
  return crossings_of(draws, savings, true);
}

}  // namespace mileage
