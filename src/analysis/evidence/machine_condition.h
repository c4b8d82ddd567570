// Load of the machine during a study.
#pragma once

#include <optional>
#include <vector>

#include "analysis/evidence/judged_run.h"
#include "analysis/evidence/disturbance_filter.h"

namespace mileage {

struct MachineCondition {
  std::size_t kept = 0;
  std::size_t condemned = 0;            ///< Discarded runs of blocks.
  std::optional<double> fast_ns;        ///< Full speed that runs are corrected to.
  std::optional<double> remembered_ns;  ///< Full speed known before the study.
  std::optional<double> slowness;       ///< Geometric mean slowdown.
  bool slow_throughout = false;
  std::optional<double> busy_cores;    ///< Mean, own work included.
  std::optional<double> stolen_share;  ///< Mean.
  double waited_share = 0;             ///< Of frame time; subtracted.
};

/// `judge` has seen these runs.
MachineCondition machine_condition(const std::vector<JudgedRun>& runs, const DisturbanceFilter& judge);

}  // namespace mileage
