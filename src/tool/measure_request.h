// From options to a study: who makes the runs, of which scenario, into which file.
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
  std::string output;  ///< The study file.
};

/// Reads the plan file, where there is one, and asks the program what it offers. Throws Error for options that exclude
/// each other, and as the readers do.
MeasureRequest measure_request(MeasureOptions& options, const Catalogue& catalogue);

/// Measures a plan that was made of the request.
Summary measure_now(const MeasureRequest& request, const Plan& plan, const MeasureOptions& options);

}  // namespace mileage
