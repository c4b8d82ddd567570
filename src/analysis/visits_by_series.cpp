#include "analysis/visits_by_series.h"

#include <tuple>

namespace mileage {

bool SeriesOrder::operator()(const Series& a, const Series& b) const {
  return std::tie(a.variant, a.build, a.cold_bytes, a.knobs) < std::tie(b.variant, b.build, b.cold_bytes, b.knobs);
}

VisitsBySeries::VisitsBySeries(const std::vector<const Visit*>& visits) {
  for (const Visit* visit : visits) visits_[visit->series].push_back(visit);
}

const std::vector<const Visit*>& VisitsBySeries::of(const Series& series) const {
  const auto found = visits_.find(series);
  return found == visits_.end() ? none_ : found->second;
}

}  // namespace mileage
