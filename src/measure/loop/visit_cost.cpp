#include "measure/loop/visit_cost.h"

#include <algorithm>

#include "analysis/evidence/judged_visit.h"

namespace mileage {
namespace {

constexpr int fewest_frames = 3;
/// Where 99 % of frames are the goal: five blocks of two neighbouring counts pool a thousand.
constexpr int frames_for_99 = 100;
/// Share of the budget above which frames are heavy.
constexpr double heavy_share = 0.25;
constexpr double most_frames = 1e6;
/// Share of the time allowed above which a visit is dear.
constexpr double dear_share = 0.015;

}  // namespace

int frames_for(const Plan& plan, double frame_ms) {
  const int usual = frame_ms > heavy_share * plan.budget_ms ? plan.heavy_frames : plan.least_frames;
  const int frames = plan.goal.for_99 ? std::max(usual, frames_for_99) : usual;
  const double affordable = frames * far_over_budget * plan.budget_ms / frame_ms;
  return std::clamp(static_cast<int>(std::min(affordable, most_frames)), std::min(fewest_frames, frames), frames);
}

VisitCost VisitCost::at(double times_as_many, double frame_s_there) const {
  VisitCost there = *this;
  there.frame_s = frame_s_there;
  there.beside_s = std::min(start_of_visit_s, beside_s) + std::max(0.0, beside_s - start_of_visit_s) * times_as_many;
  return there;
}

bool is_dear(const Plan& plan, double visit_s) { return plan.time_s > 0 && visit_s > dear_share * plan.time_s; }

VisitCost visit_cost_of(const Visit& placing) {
  VisitCost cost;
  cost.warmup_frames = static_cast<double>(placing.warmup_ns.size());
  const double frames = cost.warmup_frames + static_cast<double>(placing.measured_frames());
  cost.frame_s = typical_frame_ms(placing) * 1e-3 + placing.walked_ms * 1e-3 / frames;
  // A visit that had to be ended took longer than it needed.
  const double needed_s = placing.left_behind > 0 ? 0 : placing.took_s - frames * cost.frame_s;
  cost.beside_s = std::max(start_of_visit_s / 4, needed_s);
  return cost;
}

double predicted_s(const Plan& plan, const Series& series, const VisitCost& cost, int frames) {
  const double least_s = series.is_cold() ? 0 : plan.least_ms * 1e-3;
  return cost.beside_s + cost.warmup_frames * cost.frame_s + std::max(frames * cost.frame_s, least_s);
}

}  // namespace mileage
