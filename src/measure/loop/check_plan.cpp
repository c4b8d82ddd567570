#include "measure/loop/check_plan.h"

#include <algorithm>

#include "analysis/evidence/agreement.h"

namespace mileage {
namespace {

constexpr std::int64_t largest_checked = 3000;

const Knob* workers_of(const Scenario& scenario, const std::string& variant) {
  const VariantFacts* facts = scenario.find(variant);
  if (facts == nullptr) return nullptr;
  for (const Knob& knob : facts->knobs)
    if (knob.name == "workers" && knob.numeric()) return &knob;
  return nullptr;
}

/// All of them is the default.
std::vector<double> workers_checked(const Knob& workers) {
  std::vector<double> values{1, 2, std::get<double>(workers.default_value)};
  std::sort(values.begin(), values.end());
  values.erase(std::unique(values.begin(), values.end()), values.end());
  std::erase_if(values, [&](double value) { return value < workers.min || value > workers.max; });
  return values;
}

bool is_planned(const std::vector<Check>& checks, const Series& series, std::int64_t count) {
  return std::any_of(checks.begin(), checks.end(), [&](const Check& check) {
    return check.series == series && check.count == count && check.varied == Knobs{};
  });
}

/// A cold series does the same work as its warm one.
bool is_worked_through(const std::vector<Check>& checks, const Series& series, std::int64_t count) {
  return std::any_of(checks.begin(), checks.end(), [&](const Check& check) {
    return check.series == series && check.count == count && !(check.varied == Knobs{});
  });
}

}  // namespace

Series Check::as_run() const {
  Series series_as_run = series;
  for (const auto& [name, value] : varied.values()) series_as_run.knobs.set(name, value);
  return series_as_run;
}

std::vector<std::int64_t> counts_checked(const Plan& plan) {
  const std::int64_t small = std::min(plan.counts.front(), largest_checked);
  std::int64_t large = small;
  for (const std::int64_t count : plan.counts)
    if (count <= largest_checked) large = std::max(large, count);
  if (large == small && small < largest_checked) large = std::min(largest_checked, 4 * small);
  if (plan.max_count > 0) large = std::min(large, plan.max_count);
  return large == small ? std::vector<std::int64_t>{small} : std::vector<std::int64_t>{small, large};
}

std::vector<Check> plain_checks(const Scenario& scenario, const Plan& plan, const std::vector<Series>& of,
                                std::int64_t count) {
  std::vector<Check> checks;
  for (const Series& series : of) {
    if (series.is_floor()) continue;
    for (const Series& one : {reference_series(series, scenario, plan.series.front().build), series.warm()})
      if (!is_planned(checks, one, count)) checks.push_back({one, {}, count});
  }
  return checks;
}

std::vector<Check> checks_at(const Scenario& scenario, const Plan& plan, std::int64_t count) {
  std::vector<Check> checks = plain_checks(scenario, plan, plan.series, count);
  for (const Series& series : plan.series) {
    const Knob* workers = workers_of(scenario, series.variant);
    if (workers == nullptr || series.is_floor() || is_worked_through(checks, series.warm(), count)) continue;
    for (const double value : workers_checked(*workers))
      for (int time = 0; time < 2; ++time) {
        checks.push_back({series.warm(), {}, count});
        checks.back().varied.set("workers", value);
      }
  }
  return checks;
}

std::vector<Check> checks_of(const Scenario& scenario, const Plan& plan) {
  std::vector<Check> all;
  for (const std::int64_t count : counts_checked(plan))
    for (Check& check : checks_at(scenario, plan, count)) all.push_back(std::move(check));
  return all;
}

}  // namespace mileage
