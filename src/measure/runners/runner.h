#pragma once

#include <vector>

#include "measure/in_process/run_request.h"

namespace mileage {

/// Turns requests into runs.
class Runner {
 public:
  /// Thrown by run() on a stop request.
  struct Stopped {};

  virtual ~Runner() = default;

  virtual MadeBy made_by() const = 0;

  /// Throws Error (cannot measure).
  virtual std::vector<Scenario> describe() = 0;

  /// Crashes, exits, time-outs and exceptions of the variant become a failed run with a reason. Throws Stopped.
  /// `limit_s` > 0.
  virtual Run run(const RunRequest& request, double limit_s) = 0;

  /// Notes a run made before an interruption.
  virtual void learn(const Run&) {}
};

}  // namespace mileage
