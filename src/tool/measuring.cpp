#include "tool/measuring.h"

#include <unistd.h>

#include <atomic>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <ctime>

#include <fmt/format.h>

#include "analysis/labels.h"
#include "measure/machine_facts.h"
#include "study/study_file.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "types/version.h"
#include "views/words.h"

namespace mileage {
namespace {

std::atomic<bool> interrupted{false};

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
    if (progress.placing) return fmt::format("finding the range: visit {}, {}", progress.done + 1, cell);
    return fmt::format("block {} of {}, visit {} of {}, about {:.0f} s left: {}", progress.block + 1, progress.blocks,
                       progress.done + 1, progress.cells, progress.left_s, cell);
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

}  // namespace

Summary measure_into(const std::filesystem::path& file, const Scenario& scenario, const Plan& plan, Runner& runner) {
  Head head;
  head.program = std::string("mileage ") + version;
  head.recorded = today();
  head.scenario = scenario;
  head.plan = plan;
  head.machine = machine_facts();

  StudyWriter writer(file, head);
  const InterruptGuard guard;
  ProgressLine line(plan);
  SystemClock clock;
  Watch watch;
  watch.keep = [&](const Visit& visit) { writer.append(visit); };
  watch.progress = [&](const Progress& progress) { line.show(progress); };
  watch.stop = [] { return interrupted.load(); };
  return measure_study(scenario, plan, runner, clock, watch);
}

int exit_code_of(const Summary& summary) {
  if (summary.stopped) return exit_interrupted;
  if (summary.kept == 0) return exit_nothing_measured;
  return summary.failed > 0 ? exit_some_visits_failed : exit_answered;
}

}  // namespace mileage
