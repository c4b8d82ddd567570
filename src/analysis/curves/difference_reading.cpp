#include "analysis/curves/difference_reading.h"

#include <algorithm>
#include <cmath>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/crossings.h"

namespace mileage {

std::optional<WindowReading> WindowReading::of(const Pair& pair, const Window& window) {
  const auto all = LocalFit::through(pair.shared_points(), window, pair.noise());
  if (!all) return std::nullopt;
  WindowReading reading(pair, window, *all);
  for (const std::size_t block : pair.counting_blocks())
    reading.without_.push_back(
        LocalFit::through(pair.shared_points_without(block), window, pair.noise()).value_or(*all));
  return reading;
}

Difference WindowReading::at(double x) const {
  std::vector<double> leave_one_out;
  for (const LocalFit& fit : without_) leave_one_out.push_back(fit.value_at(x));
  return pair_->with_error(x, all_.value_at(x), leave_one_out,
                           std::hypot(all_.scatter_at(x), pair_->uncertainty_at(x)));
}

double WindowReading::expected_width(double x, double slope) const {
  const std::size_t blocks =
      pair_->assumed_error() ? assumed_blocks : std::max<std::size_t>(2, static_cast<std::size_t>(pair_->blocks()));
  return t_factor(blocks) * all_.error_at(x) / std::fabs(slope);
}

Interval WindowReading::not_clear(double crossing) const {
  const Interval reach = reach_of(window_);
  const Interval range{std::max(pair_->min(), *reach.low), std::min(pair_->max(), *reach.high)};
  return ambiguous_range(
      crossing, [this](double x) { return at(x).is_clear(); }, range);
}

}  // namespace mileage
