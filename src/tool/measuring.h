// Measuring into a file, with progress, until done or Ctrl-C.
#pragma once

#include <filesystem>
#include <functional>
#include <string>

#include "measure/loop/measure_study.h"
#include "measure/runners/runner.h"
#include "measure/in_process/run_bracket.h"
#include "study/study_json.h"

namespace mileage {

Head head_for(const Scenario& scenario, const Plan& plan, MadeBy made_by);

/// Measures into a study file, resuming the same plan; refuses any other file. Progress on standard error: a live line
/// on a terminal, else a line now and then. Ctrl-C, SIGTERM and SIGHUP end after the current run. Throws Error if it
/// cannot write.
struct MeasureHow {
  bool joins = false;               ///< Adds blocks of another process to an existing file.
  std::function<bool()> stop = {};  ///< Besides Ctrl-C.
};
Summary measure_into(const std::filesystem::path& file, const Head& head, Runner& runner, const MeasureHow& how = {});

struct OwnInstruments {
  SystemClock clock;
  MachineYardstick yardstick{clock};
  Instruments instruments{&clock, &yardstick, read_load};
};

/// With what was skipped and next commands.
std::string measured_text(const Summary& summary, const Plan& plan, const std::string& output);
Json summary_json(const char* verb, const Summary& summary, const std::string& output);
/// With reasons.
std::string why_nothing(const std::string& output);

int exit_code_of(const Summary& summary);

}  // namespace mileage
