#include "analysis/curves/tail.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

#include "analysis/evidence/evidence_set.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

bool are_pooled(double a, double b) { return std::max(a / b, b / a) <= tail_pooled_within; }

/// Where 99 % of the ratios around a place end, on the log scale, without one part of each run.
std::optional<double> log_end(const TailEvidence& tail, double x, std::optional<Eigen::Index> without_part) {
  std::vector<float> ratios;
  ratios.reserve(tail.frames_near(x));
  for (const TailEvidence::Place& place : tail.places) {
    if (!are_pooled(place.x, x)) continue;
    for (const TailEvidence::Frame& frame : place.frames)
      if (frame.part != without_part) ratios.push_back(frame.ratio);
  }
  if (ratios.empty()) return std::nullopt;
  return std::log(percentile_99(std::move(ratios)));
}

/// Places, and where the ratios end there, log scale.
struct RatioEnds {
  std::vector<double> log_x;
  std::vector<double> log_ratio;
};

/// The ratio at a place: on a straight line over log(place) through the places around it, the near ones before the far
/// ones, or the mean of few places. Longer frames add up more moments of the machine, up to a point: one line through
/// all places would bend away.
double log_ratio_at(const RatioEnds& ends, double x) {
  double sum = 0, sum_x = 0, sum_y = 0, sum_xx = 0, sum_xy = 0;
  int near = 0;
  for (std::size_t i = 0; i < ends.log_x.size(); ++i) {
    const double away = ends.log_x[i] - std::log(x);
    const double share = std::fabs(away) / std::log(tail_line_within);
    if (share >= 1) continue;
    const double weight = std::pow(1 - share * share * share, 3);
    ++near;
    sum += weight;
    sum_x += weight * away;
    sum_y += weight * ends.log_ratio[i];
    sum_xx += weight * away * away;
    sum_xy += weight * away * ends.log_ratio[i];
  }
  const double spread = sum * sum_xx - sum_x * sum_x;
  const bool is_a_line = near >= tail_places_for_a_line && spread > 0;
  return std::max(0.0, is_a_line ? (sum_xx * sum_y - sum_x * sum_xy) / spread : sum_y / sum);
}

RatioEnds ends_without(const TailEvidence& tail, const std::vector<double>& places, std::optional<Eigen::Index> part) {
  RatioEnds ends;
  for (const double x : places)
    if (const auto end = log_end(tail, x, part)) {
      ends.log_x.push_back(std::log(x));
      ends.log_ratio.push_back(*end);
    }
  return ends;
}

/// How slow the machine was during a run, log scale; 0 where that is not known.
double slowdown_at(Eigen::Index row, Eigen::Index block, const SlowdownCorrection& adjustment) {
  if (adjustment.slowdown.size() == 0) return 0;
  const double slowdown = adjustment.slowdown(row, block);
  return std::isnan(slowdown) ? 0 : slowdown;
}

/// How slow the machine was during runs around a place, log scale: the least of all, and the mean of those whose
/// frames lie beyond the end.
struct Slowdowns {
  double min = HUGE_VAL;
  double beyond_end = 0;
};

std::optional<Slowdowns> slowdowns_at(const TailEvidence& tail, double x) {
  const double end = std::exp(log_end(tail, x, std::nullopt).value_or(0));
  Slowdowns slowdowns;
  int frames = 0;
  for (const TailEvidence::Place& place : tail.places) {
    if (!are_pooled(place.x, x)) continue;
    for (const TailEvidence::Frame& frame : place.frames) {
      slowdowns.min = std::min<double>(slowdowns.min, frame.slowdown);
      if (frame.ratio < end) continue;
      slowdowns.beyond_end += frame.slowdown;
      ++frames;
    }
  }
  slowdowns.beyond_end /= frames;
  return frames > 0 ? std::optional(slowdowns) : std::nullopt;
}

/// Frames deviate less from the mean of their own run, which they are part of: this many times as much.
double nearer_to_own_mean(std::size_t frames) {
  return frames > 1 ? std::sqrt(1 - 1 / static_cast<double>(frames)) : 1;
}

CostTable without_block(const CostTable& costs, Eigen::Index block) {
  return {without_column(costs.log_ms, block),
          costs.weight.size() > 0 ? without_column(costs.weight, block) : Eigen::ArrayXXd()};
}

}  // namespace

std::size_t TailEvidence::frames_near(double x) const {
  std::size_t frames = 0;
  for (const Place& place : places)
    if (are_pooled(place.x, x)) frames += place.frames.size();
  return frames;
}

TailEvidence gather_tail(const SeriesEvidence& evidence, const SlowdownCorrection& adjustment,
                         const std::vector<int>& blocks) {
  std::map<double, TailEvidence::Place> places;
  for (const JudgedRun* one : evidence.runs) {
    if (one->run->frames_per_sample != 1) continue;
    TailEvidence::Place& place = places[one->x];
    place.x = one->x;
    const auto row = std::lower_bound(evidence.x.begin(), evidence.x.end(), one->x) - evidence.x.begin();
    const auto block = std::lower_bound(blocks.begin(), blocks.end(), one->block) - blocks.begin();
    const double slowdown = slowdown_at(row, block, adjustment);
    const std::vector<std::int64_t>& samples = one->run->samples_ns;
    const double log_slower = adjustment.log_slower_at(row, slowdown);
    const double own_share = nearer_to_own_mean(samples.size());
    for (std::size_t i = 0; i < samples.size(); ++i) {
      const double log_ratio = std::log(static_cast<double>(samples[i]) / (one->typical_ms * 1e6)) / own_share;
      place.frames.push_back({static_cast<int>(i * blocks.size() / samples.size()),
                              static_cast<float>(std::exp(log_ratio + log_slower)), static_cast<float>(slowdown)});
    }
  }
  TailEvidence tail;
  for (auto& [x, place] : places) tail.places.push_back(std::move(place));
  return tail;
}

std::optional<SeriesCurve> fit_tail(const SeriesEvidence& evidence, const SlowdownCorrection& adjustment,
                                    const TailEvidence& tail) {
  std::vector<Eigen::Index> rows;
  std::vector<double> x;
  for (const TailEvidence::Place& place : tail.places) {
    if (tail.frames_near(place.x) < frames_for_tail) continue;
    const auto row = std::find(evidence.x.begin(), evidence.x.end(), place.x);
    if (row == evidence.x.end()) continue;
    rows.push_back(row - evidence.x.begin());
    x.push_back(place.x);
  }
  if (x.empty()) return std::nullopt;
  const Eigen::ArrayXXd fast_ms = adjustment.at_full_speed(evidence.log_ms);
  SeriesCurve curve = fit_series(x, evidence.log_ms.cols(), [&](std::optional<Eigen::Index> block) {
    const RatioEnds ends = ends_without(tail, x, block);
    CostTable costs{fast_ms(rows, Eigen::all), {}};
    if (adjustment.weight.size() > 0) costs.weight = adjustment.weight(rows, Eigen::all);
    if (block) costs = without_block(costs, *block);
    for (Eigen::Index row = 0; row < costs.log_ms.rows(); ++row)
      costs.log_ms.row(row) += log_ratio_at(ends, x[static_cast<std::size_t>(row)]);
    return costs;
  });
  // What the slope takes off the typical frame, it gives back to the ratio, but for what the runs of the slowest
  // frames differ from the mean; and drift of the slowdown is of the machine as it was. Where few runs were slow, ends
  // jump from place to place, and the line passes them by.
  const RatioEnds ends = ends_without(tail, x, std::nullopt);
  curve.places = x;
  for (std::size_t i = 0; i < x.size(); ++i) {
    const double off_line = std::fabs(ends.log_ratio[i] - log_ratio_at(ends, x[i]));
    const Slowdowns slowdowns =
        slowdowns_at(tail, x[i]).value_or(Slowdowns{adjustment.mean_slowdown, adjustment.mean_slowdown});
    const double by_slope = adjustment.slower_sd(rows[i], adjustment.mean_slowdown, slowdowns.beyond_end);
    const double by_bend = uncertainty_of_bend * adjustment.log_bent_between(slowdowns.min, slowdowns.beyond_end);
    const double by_cores = evidence.taken_cores.empty() ? 0 : evidence.taken_cores[static_cast<std::size_t>(rows[i])];
    curve.place_uncertainties.push_back(std::hypot(std::hypot(normal_95 * by_slope, by_bend), by_cores, off_line));
  }
  return curve;
}

}  // namespace mileage
