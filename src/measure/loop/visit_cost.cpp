#include "measure/loop/visit_cost.h"

#include <algorithm>

#include "analysis/evidence/judged_visit.h"

namespace mileage {
namespace {

constexpr int fewest_frames = 3;
/// Share of the budget above which frames are heavy.
constexpr double heavy_share = 0.25;
constexpr double most_frames = 1e6;

}  // namespace

int frames_for(const Plan& plan, double frame_ms) {
  const int frames = frame_ms > heavy_share * plan.budget_ms ? plan.heavy_frames : plan.least_frames;
  const double affordable = frames * far_over_budget * plan.budget_ms / frame_ms;
  return std::clamp(static_cast<int>(std::min(affordable, most_frames)), std::min(fewest_frames, frames), frames);
}

double predicted_s(const Plan& plan, const Visit& placing, int frames) {
  const double frame_s = typical_frame_ms(placing) * 1e-3;
  const auto warmup = static_cast<double>(placing.warmup_ns.size());
  const double placing_frames = warmup + static_cast<double>(placing.measured_frames());
  const double walk_s = placing.walked_ms * 1e-3 / placing_frames;
  // A visit that had to be ended took longer than it needed.
  const double needed_s = placing.left_behind > 0 ? 0 : placing.took_s - placing_frames * (frame_s + walk_s);
  const double beside_s = std::max(start_of_visit_s / 4, needed_s);
  const double least_s = placing.series.is_cold() ? 0 : plan.least_ms * 1e-3;
  return beside_s + warmup * (frame_s + walk_s) + std::max(frames * (frame_s + walk_s), least_s);
}

}  // namespace mileage
