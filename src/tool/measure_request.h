// From options to a study: runner, scenario, file.
#pragma once

#include <memory>
#include <string>

#include "measure/runners/runner.h"
#include "mileage/types/catalogue.h"
#include "tool/measure_options.h"
#include "tool/measuring.h"

namespace mileage {

struct MeasureRequest {
  std::unique_ptr<Runner> runner;
  Scenario scenario;
  PlanRequest asked;
  std::string output;  ///< Study file.
};

/// Reads the plan file and asks the program. Throws Error.
MeasureRequest measure_request(MeasureOptions& options, const Catalogue& catalogue);

Summary measure_now(const MeasureRequest& request, const Plan& plan, const MeasureOptions& options);

}  // namespace mileage
