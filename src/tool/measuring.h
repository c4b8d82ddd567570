// Measuring as the verbs measure and demo do it: into a file, with a progress line, until done or Ctrl-C.
#pragma once

#include <filesystem>
#include <functional>
#include <string>

#include "measure/loop/measure_study.h"
#include "measure/runners/runner.h"
#include "measure/in_process/run_bracket.h"
#include "study/study_json.h"

namespace mileage {

/// The head of a study that is begun now, on this machine.
Head head_for(const Scenario& scenario, const Plan& plan, MadeBy made_by);

/// Measures the plan of a head into a study file; a file of the same plan is resumed, any other is refused.
/// Progress goes to standard error: one live line on a terminal, a plain line now and then elsewhere. Ctrl-C, SIGTERM
/// and SIGHUP end it after the run in work. Throws Error when the file cannot be written.
struct MeasureHow {
  bool joins = false;               ///< A file that is there gets the runs of another run, in blocks of their own.
  std::function<bool()> stop = {};  ///< Asked besides Ctrl-C.
};
Summary measure_into(const std::filesystem::path& file, const Head& head, Runner& runner, const MeasureHow& how = {});

/// What this process times runs of others with.
struct OwnInstruments {
  SystemClock clock;
  MachineYardstick yardstick{clock};
  Instruments instruments{&clock, &yardstick, read_load};
};

/// The first answer of a study that was just measured, with what was skipped and what to do next.
std::string measured_text(const Summary& summary, const Plan& plan, const std::string& output);
/// How measuring ended.
Json summary_json(const char* verb, const Summary& summary, const std::string& output);
/// What to say where no run could be kept: with the reasons.
std::string why_nothing(const std::string& output);

/// Exit code that goes with how measuring ended.
int exit_code_of(const Summary& summary);

}  // namespace mileage
