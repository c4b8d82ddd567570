#include "measure/recordings/caps.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "types/order_statistics.h"

namespace mileage {
namespace {

constexpr std::size_t min_to_judge = 10;
/// Frames within `near_period` are at a display's period; `piled_share` of them with a median within
/// `median_near_period` are a pile.
constexpr double near_period = 0.01;
constexpr double piled_share = 0.9;
constexpr double median_near_period = 0.003;
/// Of a run's frames: enough shorter ones show that there is no cap.
constexpr double below_share = 0.1;
/// Ratio of counts: a real cost would differ by then.
constexpr double counts_apart = 1.2;
constexpr double display_rates_hz[] = {30, 60, 72, 75, 90, 120, 144, 165, 240};
constexpr double whole_ms_within = 1e-3;
constexpr double whole_ms_share = 0.95;

template <class Is>
double share_of(const Run& run, Is is) {
  const auto such = std::count_if(run.samples_ns.begin(), run.samples_ns.end(), [&](std::int64_t ns) {
    return is(static_cast<double>(ns) * 1e-6 / run.frames_per_sample);
  });
  return static_cast<double>(such) / static_cast<double>(run.samples_ns.size());
}

bool can_be_judged(const Run& run) { return run.samples_ns.size() >= min_to_judge && !run.read_share; }

double median_ms(const Run& run) {
  return median({run.samples_ns.begin(), run.samples_ns.end()}) * 1e-6 / run.frames_per_sample;
}

bool piles_up(const Run& run, double period_ms) {
  return can_be_judged(run) && std::fabs(median_ms(run) / period_ms - 1) < median_near_period &&
         share_of(run, [&](double ms) { return std::fabs(ms / period_ms - 1) < near_period; }) >= piled_share;
}

bool goes_below(const Run& run, double period_ms) {
  return !run.samples_ns.empty() &&
         share_of(run, [&](double ms) { return ms < period_ms * (1 - near_period); }) >= below_share;
}

bool is_of_whole_milliseconds(const Run& run) {
  return can_be_judged(run) && run.frames_per_sample == 1 &&
         share_of(run, [](double ms) { return ms > 0.5 && std::fabs(ms - std::round(ms)) < whole_ms_within; }) >=
             whole_ms_share;
}

/// At one count cap and cost look alike: a warning.
void judge_rate(double hz, const std::vector<const Run*>& runs, std::vector<CapVerdict>& verdicts) {
  const double period_ms = 1000 / hz;
  std::vector<std::size_t> piled;
  std::int64_t min = 0, max = 0;
  for (std::size_t i = 0; i < runs.size(); ++i) {
    if (!piles_up(*runs[i], period_ms)) continue;
    min = piled.empty() ? runs[i]->count : std::min(min, runs[i]->count);
    max = std::max(max, runs[i]->count);
    piled.push_back(i);
  }
  const bool is_at_one_count =
      std::all_of(runs.begin(), runs.end(), [&](const Run* run) { return run->count == runs.front()->count; });
  const bool is_held = static_cast<double>(max) >= counts_apart * static_cast<double>(min);
  const bool goes_shorter =
      std::any_of(runs.begin(), runs.end(), [&](const Run* run) { return goes_below(*run, period_ms); });
  if (piled.empty() || goes_shorter || !(is_held || is_at_one_count)) return;
  const std::string what =
      fmt::format("frames pile up at {:.2f} ms, the period of a display at {:.0f} Hz", period_ms, hz);
  for (const std::size_t i : piled)
    (is_at_one_count ? verdicts[i].warning : verdicts[i].bound) =
        what + (is_at_one_count ? ", at one count alone: if they were capped, record uncapped" : ": record uncapped");
}

}  // namespace

std::vector<CapVerdict> cap_verdicts(const std::vector<const Run*>& runs) {
  std::vector<CapVerdict> verdicts(runs.size());
  for (std::size_t i = 0; i < runs.size(); ++i)
    if (is_of_whole_milliseconds(*runs[i]))
      verdicts[i].bound = "frames are whole milliseconds, the steps of a coarse clock: record again with a finer one";
  for (const double hz : display_rates_hz) judge_rate(hz, runs, verdicts);
  return verdicts;
}

}  // namespace mileage
