// Numbers read from draws. One rule for all of them: the middle draw, and between which 95 % of draws are.
#pragma once

#include <optional>
#include <vector>

#include "analysis/model/draws.h"
#include "analysis/statistics/interval.h"

namespace mileage {

/// A draw that has no such number counts at the end of the line: +-infinity.
struct Drawn {
  double middle = 0;  ///< Infinite where most draws have none.
  Interval interval;  ///< Open at an end that is infinite.
};
Drawn quantiles(std::vector<double> of_draws);

/// Cost at a place of the draws, in ms; of one relative to another; and the exponent there.
Drawn drawn_cost(const Draws& draws, int series, std::size_t place);
Drawn drawn_ratio(const Draws& draws, int series, int baseline, std::size_t place);
Drawn drawn_exponent(const Draws& draws, int series, std::size_t place);

/// First place at which the cost exceeds a budget; +infinity for draws that never do up to log_to.
Drawn drawn_capacity(const Draws& draws, int series, double budget_ms, double log_to);

/// From where `to` is faster than `from`: nothing unless one place is surely slower and a later one surely faster, of
/// the places up to log_to. The last crossing of each draw.
std::optional<Drawn> drawn_break_even(const Draws& draws, int from, int to, double log_to);

/// From where `to` saves more than this for good: nothing unless it surely does at the last place up to log_to.
std::optional<Drawn> drawn_pays_off_from(const Draws& draws, int from, int to, double saving_ms, double log_to);

}  // namespace mileage
