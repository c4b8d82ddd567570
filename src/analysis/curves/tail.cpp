#include "analysis/curves/tail.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "analysis/evidence/evidence_set.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/level_drift.h"

namespace mileage {
namespace {

bool are_pooled(double a, double b) { return std::max(a / b, b / a) <= tail_pooled_within; }

/// Where 99 % of the ratios around a place end, on the log scale, without one block.
std::optional<double> log_end(const TailEvidence& tail, double x, std::optional<int> without_block) {
  std::vector<float> ratios;
  ratios.reserve(tail.frames_near(x));
  for (const TailEvidence::Place& place : tail.places) {
    if (!are_pooled(place.x, x)) continue;
    for (const auto& [block, ratio] : place.ratios)
      if (block != without_block) ratios.push_back(ratio);
  }
  if (ratios.empty()) return std::nullopt;
  const auto end = ratios.begin() + static_cast<std::ptrdiff_t>(tail_share * static_cast<double>(ratios.size() - 1));
  std::nth_element(ratios.begin(), end, ratios.end());
  return std::log(static_cast<double>(*end));
}

/// The ratio as a function of the place: a straight line over log(place), or the mean of few places.
class RatioLine {
 public:
  RatioLine(const std::vector<double>& log_x, const std::vector<double>& log_ratio) {
    const auto size = static_cast<double>(log_x.size());
    for (std::size_t i = 0; i < log_x.size(); ++i) {
      middle_ += log_x[i] / size;
      level_ += log_ratio[i] / size;
    }
    if (log_x.size() < tail_places_for_a_line) return;
    double products = 0;
    double squares = 0;
    for (std::size_t i = 0; i < log_x.size(); ++i) {
      products += (log_x[i] - middle_) * (log_ratio[i] - level_);
      squares += (log_x[i] - middle_) * (log_x[i] - middle_);
    }
    slope_ = products / squares;
  }
  double at(double x) const { return std::max(0.0, level_ + slope_ * (std::log(x) - middle_)); }

 private:
  double middle_ = 0;
  double level_ = 0;
  double slope_ = 0;
};

RatioLine line_without(const TailEvidence& tail, const std::vector<double>& places, std::optional<int> block) {
  std::vector<double> log_x;
  std::vector<double> log_ratio;
  for (const double x : places)
    if (const auto end = log_end(tail, x, block)) {
      log_x.push_back(std::log(x));
      log_ratio.push_back(*end);
    }
  return {log_x, log_ratio};
}

/// How slow the machine was during a visit, log scale; 0 where that is not known.
double level_of(const JudgedVisit& visit, const SeriesEvidence& evidence, const std::vector<int>& blocks) {
  if (!evidence.levels.are_known()) return 0;
  const auto row = std::lower_bound(evidence.x.begin(), evidence.x.end(), visit.x) - evidence.x.begin();
  const auto column = std::lower_bound(blocks.begin(), blocks.end(), visit.block) - blocks.begin();
  const double level = evidence.levels.level(row, column);
  return std::isnan(level) ? 0 : level;
}

}  // namespace

std::size_t TailEvidence::frames_near(double x) const {
  std::size_t frames = 0;
  for (const Place& place : places)
    if (are_pooled(place.x, x)) frames += place.ratios.size();
  return frames;
}

TailEvidence gather_tail(const SeriesEvidence& evidence, const std::vector<int>& blocks) {
  const double slope = adjustment_of(evidence.log_ms, evidence.levels).slope;
  std::map<double, TailEvidence::Place> places;
  for (const JudgedVisit* one : evidence.visits) {
    if (one->visit->frames_per_sample != 1) continue;
    TailEvidence::Place& place = places[one->x];
    place.x = one->x;
    const double typical_ns = one->typical_ms * 1e6 * std::exp(-slope * level_of(*one, evidence, blocks));
    for (const std::int64_t sample : one->visit->samples_ns)
      place.ratios.emplace_back(one->block, static_cast<float>(static_cast<double>(sample) / typical_ns));
  }
  TailEvidence tail;
  for (auto& [x, place] : places) tail.places.push_back(std::move(place));
  return tail;
}

std::optional<SeriesCurve> fit_tail(const SeriesEvidence& evidence, const std::vector<int>& blocks,
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
  SeriesCurve curve = fit_series(x, evidence.log_ms.cols(), [&](std::optional<Eigen::Index> block) {
    const RatioLine line =
        line_without(tail, x, block ? std::optional(blocks[static_cast<std::size_t>(*block)]) : std::nullopt);
    CostTable costs = costs_at_fast_level(evidence, block);
    costs.log_ms = costs.log_ms(rows, Eigen::all).eval();
    if (costs.weight.size() > 0) costs.weight = costs.weight(rows, Eigen::all).eval();
    for (Eigen::Index row = 0; row < costs.log_ms.rows(); ++row)
      costs.log_ms.row(row) += line.at(x[static_cast<std::size_t>(row)]);
    return costs;
  });
  // Of the whole series: both figures share its level.
  curve.adjustment = adjustment_of(evidence.log_ms, evidence.levels);
  curve.fast_level_deviation = evidence.fast_level_deviation;
  curve.drift_error = level_drift_error(curve.adjustment.at_fast_level(evidence.log_ms), evidence.order);
  return curve;
}

}  // namespace mileage
