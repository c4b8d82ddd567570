#include "analysis/curves/pair.h"

#include <cmath>
#include <set>

namespace mileage {

int Difference::verdict(std::size_t verdicts) const {
  return is_surely_positive(drawn_, 2 * verdicts) ? 1 : is_surely_positive(-drawn_, 2 * verdicts) ? -1 : 0;
}

int Difference::side() const { return is_surely_positive(drawn_) ? 1 : is_surely_positive(-drawn_) ? -1 : 0; }

std::size_t Pair::places() const {
  std::size_t most = 1;
  for (const SeriesCurve* curve : {one_, other_})
    most = std::max(most, static_cast<std::size_t>(std::count_if(curve->places().begin(), curve->places().end(),
                                                                 [&](double x) { return x >= min() && x <= max(); })));
  return most;
}

Difference Pair::at(double x) const {
  return {one_->log_ms_at(x) - other_->log_ms_at(x), one_->drawn_log_ms(x) - other_->drawn_log_ms(x)};
}

Drawn Pair::drawn_saved_beyond(double x, double min_saving_ms) const {
  return one_->drawn_log_ms(x).exp() - other_->drawn_log_ms(x).exp() - min_saving_ms;
}

std::vector<double> Pair::drawn_places() const {
  std::set<double> places{min(), max()};
  for (const SeriesCurve* curve : {one_, other_})
    for (const double log_x : curve->log_x())
      if (const double x = std::exp(log_x); x > min() * (1 + 1e-9) && x < max() * (1 - 1e-9)) places.insert(x);
  // Costs are straight between places in log-log; savings in ms are not.
  std::vector<double> finer{min()};
  for (auto place = std::next(places.begin()); place != places.end(); ++place) {
    const double from = *std::prev(place);
    for (const double share : {0.25, 0.5, 0.75}) finer.push_back(from * std::pow(*place / from, share));
    finer.push_back(*place);
  }
  return finer;
}

const Step* Pair::step_at(double x) const {
  const Step* step = one_->step_at(x);
  return step != nullptr ? step : other_->step_at(x);
}

Source Pair::source_at(double x) const { return step_at(x) != nullptr ? Source::step : Source::measured; }

}  // namespace mileage
