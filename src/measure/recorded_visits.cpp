#include "measure/recorded_visits.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/statistics.h"
#include "measure/settling.h"
#include "types/error.h"

namespace mileage {
namespace {

constexpr std::size_t least_to_judge = 10;
/// After a change of the count, a shorter stay is an arrival and no visit.
constexpr std::size_t least_stay = 10;
constexpr double loading_above = 2;
/// Frames lie at a display's period when so near to it; they are capped when so many do.
constexpr double near_period = 0.01;
constexpr double capped_share = 0.9;
constexpr double display_rates_hz[] = {30, 60, 72, 75, 90, 120, 144, 165, 240};
constexpr double whole_ms_within = 1e-3;
constexpr double whole_ms_share = 0.95;
constexpr std::size_t counts_of_a_climb = 3;

double sum_from(const std::vector<double>& values, std::size_t from) {
  return from >= values.size() ? 0 : std::accumulate(values.begin() + static_cast<std::ptrdiff_t>(from), values.end(), 0.0);
}

template <class Is>
double share_of(const std::vector<std::int64_t>& samples_ns, Is is) {
  const auto such = std::count_if(samples_ns.begin(), samples_ns.end(), [&](std::int64_t ns) { return is(static_cast<double>(ns) * 1e-6); });
  return static_cast<double>(such) / static_cast<double>(samples_ns.size());
}

/// Leading frames that are loading, not running.
std::size_t loading_frames(const std::vector<std::int64_t>& frame_ns) {
  if (frame_ns.size() < least_to_judge) return 0;
  const double usual = median({frame_ns.begin(), frame_ns.end()});
  std::size_t loading = 0;
  while (loading < frame_ns.size() / 2 && static_cast<double>(frame_ns[loading]) > loading_above * usual) ++loading;
  return loading;
}

/// Rates are averages over a second or so: many frames a sample, and no tail.
void make_averages(Visit& visit) {
  const double usual_ms = median({visit.samples_ns.begin(), visit.samples_ns.end()}) * 1e-6;
  visit.frames_per_sample = std::max(2, static_cast<int>(std::lround(1000 / usual_ms)));
  for (std::int64_t& sample : visit.samples_ns) sample *= visit.frames_per_sample;
}

/// Tells once of each kind of treatment, with the files it was done to.
class Notes {
 public:
  void add(const std::string& what, const std::string& file) {
    std::vector<std::string>& files = files_[what];
    if (std::find(files.begin(), files.end(), file) == files.end()) files.push_back(file);
  }
  std::vector<std::string> lines() const {
    constexpr std::size_t named = 4;
    std::vector<std::string> lines;
    for (const auto& [what, files] : files_) {
      const std::vector<std::string> first(files.begin(), files.begin() + static_cast<std::ptrdiff_t>(std::min(named, files.size())));
      lines.push_back(fmt::format("{}{}: {}", fmt::join(first, ", "), files.size() > named ? fmt::format(" and {} more", files.size() - named) : "", what));
    }
    return lines;
  }

 private:
  std::map<std::string, std::vector<std::string>> files_;
};

class RecordedStudy {
 public:
  RecordedStudy(const std::vector<Recording>& recordings, const RecordedAs& as) : recordings_(recordings) {
    study_.head.imported = true;
    study_.head.scenario.name = as.scenario;
    study_.head.scenario.entities = as.entities;
    study_.head.plan.budget_ms = as.budget_ms;
  }

  Study made() {
    for (const Recording& recording : recordings_) take(recording);
    if (study_.visits.empty()) refuse();
    note_climbs();
    describe();
    study_.head.notes = notes_.lines();
    return std::move(study_);
  }

 private:
  void take(const Recording& recording) {
    if (recording.goes_on && recording.frame_ns.size() < least_stay) {
      notes_.add(fmt::format("counts that lasted for fewer than {} frames are arrivals and left out", least_stay), recording.file);
      return;
    }
    const std::size_t warmup = recording.goes_on ? frames_until_settled(recording.frame_ns) : loading_frames(recording.frame_ns);
    if (warmup >= recording.frame_ns.size()) {
      notes_.add("counts at which frames did not settle are left out", recording.file);
      return;
    }
    if (recording.goes_on)
      notes_.add("frames after each change of the count are set apart until they settled", recording.file);
    else if (warmup > 0)
      notes_.add("loading frames at the start are set apart", recording.file);
    add(recording, visit_of(recording, warmup));
  }

  void add(const Recording& recording, Visit visit) {
    visit.series.variant = recording.variant;
    visit.count = recording.count;
    visit.order = static_cast<int>(study_.visits.size());
    visit.process = recording.process;
    visit.block = recording.block ? *recording.block : visits_of_cell(visit);
    visit.read_share = recording.read_share;
    if (!recording.read_share) visit.failure = cap_of(visit.samples_ns);
    if (!visit.failure.empty()) visit.status = VisitStatus::bound;
    if (recording.of_rates) {
      make_averages(visit);
      notes_.add("made of frames per second: averages, which tell nothing of single frames", recording.file);
    }
    if (recording.read_share) notes_.add("read by eye: a cost is known no better than it was read", recording.file);
    study_.visits.push_back(std::move(visit));
  }

  /// Visits of the same cell so far, in all files.
  int visits_of_cell(const Visit& visit) const {
    return static_cast<int>(std::count_if(study_.visits.begin(), study_.visits.end(), [&](const Visit& other) {
      return other.series == visit.series && other.count == visit.count;
    }));
  }

  /// Counts that only climb within one run.
  void note_climbs() {
    std::map<std::pair<int, std::string>, std::vector<const Recording*>> runs;
    for (const Recording& recording : recordings_) runs[{recording.process, recording.variant}].push_back(&recording);
    for (const auto& [run, recordings] : runs) {
      const bool climbs = std::is_sorted(recordings.begin(), recordings.end(), [](const Recording* a, const Recording* b) { return a->count <= b->count; });
      if (recordings.size() >= counts_of_a_climb && climbs)
        notes_.add("counts only climb within one run, so that order and count cannot be told apart: a machine that slows down looks like a curve; "
                   "record the counts once more in another order",
                   recordings.front()->file);
    }
  }

  void describe() {
    for (const Visit& visit : study_.visits) {
      if (study_.head.scenario.find(visit.series.variant) == nullptr) {
        study_.head.scenario.variants.push_back({visit.series.variant, "", {}, ""});
        study_.head.plan.series.push_back(visit.series);
      }
      study_.head.plan.counts.push_back(visit.count);
    }
    std::vector<std::int64_t>& counts = study_.head.plan.counts;
    std::sort(counts.begin(), counts.end());
    counts.erase(std::unique(counts.begin(), counts.end()), counts.end());
  }

  [[noreturn]] void refuse() const {
    throw Error({.file = recordings_.empty() ? "" : recordings_.front().file, .problem = "no count lasted long enough to be a visit",
                 .accepted = fmt::format("at least {} frames at one count", least_stay)});
  }

  const std::vector<Recording>& recordings_;
  Study study_;
  Notes notes_;
};

}  // namespace

Visit visit_of(const Recording& recording, std::size_t warmup) {
  Visit visit;
  const auto begin = recording.frame_ns.begin() + static_cast<std::ptrdiff_t>(warmup);
  visit.warmup_ns.assign(recording.frame_ns.begin(), begin);
  visit.samples_ns.assign(begin, recording.frame_ns.end());
  visit.setup_ms = recording.setup_ms;
  visit.alive = recording.alive.empty() ? recording.count : recording.alive.back();
  for (const auto& [name, values] : recording.phases_ms) visit.phases_ms[name] = sum_from(values, warmup);
  for (const auto& [name, values] : recording.counters) visit.counters[name] = sum_from(values, warmup);
  for (const auto& [name, value] : recording.outcome) visit.outcome.state(name, value, 0);
  return visit;
}

std::size_t frames_until_settled(const std::vector<std::int64_t>& frame_ns) {
  std::vector<std::int64_t> so_far;
  for (const std::int64_t ns : frame_ns) {
    so_far.push_back(ns);
    if (has_settled(so_far)) return so_far.size();
  }
  return frame_ns.size();
}

std::size_t warmup_of(const std::vector<std::int64_t>& frame_ns, std::size_t least) {
  return std::min(frames_until_settled(frame_ns), frame_ns.size() - std::min(frame_ns.size(), least));
}

std::string cap_of(const std::vector<std::int64_t>& samples_ns) {
  if (samples_ns.size() < least_to_judge) return {};
  for (const double hz : display_rates_hz) {
    const double period_ms = 1000 / hz;
    if (share_of(samples_ns, [&](double ms) { return std::fabs(ms / period_ms - 1) < near_period; }) >= capped_share)
      return fmt::format("frames pile up at {:.2f} ms, the period of a display at {:.0f} Hz: lift the cap and record again", period_ms, hz);
  }
  if (share_of(samples_ns, [](double ms) { return ms > 0.5 && std::fabs(ms - std::round(ms)) < whole_ms_within; }) >= whole_ms_share)
    return "frames are whole milliseconds, the steps of a coarse clock: record again with a finer one";
  return {};
}

Study study_of_recordings(const std::vector<Recording>& recordings, const RecordedAs& as) { return RecordedStudy(recordings, as).made(); }

}  // namespace mileage
