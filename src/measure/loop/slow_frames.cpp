#include "measure/loop/slow_frames.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

#include "analysis/evidence/judged_run.h"
#include "analysis/curves/rough_costs.h"
#include "analysis/statistics/constants.h"
#include "types/order_statistics.h"

namespace mileage {
namespace {

/// Relative to their run's typical frame at full speed, by count.
using FrameRatios = std::map<std::int64_t, std::vector<float>>;

FrameRatios frame_ratios_of(const StudyState& state, std::size_t series) {
  FrameRatios ratios;
  for (const Run& run : state.recorder.study().runs) {
    if (run.frames_per_sample != 1 || state.index_of(run.series) != series) continue;
    if (!is_evidence(run, state.recorder.judge())) continue;
    const double fast_ns = 1e6 * rough_fast_ms(state.recorder.judge(), run);
    for (const std::int64_t ns : run.samples_ns)
      ratios[run.count].push_back(static_cast<float>(static_cast<double>(ns) / fast_ns));
  }
  return ratios;
}

/// Pooled more widely than for answers, so that aims do not jump. The nearest count if there is none.
double end_of_ratios(const FrameRatios& ratios, std::int64_t count) {
  const auto away = [&](const auto& one) {
    return std::fabs(std::log(static_cast<double>(one.first) / static_cast<double>(count)));
  };
  const auto nearest =
      std::min_element(ratios.begin(), ratios.end(), [&](const auto& a, const auto& b) { return away(a) < away(b); });
  if (nearest == ratios.end()) return 1;
  const double within = std::max(away(*nearest), std::log(tail_line_within));
  std::vector<float> pooled;
  for (const auto& one : ratios)
    if (away(one) <= within) pooled.insert(pooled.end(), one.second.begin(), one.second.end());
  return percentile_99(std::move(pooled));
}

}  // namespace

std::vector<RoughCosts> max_frames_of(const StudyState& state) {
  std::vector<RoughCosts> costs = state.costs;
  for (std::size_t series = 0; series < costs.size(); ++series) {
    const FrameRatios ratios = frame_ratios_of(state, series);
    for (auto& [count, ms] : costs[series]) ms *= end_of_ratios(ratios, count);
  }
  return costs;
}

std::vector<RoughCosts> worst_frames_of(const StudyState& state) {
  std::vector<std::map<std::int64_t, std::vector<double>>> worst_ms(state.plan.series.size());
  for (const Run& run : state.recorder.study().runs)
    if (run.arrived > 0 && is_evidence(run, state.recorder.judge()))
      worst_ms[state.index_of(run.series)][run.count].push_back(
          1e-6 * static_cast<double>(*std::max_element(run.warmup_ns.begin(), run.warmup_ns.end())));
  std::vector<RoughCosts> costs(worst_ms.size());
  for (std::size_t series = 0; series < costs.size(); ++series)
    for (const auto& [count, ms] : worst_ms[series]) costs[series][count] = median(ms);
  return costs;
}

}  // namespace mileage
