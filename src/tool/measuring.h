// Measuring as the verbs measure and demo do it: into a file, with a progress line, until done or Ctrl-C.
#pragma once

#include <filesystem>

#include "measure/measure_study.h"
#include "measure/runner.h"

namespace mileage {

/// Measures a plan into a study file; a file of the same plan is gone on with, any other is refused. Progress goes to standard error: one live line on a terminal, a plain line now
/// and then elsewhere. Ctrl-C ends it after the visit in work. Throws Error when the file cannot be written.
Summary measure_into(const std::filesystem::path& file, const Scenario& scenario, const Plan& plan, Runner& runner);

/// Exit code that goes with how measuring ended.
int exit_code_of(const Summary& summary);

}  // namespace mileage
