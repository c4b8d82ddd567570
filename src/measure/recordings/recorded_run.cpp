#include "measure/recordings/recorded_run.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "types/order_statistics.h"
#include "measure/machine/yardstick.h"
#include "measure/in_process/settling.h"

namespace mileage {
namespace {

/// Longer recordings keep sums only.
constexpr std::size_t max_frames_kept = 20'000;

double sum_from(const std::vector<double>& values, std::size_t from) {
  return from >= values.size() ? 0
                               : std::accumulate(values.begin() + static_cast<std::ptrdiff_t>(from), values.end(), 0.0);
}

/// Every second probe belongs to the other half. Nothing without probes.
std::optional<YardstickReading> reading_of(const Recording& recording, std::size_t warmup, const Run& run) {
  Probes probes;
  for (std::size_t frame = warmup; frame < recording.yardstick_us.size(); ++frame)
    if (const double us = recording.yardstick_us[frame]; us > 0)
      probes.add(probes.size() % 2 == 0 ? Probes::one : Probes::other, us * 1000);
  if (!probes.are_in_both_halves()) return std::nullopt;
  auto reading = probes.reading(ProbedBy::work, median({run.samples_ns.begin(), run.samples_ns.end()}));
  reading->version = recorded_yardstick_version;
  reading->program = recording.variant + (recording.build.empty() ? "" : " " + recording.build);
  return reading;
}

}  // namespace

Run run_of(const Recording& recording, std::size_t warmup) {
  Run run;
  const auto begin = recording.frame_ns.begin() + static_cast<std::ptrdiff_t>(warmup);
  run.warmup_ns.assign(recording.frame_ns.begin(), begin);
  run.samples_ns.assign(begin, recording.frame_ns.end());
  run.setup_ms = recording.setup_ms;
  run.frames_per_sample = recording.frames_per_sample;
  run.alive = recording.alive.empty() ? recording.count : recording.alive.back();
  run.yardstick = reading_of(recording, warmup, run);
  // Rows of several frames are means; runs hold sums.
  const double frames_each = recording.frames_per_sample;
  for (std::size_t frame = warmup; frame < recording.waited_us.size(); ++frame)
    run.waited_ns.push_back(std::llround(recording.waited_us[frame] * 1000 * frames_each));
  if (sum_from(recording.waited_us, warmup) <= 0) run.waited_ns.clear();
  for (const auto& [name, values] : recording.phases_ms) run.phases_ms[name] = frames_each * sum_from(values, warmup);
  for (const auto& [name, values] : recording.counters) run.counters[name] = frames_each * sum_from(values, warmup);
  for (const auto& [name, value] : recording.outcome) run.outcome.state(name, value, 0);
  return run;
}

std::optional<Trace> trace_of(const Recording& recording, std::size_t warmup) {
  if (recording.phases_ms.empty() || recording.frames_per_sample != 1 ||
      recording.frame_ns.size() - warmup > max_frames_kept)
    return std::nullopt;
  Trace trace;
  for (const auto& [name, values] : recording.phases_ms) {
    std::vector<std::int64_t>& times = trace.phases_ns[name];
    for (std::size_t frame = warmup; frame < values.size(); ++frame) times.push_back(std::llround(values[frame] * 1e6));
    times.resize(recording.frame_ns.size() - warmup, 0);
  }
  return trace;
}

std::size_t frames_until_warm(const std::vector<std::int64_t>& frame_ns) {
  std::vector<std::int64_t> so_far;
  for (const std::int64_t ns : frame_ns) {
    so_far.push_back(ns);
    if (is_warmed_up(so_far)) return so_far.size();
  }
  return frame_ns.size();
}

std::size_t warmup_of(const std::vector<std::int64_t>& frame_ns, std::size_t min) {
  return std::min(frames_until_warm(frame_ns), frame_ns.size() - std::min(frame_ns.size(), min));
}

void drop_first(Recording& recording, std::size_t frames) {
  const auto drop = [frames](auto& values) {
    values.erase(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(std::min(frames, values.size())));
  };
  drop(recording.frame_ns);
  drop(recording.alive);
  drop(recording.yardstick_us);
  drop(recording.waited_us);
  for (auto& [name, values] : recording.phases_ms) drop(values);
  for (auto& [name, values] : recording.counters) drop(values);
}

std::int64_t cut_to_arrival(Recording& recording) {
  const std::vector<std::int64_t>& alive = recording.alive;
  for (std::size_t frame = alive.size(); frame-- > 1;) {
    const std::int64_t came = alive[frame] - alive[frame - 1];
    if (came <= 0) continue;
    drop_first(recording, frame);
    return came;
  }
  return 0;
}

}  // namespace mileage
