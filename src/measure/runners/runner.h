// Runner: whoever turns a request into a visit.
#pragma once

#include <vector>

#include "measure/runners/visit_request.h"

namespace mileage {

/// Implementations: a program started again for each visit, builds of one, this process itself, a command, a running
/// program, a person.
class Runner {
 public:
  /// Thrown out of run() when whoever is at the other end, or this process, was asked to stop in the middle of a visit.
  struct Stopped {};

  virtual ~Runner() = default;

  /// Who makes the visits: what kind of evidence they are.
  virtual MadeBy made_by() const = 0;

  /// What can be measured. Throws Error (cannot measure) when whoever runs the visits does not tell.
  virtual std::vector<Scenario> describe() = 0;

  /// Makes one visit and waits for it. Whatever the variant does (crash, exit, hang beyond the limit, throw) becomes a
  /// failed visit with a plain reason; never throws for it. Throws Stopped. `limit_s` > 0.
  virtual Visit run(const VisitRequest& request, double limit_s) = 0;

  /// Takes note of a run made before the study was interrupted, as if run() had just returned it.
  virtual void learn(const Visit&) {}
};

}  // namespace mileage
