#include "measure/loop/figures.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "analysis/answers/questions.h"
#include "analysis/evidence/pairs.h"
#include "analysis/statistics/constants.h"
#include "types/scenario_knobs.h"

namespace mileage {
namespace {

/// Costs that lead to no figure are known well enough within 10 %.
const double enough_for_costs = std::log(1.1) / normal_95;
/// Known within a factor of two.
const double unknown_sd = std::log(2.0) / normal_95;
/// Values of a knob are decided when this number of standard deviations apart: 1 in 1,000, since there are many.
constexpr double decided_sds = 3.1;
/// Log distance of places at which curves are read: 5 %.
constexpr double resolution = 0.05;
/// Ratio to the largest count tried up to which figures are expected.
constexpr double reach = 3;
/// Smaller slopes leave a place unknown.
constexpr double min_slope = 0.05;

/// A series within its reach.
struct Curve {
  std::vector<double> log_x, log_ms;
  bool covers(double x) const { return !log_x.empty() && x >= log_x.front() && x <= log_x.back(); }
};

/// Up to far over the budget. Places are shared by all series, so that curves can be compared.
Curve curve_of(const StudyState& state, std::size_t series) {
  Curve curve;
  if (state.is_excluded[series] || !state.curves->knows(static_cast<int>(series))) return curve;
  const KnownCosts& known = state.known[series];
  const double from = std::log(static_cast<double>(known.smallest()));
  double to = std::log(reach * static_cast<double>(known.largest()));
  if (state.plan.max_count > 0) to = std::min(to, std::log(static_cast<double>(state.plan.max_count)));
  if (state.ends[series] <= known.largest()) to = std::log(static_cast<double>(known.largest()));
  for (double step = std::floor(from / resolution); step * resolution <= to; ++step)
    curve.log_x.push_back(std::max(from, step * resolution));
  curve.log_ms = state.curves->log_ms(static_cast<int>(series), curve.log_x);
  const double far = std::log(far_over_budget * goal_budget_ms(state.plan));
  const auto end = std::find_if(curve.log_ms.begin(), curve.log_ms.end(), [&](double log_ms) { return log_ms > far; });
  curve.log_x.resize(static_cast<std::size_t>(end - curve.log_ms.begin()));
  curve.log_ms.resize(curve.log_x.size());
  return curve;
}

/// Values over places; where one passes zero upwards.
struct Passing {
  double log_x = 0;
  double slope = 0;
};

using Value = std::function<double(std::size_t)>;

std::optional<Passing> passing_between(const std::vector<double>& log_x, const Value& value, std::size_t i) {
  const double below = value(i), above = value(i + 1), step = log_x[i + 1] - log_x[i];
  if (below > 0 || above <= 0 || step <= 0) return std::nullopt;
  return Passing{log_x[i] - below / (above - below) * step, (above - below) / step};
}

std::optional<Passing> first_passing(const std::vector<double>& log_x, const Value& value) {
  for (std::size_t i = 0; i + 1 < log_x.size(); ++i)
    if (const auto passing = passing_between(log_x, value, i)) return passing;
  return std::nullopt;
}

std::optional<Passing> last_passing(const std::vector<double>& log_x, const Value& value) {
  for (std::size_t i = log_x.size(); i-- > 1;)
    if (const auto passing = passing_between(log_x, value, i - 1)) return passing;
  return std::nullopt;
}

class Finder {
 public:
  explicit Finder(const StudyState& state) : state_(state) {
    for (std::size_t series = 0; series < state.plan.series.size(); ++series)
      curves_.push_back(curve_of(state, series));
  }

  void add_capacities(FramesOf frames) {
    for (std::size_t series = 0; series < curves_.size(); ++series) {
      double ratio = 1;
      auto passing = passing_of(series, ratio);
      for (int look = 0; passing && frames != FramesOf::typical && look < 3; ++look) {  // The ratio changes slowly.
        ratio = slow_ratio(state_, series, std::exp(passing->log_x), frames);
        passing = passing_of(series, ratio);
      }
      if (!passing) continue;
      const double slope = std::max(min_slope, passing->slope);
      all_.push_back({Figure::Of::capacity, {passing->log_x, static_cast<int>(series), 1 / slope}, frames});
    }
  }

  void add_pairs() {
    for (const auto& [one, other] :
         compared_pairs(state_.plan.series, state_.head.scenario, state_.plan.goal.between)) {
      const auto [a, b] = shared(one, other);
      if (a.log_x.size() < 2) continue;
      for (const double sign : {1.0, -1.0}) {
        const auto crossing = first_passing(
            a.log_x, [&a = a, &b = b, sign](std::size_t i) { return sign * (a.log_ms[i] - b.log_ms[i]); });
        if (crossing) add(Figure::Of::crossing, *crossing, {one, sign}, {other, -sign});
        add_pays_off(a, b, one, other, sign);
      }
    }
  }

  void add_costs() {
    for (std::size_t series = 0; series < curves_.size(); ++series)
      for (const std::int64_t count : state_.plan.counts)
        if (const double x = std::log(static_cast<double>(count)); curves_[series].covers(x))
          all_.push_back({Figure::Of::cost, {x, static_cast<int>(series)}, FramesOf::typical, 1, enough_for_costs});
  }

  /// Of every value with the best one, at the plan's counts.
  void add_best_values() {
    for (const std::int64_t count : state_.plan.counts) {
      const double x = std::log(static_cast<double>(count));
      std::optional<std::size_t> best;
      for (std::size_t series = 0; series < curves_.size(); ++series)
        if (curves_[series].covers(x) && (!best || log_ms(series, x) < log_ms(*best, x))) best = series;
      for (std::size_t series = 0; series < curves_.size(); ++series)
        if (best && series != *best && curves_[series].covers(x)) add_comparison(x, *best, series);
    }
  }

  std::vector<Figure> all() { return std::move(all_); }

 private:
  double log_ms(std::size_t series, double x) const {
    return state_.curves->log_ms(static_cast<int>(series), std::vector<double>{x}).front();
  }

  std::optional<Passing> passing_of(std::size_t series, double ratio) const {
    const double budget = std::log(goal_budget_ms(state_.plan) / ratio);
    return first_passing(curves_[series].log_x, [&](std::size_t i) { return curves_[series].log_ms[i] - budget; });
  }

  /// Both at the places that they share.
  std::pair<Curve, Curve> shared(std::size_t one, std::size_t other) const {
    std::pair<Curve, Curve> both;
    const Curve &a = curves_[one], &b = curves_[other];
    for (std::size_t i = 0; i < a.log_x.size(); ++i) {
      const auto there = std::find(b.log_x.begin(), b.log_x.end(), a.log_x[i]);
      if (there == b.log_x.end()) continue;
      both.first.log_x.push_back(a.log_x[i]);
      both.first.log_ms.push_back(a.log_ms[i]);
      both.second.log_ms.push_back(b.log_ms[static_cast<std::size_t>(there - b.log_x.begin())]);
    }
    return both;
  }

  void add_pays_off(const Curve& a, const Curve& b, std::size_t one, std::size_t other, double sign) {
    const double min_saving_ms = Questions().min_saving_share * goal_budget_ms(state_.plan);
    const auto ms = [](const Curve& curve, std::size_t i) { return std::exp(curve.log_ms[i]); };
    const auto place =
        last_passing(a.log_x, [&](std::size_t i) { return sign * (ms(a, i) - ms(b, i)) - min_saving_ms; });
    if (!place) return;
    const double one_ms = std::exp(log_ms(one, place->log_x)), other_ms = std::exp(log_ms(other, place->log_x));
    const double scale = one_ms + other_ms;
    add(Figure::Of::pays_off, {place->log_x, place->slope / scale}, {one, sign * one_ms / scale},
        {other, -sign * other_ms / scale});
  }

  using Weighted = std::pair<std::size_t, double>;
  void add(Figure::Of of, const Passing& at, Weighted one, Weighted other) {
    const double slope = std::max(min_slope, at.slope);
    all_.push_back({of,
                    {at.log_x, static_cast<int>(one.first), one.second / slope, static_cast<int>(other.first),
                     other.second / slope},
                    FramesOf::typical});
  }

  void add_comparison(double x, std::size_t best, std::size_t series) {
    const double slower = log_ms(series, x) - log_ms(best, x);
    all_.push_back({Figure::Of::best,
                    {x, static_cast<int>(series), 1, static_cast<int>(best), -1},
                    FramesOf::typical,
                    1,
                    std::max(slower, std::log1p(Questions().min_saving_share)) / decided_sds});
  }

  const StudyState& state_;
  std::vector<Curve> curves_;
  std::vector<Figure> all_;
};

}  // namespace

double Figure::place() const { return std::exp(contrast.log_x); }

bool Figure::concerns(std::size_t series) const {
  return contrast.one == static_cast<int>(series) || contrast.other == static_cast<int>(series);
}

std::vector<Figure> figures_of(const StudyState& state) {
  Finder finder(state);
  const Plan& plan = state.plan;
  if (!plan.tune.empty()) {
    finder.add_best_values();
    return finder.all();
  }
  if (plan.goal.figure != "breakeven") {
    finder.add_capacities(FramesOf::typical);
    if (plan.goal.for_99) finder.add_capacities(FramesOf::max);
    if (plan.arrive > 0) finder.add_capacities(FramesOf::worst);
  }
  if (plan.goal.figure != "capacity") finder.add_pairs();
  std::vector<Figure> all = finder.all();
  // All pairs together count like one capacity: there are many, at counts that take little time.
  const auto is_pair = [](const Figure& figure) { return figure.of != Figure::Of::capacity; };
  const auto pairs = static_cast<std::size_t>(std::count_if(all.begin(), all.end(), is_pair));
  for (Figure& figure : all) {
    figure.enough_sd = std::log1p(plan.precision) / normal_95;
    if (pairs < all.size() && is_pair(figure)) figure.weight = 1 / static_cast<double>(pairs);
  }
  if (!all.empty()) return all;
  finder.add_costs();
  for (Figure& cost : finder.all()) all.push_back(cost);
  return all;
}

double loss_of(const Figure& figure, double variance) {
  const double sd = std::sqrt(std::max(0.0, variance - figure.enough_sd * figure.enough_sd));
  return figure.weight * sd / (1 + sd / unknown_sd);
}

}  // namespace mileage
