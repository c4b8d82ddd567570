#include "measure/loop/tuning.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "analysis/evidence/disturbance_filter.h"
#include "analysis/curves/rough_costs.h"
#include "analysis/statistics/constants.h"
#include "types/scenario_knobs.h"

namespace mileage {
namespace {

/// Every third value is measured first if there are many.
constexpr std::size_t coarse_stride = 3;
constexpr std::size_t few_values = 6;
/// Ratio to the best, within slope uncertainty; larger ones are skipped.
constexpr double near_best = 1.25;
/// Standard errors.
constexpr double errors_without_uncertainty = 4;
/// A measured value gets enough runs for an interval.
constexpr int min_runs = 6;
/// Log scale, of one run: few runs may be close by luck, and loaded machines show 5 to 10 %.
constexpr double min_scatter = 0.08;

const double* tuned_value(const Series& series, const std::string& knob) {
  const auto found = series.knobs.values().find(knob);
  return found == series.knobs.values().end() ? nullptr : std::get_if<double>(&found->second);
}

/// Mean log cost at full speed over good runs.
struct CellCost {
  double sum = 0;
  double squares = 0;
  double deviations = 0;  ///< Uncertainty of the slowdown response.
  int runs = 0;
  double mean() const { return sum / runs; }
  /// More runs at the same slowdown do not reduce it.
  double slope_error() const { return deviations / runs; }
  double error() const {
    const double variance = runs > 1 ? std::max(0.0, squares - sum * sum / runs) / (runs - 1) : 0;
    const double by_runs = std::max(min_scatter, std::sqrt(variance)) / std::sqrt(static_cast<double>(runs));
    return std::hypot(by_runs, slope_error());
  }
};

using CellCosts = std::map<std::pair<std::size_t, std::int64_t>, CellCost>;

CellCosts costs_of_blocks(const StudyState& state) {
  const DisturbanceFilter& judge = state.recorder.judge();
  CellCosts costs;
  for (const Run& run : state.recorder.study().runs) {
    if (!is_evidence(run, judge)) continue;
    CellCost& cost = costs[{state.index_of(run.series), run.count}];
    const double log_ms = std::log(rough_fast_ms(judge, run));
    cost.sum += log_ms;
    cost.squares += log_ms * log_ms;
    cost.deviations += rough_fast_sd(judge, run);
    ++cost.runs;
  }
  return costs;
}

std::map<std::int64_t, CellCost> best_by_count(const CellCosts& costs) {
  std::map<std::int64_t, CellCost> best;
  for (const auto& [cell, cost] : costs) {
    const auto known = best.find(cell.second);
    if (known == best.end() || cost.mean() < known->second.mean()) best[cell.second] = cost;
  }
  return best;
}

bool is_default_of_all(const StudyState& state, std::size_t series) {
  const Series& own = state.plan.series[series];
  return std::all_of(state.plan.tune.begin(), state.plan.tune.end(), [&](const std::string& name) {
    const auto value = own.knobs.values().find(name);
    return value != own.knobs.values().end() && is_default_value(state.head.scenario, own.variant, name, value->second);
  });
}

/// Series by value of the only tuned numeric knob; else none.
std::vector<std::size_t> by_value(const StudyState& state) {
  std::vector<std::size_t> series;
  if (state.plan.tune.size() != 1) return series;
  const auto value = [&](std::size_t one) { return tuned_value(state.plan.series[one], state.plan.tune.front()); };
  for (std::size_t i = 0; i < state.plan.series.size(); ++i)
    if (value(i) != nullptr) series.push_back(i);
  std::stable_sort(series.begin(), series.end(), [&](std::size_t a, std::size_t b) { return *value(a) < *value(b); });
  return series;
}

/// Values between coarse ones that are not near the best, or not yet known.
class Coarse {
 public:
  Coarse(const StudyState& state, const CellCosts& costs, const std::map<std::int64_t, CellCost>& best)
      : state_(state), costs_(costs), best_(best), order_(by_value(state)) {}

  bool waits(std::size_t series, std::int64_t count) const {
    if (order_.size() <= few_values || is_default_of_all(state_, series)) return false;
    const auto place = std::find(order_.begin(), order_.end(), series);
    if (place == order_.end()) return false;
    const auto at = static_cast<std::size_t>(place - order_.begin());
    if (at % coarse_stride == 0 || at + 1 == order_.size()) return false;
    const std::size_t below = at - at % coarse_stride;
    const std::size_t above = std::min(below + coarse_stride, order_.size() - 1);
    return !is_near(order_[below], count) && !is_near(order_[above], count);
  }

 private:
  bool is_near(std::size_t series, std::int64_t count) const {
    const auto cost = costs_.find({series, count});
    const auto best = best_.find(count);
    if (cost == costs_.end() || best == best_.end()) return false;
    const double uncertainty = normal_95 * std::hypot(cost->second.slope_error(), best->second.slope_error());
    return cost->second.mean() < best->second.mean() + std::log(near_best) + uncertainty;
  }

  const StudyState& state_;
  const CellCosts& costs_;
  const std::map<std::int64_t, CellCost>& best_;
  std::vector<std::size_t> order_;
};

}  // namespace

void plan_tuning_block(StudyState& state) {
  if (state.plan.tune.empty()) return;
  state.cells = state.ladder;
  const CellCosts costs = costs_of_blocks(state);
  const auto best = best_by_count(costs);
  const Coarse coarse(state, costs, best);
  const auto is_out = [&](const Cell& cell) {
    const auto cost = costs.find({cell.series, cell.count});
    if (cost == costs.end()) return coarse.waits(cell.series, cell.count);
    if (cost->second.runs < min_runs || is_default_of_all(state, cell.series)) return false;
    const CellCost& min = best.at(cell.count);
    const double more = cost->second.mean() - min.mean();
    const double uncertainty = errors_without_uncertainty * std::hypot(cost->second.error(), min.error());
    return more > std::log(near_best) && more > uncertainty;
  };
  for (const Cell& cell : state.cells)
    if (is_out(cell)) state.leave_out(cell.series, cell.count, LeftOutWhy::not_best);
  std::erase_if(state.cells, is_out);
}

}  // namespace mileage
