#include "measure/loop/slow_frames.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <vector>

#include "analysis/statistics/constants.h"
#include "types/order_statistics.h"

namespace mileage {
namespace {

double log_distance(std::int64_t one, double other) { return std::fabs(std::log(static_cast<double>(one) / other)); }

bool is_evidence_of(const StudyState& state, std::size_t series, const Run& run) {
  return run.series == state.plan.series[series] && is_evidence(run, state.recorder.judge());
}

/// Relative to their run's typical frame at full speed, by count.
std::map<std::int64_t, std::vector<float>> ratios_of(const StudyState& state, std::size_t series, FramesOf frames) {
  std::map<std::int64_t, std::vector<float>> ratios;
  for (const Run& run : state.recorder.study().runs) {
    if (!is_evidence_of(state, series, run)) continue;
    const double fast_ns = 1e6 * fast_frame_ms(state.recorder.judge(), run);
    const auto add = [&](std::int64_t ns) {
      ratios[run.count].push_back(static_cast<float>(static_cast<double>(ns) / fast_ns));
    };
    if (frames == FramesOf::worst && run.arrived > 0)
      add(*std::max_element(run.warmup_ns.begin(), run.warmup_ns.end()));
    if (frames == FramesOf::max && run.frames_per_sample == 1)
      std::for_each(run.samples_ns.begin(), run.samples_ns.end(), add);
  }
  return ratios;
}

}  // namespace

double slow_ratio(const StudyState& state, std::size_t series, double count, FramesOf frames) {
  if (frames == FramesOf::typical) return 1;
  const auto ratios = ratios_of(state, series, frames);
  const auto nearest = std::min_element(ratios.begin(), ratios.end(), [&](const auto& a, const auto& b) {
    return log_distance(a.first, count) < log_distance(b.first, count);
  });
  if (nearest == ratios.end()) return 1;
  // Pooled more widely than for answers, so that places do not jump.
  const double within = std::max(log_distance(nearest->first, count), std::log(tail_line_within));
  std::vector<float> pooled;
  for (const auto& [place, of_place] : ratios)
    if (log_distance(place, count) <= within) pooled.insert(pooled.end(), of_place.begin(), of_place.end());
  return frames == FramesOf::max ? percentile_99(std::move(pooled)) : median({pooled.begin(), pooled.end()});
}

std::size_t pooled_frames(const StudyState& state, std::size_t series, double count) {
  std::size_t frames = 0;
  for (const Run& run : state.recorder.study().runs)
    if (run.frames_per_sample == 1 && log_distance(run.count, count) <= std::log(tail_pooled_within) &&
        is_evidence_of(state, series, run))
      frames += run.samples_ns.size();
  return frames;
}

}  // namespace mileage
