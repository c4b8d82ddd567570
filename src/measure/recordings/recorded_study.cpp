#include "measure/recordings/recorded_study.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/evidence/labels.h"
#include "types/order_statistics.h"
#include "measure/recordings/caps.h"
#include "measure/recordings/recorded_run.h"
#include "study/knobs_cell.h"
#include "study/run_check.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

constexpr std::size_t min_to_judge = 10;
/// Frames at a count; fewer are an arrival.
constexpr std::size_t min_stay = 10;
constexpr double loading_above = 2;
constexpr std::size_t max_rows_of_a_sheet = 200;
constexpr std::size_t counts_of_a_climb = 3;
/// Ratio of counts within which short stays are pooled.
constexpr double told_together_within = 1.05;
/// With fewer counts, the ramp is the curve.
constexpr std::size_t min_stays = 2;

std::size_t loading_frames(const std::vector<std::int64_t>& frame_ns) {
  if (frame_ns.size() < min_to_judge) return 0;
  const double usual = median({frame_ns.begin(), frame_ns.end()});
  std::size_t loading = 0;
  while (loading < frame_ns.size() / 2 && static_cast<double>(frame_ns[loading]) > loading_above * usual) ++loading;
  return loading;
}

/// Averages span about a second: several frames per sample, no tail.
void make_averages(Run& run) {
  if (run.frames_per_sample > 1) return;
  const double usual_ms = median({run.samples_ns.begin(), run.samples_ns.end()}) * 1e-6;
  run.frames_per_sample = std::max(2, static_cast<int>(std::lround(1000 / usual_ms)));
  for (auto* times : {&run.samples_ns, &run.waited_ns})
    for (std::int64_t& time : *times) time *= run.frames_per_sample;
  for (auto* sums : {&run.phases_ms, &run.counters})
    for (auto& [name, sum] : *sums) sum *= run.frames_per_sample;
}

/// One note per treatment, with its files.
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
      const std::vector<std::string> first(files.begin(),
                                           files.begin() + static_cast<std::ptrdiff_t>(std::min(named, files.size())));
      lines.push_back(fmt::format("{}{}: {}.", fmt::join(first, ", "),
                                  files.size() > named ? fmt::format(" and {} more", files.size() - named) : "", what));
    }
    return lines;
  }

 private:
  std::map<std::string, std::vector<std::string>> files_;
};

class RecordedStudy {
 public:
  RecordedStudy(const std::vector<Recording>& recordings, const RecordedAs& as) : recordings_(recordings) {
    study_.head.made_by = MadeBy::tables;
    study_.head.scenario.name = as.scenario;
    study_.head.scenario.entities = as.entities;
    study_.head.plan.budget_ms = as.budget_ms;
  }

  Study made() {
    find_sheets();
    for (const Recording& recording : recordings_) take(recording);
    end_climb();
    take_climbs_for_stays();
    if (study_.runs.empty()) refuse();
    judge_caps();
    note_climbs();
    describe();
    study_.head.notes = notes_.lines();
    return std::move(study_);
  }

 private:
  /// Every row is a cell: averages written down. Long runs with a new count per frame are frames.
  void find_sheets() {
    std::map<std::string, std::size_t> longest, rows;
    for (const Recording& recording : recordings_) {
      longest[recording.file] = std::max(longest[recording.file], recording.frame_ns.size());
      ++rows[recording.file];
    }
    for (const auto& [file, max] : longest)
      if (max == 1 && rows[file] <= max_rows_of_a_sheet) sheets_.insert(file);
  }

  bool is_row_of_sheet(const Recording& recording) const {
    return sheets_.count(recording.file) > 0 && !recording.read_share;
  }

  void take(const Recording& recording) {
    if (!recording.unread_columns.empty())
      notes_.add(fmt::format("columns not used: {}", fmt::join(recording.unread_columns, ", ")), recording.file);
    if (is_row_of_sheet(recording)) return add(recording, run_of(recording, 0));
    const std::int64_t arrived = arrived_before(recording);
    count_before_ = recording.count;
    if (recording.goes_on && recording.frame_ns.size() < min_stay) return take_short_stay(recording, arrived);
    end_climb();
    const std::size_t warmup = recording.warmup    ? *recording.warmup
                               : recording.goes_on ? frames_until_warm(recording.frame_ns)
                                                   : loading_frames(recording.frame_ns);
    if (warmup >= recording.frame_ns.size()) {
      if (arrived > 0) return take_short_stay(recording, arrived);
      notes_.add("counts whose frames did not warm up were skipped", recording.file);
      return;
    }
    if (recording.warmup)
      notes_.add("warm-up frames were skipped as the table says", recording.file);
    else if (recording.goes_on)
      notes_.add("warm-up frames after each change of the count were skipped", recording.file);
    else if (warmup > 0)
      notes_.add("loading frames at the start were skipped", recording.file);
    Run run = run_of(recording, warmup);
    run.arrived = arrived;
    run.trace = trace_of(recording, warmup);
    add(recording, std::move(run));
  }

  /// Averages show no arrival.
  std::int64_t arrived_before(const Recording& recording) const {
    return recording.goes_on && !recording.of_rates ? std::max<std::int64_t>(0, recording.count - count_before_) : 0;
  }

  /// Too short to settle; a growing count gives an arrival.
  void take_short_stay(const Recording& recording, std::int64_t arrived) {
    if (arrived == 0) {
      end_climb();
      notes_.add(fmt::format("counts held for fewer than {} frames were skipped", min_stay), recording.file);
      return;
    }
    const bool goes_on =
        climb_ && climb_->recording.process == recording.process &&
        static_cast<double>(recording.count) <= told_together_within * static_cast<double>(climb_->from_count);
    if (!goes_on) {
      end_climb();
      climb_ = Ramp{recording, recording.count, arrived};
      return;
    }
    climb_->recording.count = recording.count;
    climb_->max_arrived = std::max(climb_->max_arrived, arrived);
    std::vector<std::int64_t>& frame_ns = climb_->recording.frame_ns;
    frame_ns.insert(frame_ns.end(), recording.frame_ns.begin(), recording.frame_ns.end());
  }

  void end_climb() {
    if (!climb_) return;
    Recording frames;  // Phases and counters of settled frames only.
    frames.count = climb_->recording.count;
    frames.frame_ns = climb_->recording.frame_ns;
    Run run = run_of(frames, frames.frame_ns.size());
    run.arrived = climb_->max_arrived;
    climb_->recording.status = RunStatus::ramp;
    notes_.add("counts that rose before frames had warmed up show what arrivals cost and are not part of a curve",
               climb_->recording.file);
    add(climb_->recording, std::move(run));
    climb_.reset();
  }

  void take_climbs_for_stays() {
    std::map<std::string, std::set<std::int64_t>> stays;
    for (const Run& run : study_.runs)
      if (run.status != RunStatus::ramp) stays[series_of(run)].insert(run.count);
    for (std::size_t i = 0; i < study_.runs.size(); ++i) {
      Run& run = study_.runs[i];
      if (run.status != RunStatus::ramp || run.warmup_ns.size() < min_stay || stays[series_of(run)].size() >= min_stays)
        continue;
      run.status = RunStatus::kept;
      run.samples_ns.swap(run.warmup_ns);
      notes_.add("the count rises throughout, so arrivals are part of every time; hold some counts for a second",
                 files_[i]);
    }
  }

  void add(const Recording& recording, Run run) {
    run.series = {recording.variant, recording.knobs, recording.cold_bytes, recording.build, recording.skipped_phase};
    run.count = recording.count;
    run.order = static_cast<int>(study_.runs.size());
    run.process = recording.process;
    run.status = recording.status;
    run.block = recording.block ? *recording.block : blocks_of_cells_[cell_of(run)]++;
    run.read_share = recording.read_share;
    if (const auto fault = fault_in(run)) {
      Fault of_file = *fault;
      of_file.file = recording.file;
      throw Error(of_file);
    }
    if (recording.of_rates || is_row_of_sheet(recording)) {
      make_averages(run);
      notes_.add(is_row_of_sheet(recording)
                     ? "one number per variant and count: averages, so single frames and their spread are unknown"
                     : "converted from frames per second: averages, so single frames are unknown",
                 recording.file);
    }
    if (recording.of_timestamps)
      notes_.add("frame_ms only rises, so it was read as timestamps and converted to differences", recording.file);
    if (recording.read_share) notes_.add("read by eye: intervals include the reading error", recording.file);
    files_.push_back(recording.file);
    study_.runs.push_back(std::move(run));
  }

  static std::string series_of(const Run& run) {
    const Series& series = run.series;
    return fmt::format("{}\n{}\n{}\n{}\n{}", series.variant, series.build, knobs_cell(series.knobs), series.cold_bytes,
                       series.skipped_phase);
  }
  static std::string cell_of(const Run& run) { return fmt::format("{}\n{}", series_of(run), run.count); }

  /// Caps show across the counts of a series.
  void judge_caps() {
    std::map<std::string, std::vector<std::size_t>> by_series;
    for (std::size_t i = 0; i < study_.runs.size(); ++i)
      if (!study_.runs[i].samples_ns.empty()) by_series[series_of(study_.runs[i])].push_back(i);
    for (const auto& [series, places] : by_series) {
      std::vector<const Run*> runs;
      for (const std::size_t place : places) runs.push_back(&study_.runs[place]);
      const std::vector<CapVerdict> verdicts = cap_verdicts(runs);
      for (std::size_t i = 0; i < places.size(); ++i) {
        Run& run = study_.runs[places[i]];
        if (!verdicts[i].bound.empty()) run.status = RunStatus::bound;
        run.failure = verdicts[i].bound;
        if (verdicts[i].bound.empty() && !verdicts[i].warning.empty())
          notes_.add(verdicts[i].warning, files_[places[i]]);
      }
    }
  }

  void note_climbs() {
    std::map<std::pair<int, std::string>, std::vector<const Recording*>> runs;
    for (const Recording& recording : recordings_)
      if (sheets_.count(recording.file) == 0) runs[{recording.process, recording.variant}].push_back(&recording);
    for (const auto& [run, recordings] : runs) {
      const bool climbs = std::is_sorted(recordings.begin(), recordings.end(),
                                         [](const Recording* a, const Recording* b) { return a->count <= b->count; });
      if (recordings.size() >= counts_of_a_climb && climbs)
        notes_.add(
            "counts only rise within one process, so a machine that slows down looks like a curve; record again in "
            "another "
            "order",
            recordings.front()->file);
    }
  }

  void describe() {
    Scenario& scenario = study_.head.scenario;
    std::set<std::string> variants, series;
    for (const Run& run : study_.runs) {
      if (variants.insert(run.series.variant).second) scenario.variants.push_back({run.series.variant, "", {}, ""});
      if (series.insert(series_of(run)).second) study_.head.plan.series.push_back(run.series);
      if (run.status != RunStatus::ramp) study_.head.plan.counts.push_back(run.count);
    }
    describe_knobs();
    std::vector<std::int64_t>& counts = study_.head.plan.counts;
    std::sort(counts.begin(), counts.end());
    counts.erase(std::unique(counts.begin(), counts.end()), counts.end());
  }

  /// The kind of knob is unknown; as conditions they prevent comparing unlike work.
  void describe_knobs() {
    std::map<std::string, std::vector<KnobValue>> values;
    for (const Series& series : study_.head.plan.series)
      for (const auto& [name, value] : series.knobs.values()) values[name].push_back(value);
    for (const auto& [name, found] : values) {
      const bool is_numeric = std::all_of(found.begin(), found.end(),
                                          [](const KnobValue& value) { return std::holds_alternative<double>(value); });
      std::set<std::string> names;
      for (const KnobValue& value : found) names.insert(text_of(value));
      Knob knob = Knob::choice(name, "", {names.begin(), names.end()});
      if (is_numeric) {
        const auto [min, max] = std::minmax_element(found.begin(), found.end());
        knob = Knob::real(
            name, "",
            {.default_value = std::get<double>(*min), .min = std::get<double>(*min), .max = std::get<double>(*max)});
      }
      study_.head.scenario.knobs.push_back(std::move(knob));
    }
  }

  [[noreturn]] void refuse() const {
    throw Error({.file = recordings_.empty() ? "" : recordings_.front().file,
                 .problem = "no count was held long enough",
                 .accepted = fmt::format("at least {} frames at one count", min_stay)});
  }

  /// Pooled short stays.
  struct Ramp {
    Recording recording;  ///< With the frames of all and the last count.
    std::int64_t from_count = 0;
    std::int64_t max_arrived = 0;
  };

  const std::vector<Recording>& recordings_;
  std::int64_t count_before_ = 0;  ///< Of the recording before.
  std::optional<Ramp> climb_;
  std::set<std::string> sheets_;    ///< Of averages.
  std::vector<std::string> files_;  ///< By run.
  std::map<std::string, int> blocks_of_cells_;
  Study study_;
  Notes notes_;
};

}  // namespace

Study study_of_recordings(const std::vector<Recording>& recordings, const RecordedAs& as) {
  return RecordedStudy(recordings, as).made();
}

}  // namespace mileage
