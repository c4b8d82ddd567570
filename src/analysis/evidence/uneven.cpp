#include "analysis/evidence/uneven.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <map>

#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

using Runs = std::vector<const Run*>;

bool has_single_frames(const Run& run) { return run.frames_per_sample == 1 && !run.samples_ns.empty(); }

/// Mean of frames relative to their run's typical one, without the longest.
double mean_excess(const Runs& runs) {
  std::vector<double> relative;
  for (const Run* run : runs) {
    const double typical_ns = typical_frame_ms(*run) * 1e6;
    for (std::size_t i = 0; i < run->samples_ns.size(); ++i)
      relative.push_back(static_cast<double>(own_ns(*run, i)) / typical_ns);
  }
  const auto kept =
      static_cast<std::ptrdiff_t>(std::floor((1 - rare_frames_share) * static_cast<double>(relative.size())));
  std::nth_element(relative.begin(), relative.begin() + kept, relative.end());
  double sum = 0;
  for (auto one = relative.begin(); one != relative.begin() + kept; ++one) sum += *one;
  return sum / static_cast<double>(kept);
}

double mean_log(const Run& run, std::size_t from, std::size_t to) {
  double sum = 0;
  for (std::size_t i = from; i < to; ++i) sum += std::log(static_cast<double>(own_ns(run, i)));
  return sum / static_cast<double>(to - from);
}

bool climbs(const Run& run) {
  const std::size_t size = run.samples_ns.size(), quarter = size / 4;
  return size >= frames_to_see_a_climb &&
         mean_log(run, size - quarter, size) - mean_log(run, 0, quarter) > std::log(rise_ratio);
}

template <class Is>
bool holds_of_most(const Runs& runs, Is is) {
  return static_cast<double>(std::count_if(runs.begin(), runs.end(), is)) >=
         max_runs_share * static_cast<double>(runs.size());
}

bool is_mixed(const Runs& runs) {
  std::size_t frames = 0;
  for (const Run* run : runs) frames += run->samples_ns.size();
  if (frames < frames_to_see_kinds || mean_excess(runs) < uneven_beyond) return false;
  return holds_of_most(
      runs, [](const Run* run) { return mean_frame_ms(*run) > std::sqrt(uneven_beyond) * typical_frame_ms(*run); });
}

using Places = std::map<double, Runs>;

/// With the neighbouring places' if there are few, which one disturbance may all hit.
Runs runs_near(const Places& places, Places::const_iterator place) {
  Runs runs = place->second;
  if (runs.size() >= runs_to_see_unevenness) return runs;
  const auto add = [&](const Runs& more) { runs.insert(runs.end(), more.begin(), more.end()); };
  if (place != places.begin()) add(std::prev(place)->second);
  if (std::next(place) != places.end()) add(std::next(place)->second);
  return runs;
}

}  // namespace

Unevenness unevenness_of(const std::vector<const JudgedRun*>& runs) {
  Places places;
  for (const JudgedRun* one : runs)
    if (has_single_frames(*one->run)) places[one->x].push_back(one->run);
  Unevenness found = Unevenness::even;
  for (auto place = places.cbegin(); place != places.cend(); ++place) {
    const Runs near = runs_near(places, place);
    if (is_mixed(near)) return Unevenness::mixed;
    if (holds_of_most(near, [](const Run* run) { return climbs(*run); })) found = Unevenness::rising;
  }
  return found;
}

}  // namespace mileage
