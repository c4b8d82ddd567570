#include "analysis/curves/tail.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <random>
#include <utility>

#include <boost/random/normal_distribution.hpp>

#include "analysis/model/kernels.h"
#include "analysis/model/priors.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

bool are_pooled(double a, double b) { return std::max(a / b, b / a) <= tail_pooled_within; }

/// 99th percentile of the ratios near a place, log scale, without one part of each run.
std::optional<double> end_of(const TailEvidence& tail, double x, std::optional<int> without_part) {
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

struct RatioEnds {
  std::vector<double> log_x;
  std::vector<double> log_ratio;
};

/// Line over log place through nearby places, or the mean if there are few. Longer frames average more machine states
/// up to a limit, so one line through all places would deviate.
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

RatioEnds ends_without(const TailEvidence& tail, const std::vector<double>& places, std::optional<int> part) {
  RatioEnds ends;
  for (const double x : places)
    if (const auto end = end_of(tail, x, part)) {
      ends.log_x.push_back(std::log(x));
      ends.log_ratio.push_back(*end);
    }
  return ends;
}

/// Response of the runs to slowdown relative to the usual one, shrunk towards 1 where few runs were slow.
double response_of(const SeriesEvidence& evidence, const SeriesCurve& curve) {
  const double unsure = std::pow(prior::noise.median * prior::response_mean / prior::response_sd, 2);
  double together = unsure, squares = unsure;
  for (const JudgedRun* one : evidence.runs) {
    const double usual = expected_response(one->log_slowdown);
    together += usual * (std::log(one->typical_ms) - curve.log_ms_at(one->x));
    squares += usual * usual;
  }
  return together / squares;
}

/// Frames are part of their run's mean and deviate less from it: correction factor.
double nearer_to_own_mean(std::size_t frames) {
  return frames > 1 ? std::sqrt(1 - 1 / static_cast<double>(frames)) : 1;
}

/// From the ratio without each part of the runs, and from how far the places deviate from the line.
double error_at(double x, const std::vector<RatioEnds>& without_each_part, double off_line) {
  std::vector<double> ratios;
  for (const RatioEnds& ends : without_each_part) ratios.push_back(log_ratio_at(ends, x));
  return std::hypot(jackknife_error(ratios), off_line);
}

double off_line(const RatioEnds& ends) {
  double squares = 0;
  for (std::size_t i = 0; i < ends.log_x.size(); ++i) {
    const double off = ends.log_ratio[i] - log_ratio_at(ends, std::exp(ends.log_x[i]));
    squares += off * off;
  }
  return std::sqrt(squares / static_cast<double>(ends.log_x.size()));
}

/// Mean distance of each draw from the middle.
Drawn shift_of_draws(const SeriesCurve& curve) {
  Drawn shift = Drawn::Zero(curve.draws());
  for (const double x : curve.places()) shift += curve.drawn_log_ms(x) - curve.log_ms_at(x);
  return shift / static_cast<double>(curve.places().size());
}

}  // namespace

std::size_t TailEvidence::frames_near(double x) const {
  std::size_t frames = 0;
  for (const Place& place : places)
    if (are_pooled(place.x, x)) frames += place.frames.size();
  return frames;
}

TailEvidence gather_tail(const SeriesEvidence& evidence, const SeriesCurve& curve) {
  const double response = response_of(evidence, curve);
  std::map<double, TailEvidence::Place> places;
  for (const JudgedRun* one : evidence.runs) {
    if (one->run->frames_per_sample != 1) continue;
    TailEvidence::Place& place = places[one->x];
    place.x = one->x;
    const std::vector<std::int64_t>& samples = one->run->samples_ns;
    const double log_slower = response * expected_response(one->log_slowdown);
    const double own_share = nearer_to_own_mean(samples.size());
    for (std::size_t i = 0; i < samples.size(); ++i) {
      const double log_ratio = std::log(static_cast<double>(samples[i]) / (one->typical_ms * 1e6)) / own_share;
      place.frames.push_back({static_cast<int>(i * parts_of_a_run / samples.size()),
                              static_cast<float>(std::exp(log_ratio + log_slower))});
    }
  }
  TailEvidence tail;
  for (auto& [x, place] : places) tail.places.push_back(std::move(place));
  return tail;
}

std::optional<SeriesCurve> tail_curve(const SeriesCurve& curve, const TailEvidence& tail) {
  std::vector<double> places, log_x;
  for (const TailEvidence::Place& place : tail.places)
    if (tail.frames_near(place.x) >= frames_for_tail) places.push_back(place.x);
  if (places.empty()) return std::nullopt;
  const double log_end = places.back() == curve.max() ? curve.log_x().back() : std::log(places.back());
  for (const double one : curve.log_x())
    if (one >= std::log(places.front()) && one <= log_end) log_x.push_back(one);
  const RatioEnds ends = ends_without(tail, places, std::nullopt);
  std::vector<RatioEnds> without_each_part;
  for (int part = 0; part < parts_of_a_run; ++part) without_each_part.push_back(ends_without(tail, places, part));
  const double off = off_line(ends);
  const Drawn shift = shift_of_draws(curve);
  std::mt19937_64 random(1);
  boost::random::normal_distribution<double> normal;
  const Drawn error = Drawn::NullaryExpr(curve.draws(), [&] { return normal(random); });
  Eigen::MatrixXd log_ms(curve.draws(), static_cast<Eigen::Index>(log_x.size()));
  for (std::size_t i = 0; i < log_x.size(); ++i) {
    const double x = std::exp(log_x[i]);
    log_ms.col(static_cast<Eigen::Index>(i)) =
        curve.drawn_log_ms(x) - shift + (log_ratio_at(ends, x) + error_at(x, without_each_part, off) * error).max(0);
  }
  SeriesCurve of_tail(places, std::move(log_x), std::move(log_ms));
  of_tail.steps = curve.steps;
  of_tail.fails_from = curve.fails_from;
  return of_tail;
}

}  // namespace mileage
