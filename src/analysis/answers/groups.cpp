#include "analysis/answers/groups.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

std::string label_among(const Series& series, const std::vector<Series>& all) {
  const std::string label = label_of(series, all);
  const bool is_of_one_variant = all.size() > 1 && std::all_of(all.begin(), all.end(), [&](const Series& other) {
                                   return other.variant == series.variant && other.build == series.build;
                                 });
  return is_of_one_variant ? label.substr(label.find(' ') + 1) : label;
}

}  // namespace

std::vector<Group> groups_among(const EvidenceSet& evidence) {
  std::vector<Series> series;
  for (const SeriesEvidence& one : evidence.series) series.push_back(one.series);
  std::vector<Group> groups = groups_of(series, evidence.head.scenario);
  for (Group& group : groups) {
    std::stable_sort(group.members.begin(), group.members.end(),
                     [&](std::size_t a, std::size_t b) { return evidence.series[a].rank < evidence.series[b].rank; });
    std::vector<Series> members;
    for (const std::size_t member : group.members) members.push_back(series[member].warm());
    for (const Series& member : members) group.labels.push_back(label_among(member, members));
  }
  return groups;
}

namespace {

/// Powers of ten that most series cover; the three largest.
std::vector<double> round_places(double min, double usual_end) {
  const double last = std::pow(10.0, std::floor(std::log10(usual_end) + 1e-9));
  std::vector<double> places;
  for (const double x : {last / 100, last / 10, last})
    if (x >= min) places.push_back(x);
  return places;
}

std::size_t rows_of_a_place(const Analysis& analysis) {
  std::size_t rows = 0;
  for (const Group& group : groups_among(analysis.evidence)) rows += group.members.size();
  return rows;
}

}  // namespace

std::vector<double> places_shown(const Analysis& analysis, const Questions& questions) {
  if (!questions.at.empty()) return questions.at;
  std::set<double> measured;
  std::vector<double> ends;
  for (const SeriesCurve& curve : analysis.curves) {
    measured.insert(curve.places().begin(), curve.places().end());
    ends.push_back(curve.max());
  }
  if (measured.size() <= few_places) return {measured.begin(), measured.end()};
  std::vector<double> places = round_places(*measured.begin(), median(ends));
  const auto covered_by = [&](double x) {
    return std::count_if(analysis.curves.begin(), analysis.curves.end(),
                         [&](const SeriesCurve& curve) { return curve.covers(x); });
  };
  std::erase_if(places, [&](double x) { return covered_by(x) == 0; });
  if (places.empty()) return {*measured.begin(), *measured.rbegin()};
  if (rows_of_a_place(analysis) * places.size() <= max_rows_shown) return places;
  return {*std::max_element(places.rbegin(), places.rend(),
                            [&](double a, double b) { return covered_by(a) < covered_by(b); })};
}

NotMeasured places_not_measured(const Analysis& analysis, const Questions& questions) {
  NotMeasured found{{}, HUGE_VAL, 0};
  for (const SeriesCurve& curve : analysis.curves) {
    found.min = std::min(found.min, curve.min());
    found.max = std::max(found.max, curve.max());
  }
  for (const double x : questions.at)
    if (std::none_of(analysis.curves.begin(), analysis.curves.end(),
                     [&](const SeriesCurve& curve) { return curve.covers(x); }))
      found.places.push_back(x);
  return found;
}

}  // namespace mileage
