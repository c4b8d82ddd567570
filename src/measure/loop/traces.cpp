#include "measure/loop/traces.h"

#include <algorithm>

namespace mileage {
namespace {

constexpr double share_for_traces = 0.2;
constexpr double max_frames_traced = 400;
constexpr double min_frames_traced = 30;

/// Frames of traced run `number` (from 0), reduced to fit; 0 if it does not.
int frames_to_trace(const StudyState& state, const Cell& cell, int number) {
  if (state.plan.time_s <= 0) return static_cast<int>(max_frames_traced);
  const RunCost cost = state.known[cell.series].at(cell.count);
  const double cell_s = share_for_traces * state.plan.time_s / static_cast<double>(state.ladder.size());
  for (int runs = state.plan.trace; runs > number; --runs) {
    const double frames_s = cell_s / runs - cost.beside_s;
    const double frames = std::min(max_frames_traced, frames_s / std::max(cost.frame_s, 1e-9) - cost.warmup_frames);
    if (frames >= min_frames_traced) return static_cast<int>(frames);
  }
  return 0;
}

}  // namespace

void make_traces(StudyState& state) {
  Progress progress;
  progress.tracing = true;
  progress.cells = state.ladder.size() * static_cast<std::size_t>(state.plan.trace);
  for (int number = 0; number < state.plan.trace; ++number)
    for (const Cell& cell : state.ladder) {
      if (state.is_stop_asked()) return;
      if (!state.may_run(cell.series, cell.count)) continue;
      const int frames = frames_to_trace(state, cell, number);
      state.summary.untraced += frames == 0;
      if (frames == 0) continue;
      const double frames_s = frames * state.known[cell.series].at(cell.count).frame_s;
      const Order order{state.plan.series[cell.series], {}, cell.count, -1, RunStatus::traced, frames,
                        cell.predicted_s + frames_s};
      state.run(order, order.predicted_s, progress);
    }
}

}  // namespace mileage
