#include "analysis/answers/groups.h"

#include <algorithm>
#include <cmath>

#include "analysis/statistics/statistics.h"

namespace mileage {

std::vector<Group> groups_among(const EvidenceSet& evidence) {
  std::vector<Series> series;
  for (const SeriesEvidence& one : evidence.series) series.push_back(one.series);
  std::vector<Group> groups = groups_of(series, evidence.head.scenario);
  for (Group& group : groups)
    std::stable_sort(group.members.begin(), group.members.end(),
                     [&](std::size_t a, std::size_t b) { return evidence.series[a].rank < evidence.series[b].rank; });
  return groups;
}

std::vector<double> usual_places(const std::vector<double>& ends) {
  const double last = std::pow(10.0, std::floor(std::log10(median(ends)) + 1e-9));
  std::vector<double> places;
  for (double x = last / 100; x <= last * 1.0001; x *= 10) places.push_back(std::round(x));
  return places;
}

}  // namespace mileage
