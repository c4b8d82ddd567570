#include "measure/runners/recorded_visit.h"

#include <algorithm>
#include <numeric>

#include "measure/runners/settling.h"

namespace mileage {
namespace {

double sum_from(const std::vector<double>& values, std::size_t from) {
  return from >= values.size() ? 0
                               : std::accumulate(values.begin() + static_cast<std::ptrdiff_t>(from), values.end(), 0.0);
}

}  // namespace

Visit visit_of(const Recording& recording, std::size_t warmup) {
  Visit visit;
  const auto begin = recording.frame_ns.begin() + static_cast<std::ptrdiff_t>(warmup);
  visit.warmup_ns.assign(recording.frame_ns.begin(), begin);
  visit.samples_ns.assign(begin, recording.frame_ns.end());
  visit.setup_ms = recording.setup_ms;
  visit.frames_per_sample = recording.frames_per_sample;
  visit.alive = recording.alive.empty() ? recording.count : recording.alive.back();
  for (const auto& [name, values] : recording.phases_ms) visit.phases_ms[name] = sum_from(values, warmup);
  for (const auto& [name, values] : recording.counters) visit.counters[name] = sum_from(values, warmup);
  for (const auto& [name, value] : recording.outcome) visit.outcome.state(name, value, 0);
  return visit;
}

std::size_t frames_until_settled(const std::vector<std::int64_t>& frame_ns) {
  std::vector<std::int64_t> so_far;
  for (const std::int64_t ns : frame_ns) {
    so_far.push_back(ns);
    if (has_settled(so_far)) return so_far.size();
  }
  return frame_ns.size();
}

std::size_t warmup_of(const std::vector<std::int64_t>& frame_ns, std::size_t least) {
  return std::min(frames_until_settled(frame_ns), frame_ns.size() - std::min(frame_ns.size(), least));
}

}  // namespace mileage
