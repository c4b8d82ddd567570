#include "analysis/evidence/judged_visit.h"

#include "analysis/statistics/statistics.h"

namespace mileage {

double typical_frame_ms(const Visit& visit) {
  std::vector<double> times(visit.samples_ns.begin(), visit.samples_ns.end());
  return median(std::move(times)) / visit.frames_per_sample * 1e-6;
}

}  // namespace mileage
