#include "analysis/answers/sampled_curves.h"

#include <cmath>

#include "analysis/analysis.h"

namespace mileage {

std::vector<std::vector<SampledPoint>> sampled_curves(const Analysis& analysis, int steps) {
  std::vector<std::vector<SampledPoint>> all;
  for (const SeriesCurve& curve : analysis.curves) {
    std::vector<SampledPoint> points;
    for (int i = 0; i <= steps; ++i) {
      const double x = curve.min() * std::pow(curve.max() / curve.min(), static_cast<double>(i) / steps);
      points.push_back({x, curve.ms_at(x), curve.ms_interval_at(x)});
    }
    all.push_back(std::move(points));
  }
  return all;
}

}  // namespace mileage
