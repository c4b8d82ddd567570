#pragma once

#include <cmath>
#include <functional>
#include <random>
#include <vector>

#include "analysis/curves/series_curve.h"

namespace mileage::made {

/// Draws: cost times exp(sd z), z shared over the curve, plus `own_sd` per place. Up to twice the last place.
inline SeriesCurve curve_of(const std::function<double(double)>& ms, const std::vector<double>& places,
                            double sd = 0.02, double own_sd = 0, std::uint64_t seed = 1) {
  std::vector<double> log_x;
  for (std::size_t i = 0; i < places.size(); ++i) {
    if (i > 0) log_x.push_back(std::log(places[i - 1] * places[i]) / 2);
    log_x.push_back(std::log(places[i]));
  }
  log_x.push_back(log_x.back() + std::log(2));
  std::mt19937_64 random(seed), of_places(seed + 1);
  std::normal_distribution<double> normal, own;
  Eigen::MatrixXd log_ms(1001, static_cast<Eigen::Index>(log_x.size()));
  for (Eigen::Index draw = 0; draw < log_ms.rows(); ++draw) {
    const double shared = sd * normal(random);
    for (Eigen::Index i = 0; i < log_ms.cols(); ++i)
      log_ms(draw, i) = std::log(ms(std::exp(log_x[static_cast<std::size_t>(i)]))) + shared + own_sd * own(of_places);
  }
  return SeriesCurve(places, log_x, log_ms);
}

inline const std::vector<double> usual_places{100, 300, 1000, 3000, 10'000, 30'000, 100'000};

}  // namespace mileage::made
