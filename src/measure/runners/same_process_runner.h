#pragma once

#include "measure/in_process/make_run.h"
#include "measure/runners/runner.h"

namespace mileage {

/// For tests and debuggers: a crash ends everything, and limits do not hold.
class SameProcessRunner : public Runner {
 public:
  SameProcessRunner(const Catalogue& catalogue, const Instruments& instruments)
      : catalogue_(&catalogue), instruments_(instruments) {}

  MadeBy made_by() const override { return MadeBy::program; }
  std::vector<Scenario> describe() override { return catalogue_->scenarios_here(); }
  Run run(const RunRequest& request, double) override { return make_run(request, *catalogue_, instruments_); }

 private:
  const Catalogue* catalogue_;
  Instruments instruments_;
};

}  // namespace mileage
