#include "tool/measuring.h"

#include <unistd.h>

#include <atomic>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <ctime>
#include <memory>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/labels.h"
#include "measure/machine_facts.h"
#include "measure/remembered_level.h"
#include "study/study_file.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "types/error.h"
#include "types/version.h"
#include "views/words.h"

namespace mileage {
namespace {

std::atomic<bool> interrupted{false};

/// A shorter study may have met the machine at a lucky moment only.
constexpr std::size_t visits_to_remember = 20;

/// While it lives, Ctrl-C only asks the measuring loop to stop.
class InterruptGuard {
 public:
  InterruptGuard() {
    interrupted = false;
    struct sigaction action {};
    action.sa_handler = [](int) { interrupted = true; };
    ::sigaction(SIGINT, &action, &before_);
  }
  ~InterruptGuard() { ::sigaction(SIGINT, &before_, nullptr); }
  InterruptGuard(const InterruptGuard&) = delete;
  InterruptGuard& operator=(const InterruptGuard&) = delete;

 private:
  struct sigaction before_ {};
};

/// Tells of progress on standard error.
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
    const std::string cell = fmt::format("{} at {}", label_of(*progress.series, plan_.series),
                                         count_text(static_cast<double>(progress.count)));
    if (progress.checking)
      return fmt::format("comparing outcomes: {} of {}, {}", progress.done, progress.cells, cell);
    if (progress.placing) return fmt::format("finding the range: visit {}, {}", progress.done, cell);
    return fmt::format("block {} of {}, {} {} of {}, about {:.0f} s left{}: {}", progress.block + 1, progress.blocks,
                       progress.repeating ? "disturbed visit" : "visit", progress.done, progress.cells, progress.left_s,
                       progress.reached ? ", " + precision_text(*progress.reached) + " so far" : "", cell);
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

/// An earlier, interrupted run into the same file, and the writer that goes on from it.
struct Opened {
  Head head;
  std::vector<Visit> made;
  std::unique_ptr<StudyWriter> writer;
};

/// Makes the file, or goes on with one of the same plan; anything else is refused and left as it is.
Opened open_study(const std::filesystem::path& file, const Head& head) {
  if (!std::filesystem::exists(file)) return {head, {}, std::make_unique<StudyWriter>(file, head)};
  Study study;
  try {
    study = read_study(file);
  } catch (const Error& error) {
    throw Error({.kind = FaultKind::cannot_write, .file = file.string(),
                 .problem = "the file exists and is no study to go on with, and nothing is overwritten; give another name with -o"});
  }
  const auto differing = differences(study.head, head);
  if (!differing.empty())
    throw Error({.kind = FaultKind::cannot_write, .file = file.string(),
                 .problem = fmt::format("the file holds another study, and nothing measured is overwritten: {}", fmt::join(differing, "; ")),
                 .accepted = "another name with -o, or the command that began it"});
  // The writer comes first: while another process writes, what was read may not be all.
  auto writer = std::make_unique<StudyWriter>(file);
  study = read_study(file);
  return {study.head, std::move(study.visits), std::move(writer)};
}

}  // namespace

Summary measure_into(const std::filesystem::path& file, const Scenario& scenario, const Plan& plan, Runner& runner) {
  Head head;
  head.program = std::string("mileage ") + version;
  head.recorded = today();
  head.scenario = scenario;
  head.plan = plan;
  head.machine = machine_facts();
  head.remembered_yardstick_ns = remembered_level_ns(head.machine);

  const Opened opened = open_study(file, head);
  if (!opened.made.empty()) warn(fmt::format("{}: going on after {} visits", file.filename().string(), opened.made.size()));
  const InterruptGuard guard;
  ProgressLine line(plan);
  SystemClock clock;
  Watch watch;
  watch.keep = [&](const Visit& visit) { opened.writer->append(visit); };
  watch.progress = [&](const Progress& progress) { line.show(progress); };
  watch.stop = [] { return interrupted.load(); };
  const Summary summary = measure_study(opened.head, opened.made, runner, clock, watch);
  if (summary.yardstick_ns && summary.kept >= visits_to_remember) remember_level(head.machine, *summary.yardstick_ns);
  return summary;
}

int exit_code_of(const Summary& summary) {
  if (summary.stopped) return exit_interrupted;
  if (summary.kept == 0) return exit_nothing_measured;
  return summary.failed > 0 ? exit_some_visits_failed : exit_answered;
}

}  // namespace mileage
