#include "measure/runners/caps.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>

namespace mileage {
namespace {

constexpr std::size_t least_to_judge = 10;
/// Frames lie at a display's period when so near to it; they pile up when so many do.
constexpr double near_period = 0.01;
constexpr double piled_share = 0.9;
/// Share of the frames of a visit that must lie below a period to show that nothing holds them there.
constexpr double below_share = 0.1;
constexpr std::size_t counts_of_a_cap = 2;
constexpr double display_rates_hz[] = {30, 60, 72, 75, 90, 120, 144, 165, 240};
constexpr double whole_ms_within = 1e-3;
constexpr double whole_ms_share = 0.95;

template <class Is>
double share_of(const Visit& visit, Is is) {
  const auto such = std::count_if(visit.samples_ns.begin(), visit.samples_ns.end(), [&](std::int64_t ns) {
    return is(static_cast<double>(ns) * 1e-6 / visit.frames_per_sample);
  });
  return static_cast<double>(such) / static_cast<double>(visit.samples_ns.size());
}

bool can_be_judged(const Visit& visit) { return visit.samples_ns.size() >= least_to_judge && !visit.read_share; }

bool piles_up(const Visit& visit, double period_ms) {
  return can_be_judged(visit) &&
         share_of(visit, [&](double ms) { return std::fabs(ms / period_ms - 1) < near_period; }) >= piled_share;
}

bool goes_below(const Visit& visit, double period_ms) {
  return !visit.samples_ns.empty() &&
         share_of(visit, [&](double ms) { return ms < period_ms * (1 - near_period); }) >= below_share;
}

bool is_of_whole_milliseconds(const Visit& visit) {
  return can_be_judged(visit) && visit.frames_per_sample == 1 &&
         share_of(visit, [](double ms) { return ms > 0.5 && std::fabs(ms - std::round(ms)) < whole_ms_within; }) >=
             whole_ms_share;
}

void judge_rate(double hz, const std::vector<const Visit*>& visits, std::vector<CapVerdict>& verdicts) {
  const double period_ms = 1000 / hz;
  std::set<std::int64_t> counts;
  std::vector<std::size_t> piled;
  for (std::size_t i = 0; i < visits.size(); ++i) {
    if (!piles_up(*visits[i], period_ms)) continue;
    piled.push_back(i);
    counts.insert(visits[i]->count);
  }
  const bool shorter =
      std::any_of(visits.begin(), visits.end(), [&](const Visit* visit) { return goes_below(*visit, period_ms); });
  const std::string what =
      fmt::format("frames pile up at {:.2f} ms, the period of a display at {:.0f} Hz", period_ms, hz);
  for (const std::size_t i : piled) {
    if (counts.size() >= counts_of_a_cap && !shorter)
      verdicts[i].bound = what + ": lift the cap and record again";
    else
      verdicts[i].warning = what + (shorter ? ", though shorter ones were recorded" : ", at one count alone") +
                            ": if they were capped, they are no measure; lift the cap and record again";
  }
}

}  // namespace

std::vector<CapVerdict> cap_verdicts(const std::vector<const Visit*>& visits) {
  std::vector<CapVerdict> verdicts(visits.size());
  for (std::size_t i = 0; i < visits.size(); ++i)
    if (is_of_whole_milliseconds(*visits[i]))
      verdicts[i].bound = "frames are whole milliseconds, the steps of a coarse clock: record again with a finer one";
  for (const double hz : display_rates_hz) judge_rate(hz, visits, verdicts);
  return verdicts;
}

}  // namespace mileage
