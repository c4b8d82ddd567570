#include "tool/measuring.h"

#include <unistd.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <ctime>
#include <memory>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "analysis/analysed_study.h"
#include "analysis/evidence/failures_and_bounds.h"
#include "analysis/evidence/labels.h"
#include "measure/machine/pass_speed.h"
#include "measure/machine/machine_facts.h"
#include "measure/machine/remembered_full_speed.h"
#include "study/study_file.h"
#include "system/stop_signals.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/skipped.h"
#include "tool/study_answers.h"
#include "tool/output.h"
#include "types/error.h"
#include "types/text.h"
#include "types/version.h"
#include "views/views.h"
#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

/// A shorter study may be lucky.
constexpr std::size_t runs_to_remember = 20;
constexpr std::size_t reasons_told = 4;

/// On standard error.
class ProgressLine {
 public:
  explicit ProgressLine(const Plan& plan) : plan_(plan), live_(::isatty(STDERR_FILENO) == 1) {}
  ~ProgressLine() { clear(); }
  ProgressLine(const ProgressLine&) = delete;
  ProgressLine& operator=(const ProgressLine&) = delete;

  void show(const Progress& progress) {
    if (live_)
      std::fprintf(stderr, "\r\033[K%s", worded(progress).c_str());
    else if (progress.elapsed_s >= next_s_)
      std::fprintf(stderr, "%s\n", worded(progress).c_str());
    if (progress.elapsed_s >= next_s_) next_s_ = progress.elapsed_s + seconds_between_plain_lines;
    std::fflush(stderr);
  }
  void clear() {
    if (live_) std::fprintf(stderr, "\r\033[K");
  }

 private:
  static constexpr double seconds_between_plain_lines = 15;

  std::string worded(const Progress& progress) const {
    const std::string cell = printable_line(fmt::format("{} at {}", label_of(*progress.series, plan_.series),
                                                        count_text(static_cast<double>(progress.count))));
    // Unknown at the largest counts.
    const std::string of = progress.cells > 0 ? fmt::format(" of {}", progress.cells) : "";
    if (progress.checking) return fmt::format("comparing outcomes: {}{}, {}", progress.done, of, cell);
    if (progress.tracing) return fmt::format("tracing: {} of {}, {}", progress.done, progress.cells, cell);
    if (progress.range_finding) return fmt::format("range finding: run {}, {}", progress.done, cell);
    const std::string left = progress.left_s > 0 ? fmt::format("{:.0f} s left: ", progress.left_s) : "";
    const std::string figures = figures_text(progress.figures);
    return left + (figures.empty() ? fmt::format("round {}, {}", progress.block + 1, cell) : figures);
  }

  /// Capacities so far; then, if there are none, other figures.
  std::string figures_text(const std::vector<FigureSoFar>& figures) const {
    std::vector<std::string> capacities, others;
    for (const FigureSoFar& figure : figures) {
      std::string label = label_of(plan_.series[figure.series], plan_.series);
      if (figure.other) label += " and " + label_of(plan_.series[*figure.other], plan_.series);
      (figure.other ? others : capacities)
          .push_back(fmt::format("{} {} {}", label, count_text(figure.place), precision_text(figure.half_width)));
    }
    return printable_line(fmt::format("{}", fmt::join(capacities.empty() ? others : capacities, ", ")));
  }

  const Plan& plan_;
  bool live_;
  double next_s_ = 0;
};

std::string today() {
  const std::time_t now = std::time(nullptr);
  std::tm date{};
  ::gmtime_r(&now, &date);
  return fmt::format("{:04}-{:02}-{:02}", date.tm_year + 1900, date.tm_mon + 1, date.tm_mday);
}

/// An interrupted study and its writer.
struct Opened {
  Head head;
  std::vector<Run> made;
  std::unique_ptr<StudyWriter> writer;
  std::size_t runs_before = 0;  ///< Of joined runs.
  int blocks_before = 0;

  /// Renumbers a run after those of earlier ones.
  Run following(Run run) const {
    run.order += static_cast<int>(runs_before);
    run.process += static_cast<std::int64_t>(runs_before);
    if (run.block >= 0) run.block += blocks_before;
    return run;
  }
};

/// Reached range finding and everything failed. A study interrupted in its checks is resumed.
bool came_to_nothing(const Study& study) {
  const auto is_check = [](const Run& run) { return run.check_frames > 0 || run.status == RunStatus::check; };
  const auto failed = [](const Run& run) { return run.status == RunStatus::failed; };
  return std::all_of(study.runs.begin(), study.runs.end(),
                     [&](const Run& run) { return failed(run) || is_check(run); }) &&
         !std::all_of(study.runs.begin(), study.runs.end(), is_check);
}

[[noreturn]] void refuse_other_study(const std::filesystem::path& file, const std::vector<std::string>& differing) {
  throw Error({.kind = FaultKind::cannot_write,
               .file = file.string(),
               .problem = fmt::format("the file holds another study, and measurements are never overwritten: {}",
                                      fmt::join(differing, "; ")),
               .accepted = "another name with -o, or the command that started it"});
}

/// Creates the file, continues the same plan, or restarts a study that came to nothing. Refuses anything else.
Opened open_study(const std::filesystem::path& file, const Head& head) {
  if (!std::filesystem::exists(file)) return {head, {}, std::make_unique<StudyWriter>(file, head)};
  Study study;
  auto writer = std::make_unique<StudyWriter>(file, study);
  const auto differing = differences(study.head, head);
  if (!differing.empty()) refuse_other_study(file, differing);
  if (!came_to_nothing(study)) return {study.head, std::move(study.runs), std::move(writer)};
  print_message(fmt::format("{}: every run in it failed; begun again", file.filename().string()));
  writer->restart(head);
  return {head, {}, std::move(writer)};
}

/// Creates the file, or adds blocks of another process to the same scenario and series.
Opened join_study(const std::filesystem::path& file, const Head& head) {
  if (!std::filesystem::exists(file)) return open_study(file, head);
  Study study;
  auto writer = std::make_unique<StudyWriter>(file, study);
  const bool is_same = study.head.scenario.name == head.scenario.name && study.head.plan.series == head.plan.series &&
                       study.head.machine.processor == head.machine.processor;
  if (!is_same)
    throw Error({.kind = FaultKind::cannot_write,
                 .file = file.string(),
                 .problem = "the file holds a study of another scenario, other variants or another machine, which this "
                            "run cannot join",
                 .accepted = "another name with -o"});
  int blocks = 0;
  for (const Run& run : study.runs) blocks = std::max(blocks, run.block + 1);
  return {head, {}, std::move(writer), study.runs.size(), blocks};
}

std::string reached_text(const Summary& summary, const Plan& plan) {
  const std::string asked = precision_text(plan.precision);
  if (!summary.reached) return fmt::format("precision unknown ({} asked for): there is no interval yet.", asked);
  const std::string reached = fmt::format("precision {} ({} asked for)", precision_text(*summary.reached), asked);
  if (*summary.reached <= plan.precision) return reached + ".";
  return fmt::format("{}: about {} s more would reach it.", reached, three_digits(*summary.lacking_s));
}

constexpr const char* prepared_note =
    "all runs are copies of one loaded process, so intervals do not include where its memory happens to be; measure "
    "again to see that.";

}  // namespace

Head head_for(const Scenario& scenario, const Plan& plan, MadeBy made_by) {
  Head head;
  head.program = std::string("mileage ") + version;
  head.recorded = today();
  head.scenario = scenario;
  head.scenario.build.flags = without_paths(scenario.build.flags);
  head.plan = plan;
  head.made_by = made_by;
  if (scenario.prepares && made_by == MadeBy::program) head.notes.push_back(prepared_note);
  head.machine = machine_facts();
  if (made_by != MadeBy::person && made_by != MadeBy::tables) head.machine.pass_bytes_per_s = pass_speeds(head.machine);
  set_remembered_full_speeds(head);
  return head;
}

Summary measure_into(const std::filesystem::path& file, const Head& head, Runner& runner, const MeasureHow& how) {
  const Opened opened = how.joins ? join_study(file, head) : open_study(file, head);
  if (!opened.made.empty())
    print_message(fmt::format("{}: continuing after {} runs", file.filename().string(), opened.made.size()));
  if (opened.runs_before > 0)
    print_message(fmt::format("{}: another process joins {} runs", file.filename().string(), opened.runs_before));
  const StopGuard guard;
  ProgressLine line(head.plan);
  SystemClock clock;
  Watch watch;
  watch.keep = [&](const Run& run) { opened.writer->append(opened.following(run)); };
  watch.progress = [&](const Progress& progress) { line.show(progress); };
  watch.too_short = [&](const TooShort& short_by) {
    line.clear();
    print_message(fmt::format(
        "{} s are too short for five blocks ({} takes {} s of each); --time {:.0f}s is enough. Fast variants come "
        "first",
        three_digits(head.plan.time_s), label_of(head.plan.series[short_by.slowest], head.plan.series),
        three_digits(short_by.slowest_s), std::ceil(1.1 * short_by.needed_s)));
  };
  watch.stop = [&] { return is_stop_asked() || (how.stop && how.stop()); };
  const Summary summary = measure_study(opened.head, opened.made, runner, clock, watch);
  if (summary.kept >= runs_to_remember)
    for (const auto& [cores, mean_ns] : summary.yardstick_ns) remember_full_speed(head.machine, mean_ns, cores);
  return summary;
}

Json summary_json(const char* verb, const Summary& summary, const std::string& output) {
  Json json = envelope(verb, {});
  json["study"] = std::filesystem::path(output).filename().string();
  json["blocks"] = summary.blocks;
  json["runs_kept"] = summary.kept;
  json["runs_failed"] = summary.failed;
  json["runs_repeated"] = summary.made_again;
  json["stopped"] = summary.stopped;
  json["elapsed_s"] = summary.elapsed_s;
  const Study study = read_study(output);
  for (const Failure& failure : failures_of(study))
    json["failures"].push_back({{"series", failure.label},
                                {"count", static_cast<std::int64_t>(failure.x)},
                                {"block", failure.block},
                                {"reason", failure.reason}});
  json["skipped"] = skipped_json(summary, study.head.plan);
  json["reached"] = summary.reached ? Json(*summary.reached) : Json(nullptr);
  json["lacking_s"] = summary.lacking_s ? Json(*summary.lacking_s) : Json(nullptr);
  return json;
}

std::string measured_text(const Summary& summary, const Plan& plan, const std::string& output) {
  if (summary.kept == 0)
    return summary.stopped
               ? "stopped before the plan was done, with nothing measured yet; the same command continues.\n"
               : "";
  const AnalysedStudy study(read_study(output));
  const About around = about(study.analysis());
  Answer view = first_answer(around, study.analysis());
  if (summary.stopped) view.note("stopped before the plan was done; the same command continues.");
  if (summary.made_again > 0)
    view.note(
        fmt::format("{} failed run{} repeated.", summary.made_again, summary.made_again == 1 ? " was" : "s were"));
  // Else other processes measured into the file, too. The last block may be partial.
  const bool is_whole = around.blocks <= static_cast<std::size_t>(summary.blocks) + 1;
  if (plan.precision > 0)
    view.note(reached_text(summary, plan));
  else if (summary.lacking_s.value_or(0) > 0 && is_whole)
    view.note(fmt::format("intervals are within {}; --time {:.0f}s would reach {}.", precision_text(*summary.reached),
                          std::ceil(summary.elapsed_s + *summary.lacking_s), precision_text(usual_precision)));
  for (std::string& line : skipped_lines(summary, plan)) view.note(std::move(line));
  if (view.next.empty()) view.next = next_commands(around, output);
  return whole_text({around}, std::move(view), false);
}

std::string why_nothing(const std::string& output) {
  const Study study = read_study(output);
  std::string text = "nothing could be measured";
  for (const std::string& line : failure_lines(failures_of(study), {}, reasons_told)) text += "\n! failed: " + line;
  return text;
}

int exit_code_of(const Summary& summary) {
  if (summary.stopped) return exit_interrupted;
  if (summary.kept == 0) return exit_nothing_measured;
  return summary.failed > summary.made_again ? exit_some_runs_failed : exit_answered;
}

}  // namespace mileage
