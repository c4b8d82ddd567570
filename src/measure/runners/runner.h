// Runner: turns a request into a run.
#pragma once

#include <vector>

#include "measure/in_process/run_request.h"

namespace mileage {

/// Implementations: a program started again for each run, builds of one, this process itself, a command, a running
/// program, a person.
class Runner {
 public:
  /// Thrown out of run() when the other end, or this process, was asked to stop in the middle of a run.
  struct Stopped {};

  virtual ~Runner() = default;

  /// Who makes the runs: what kind of evidence they are.
  virtual MadeBy made_by() const = 0;

  /// What can be measured. Throws Error (cannot measure) when that is not known.
  virtual std::vector<Scenario> describe() = 0;

  /// Makes one run and waits for it. Whatever the variant does (crash, exit, hang beyond the limit, throw) becomes a
  /// failed run with a plain reason; never throws for it. Throws Stopped. `limit_s` > 0.
  virtual Run run(const RunRequest& request, double limit_s) = 0;

  /// Takes note of a run made before the study was interrupted, as if run() had just returned it.
  virtual void learn(const Run&) {}
};

}  // namespace mileage
