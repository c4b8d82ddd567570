// How quiet the machine was during a study.
#pragma once

#include <optional>
#include <vector>

#include "analysis/evidence/judged_run.h"
#include "analysis/evidence/disturbance_filter.h"

namespace mileage {

/// How quiet the machine was during a study.
struct MachineCondition {
  std::size_t kept = 0;                 ///< Runs that answers rest on.
  std::size_t condemned = 0;            ///< Runs of the blocks that the judge of the whole study condemns.
  std::optional<double> fast_ns;        ///< The yardstick's full speed that runs are corrected to.
  std::optional<double> remembered_ns;  ///< Full speed known of the machine when the study was made.
  std::optional<double> slowness;       ///< Slowdown of these runs, as a multiple of the fast one: geometric mean.
  bool slow_throughout = false;
  std::optional<double>
      busy_cores;  ///< On average during these runs, their own work included; nothing where the system told none.
  std::optional<double> stolen_share;  ///< On average during these runs; nothing where the system told none.
  double waited_share = 0;  ///< Of the frames' time: waiting for a core that others had, which is subtracted.
};

/// `judge` has seen all of these runs.
MachineCondition machine_condition(const std::vector<JudgedRun>& runs, const DisturbanceFilter& judge);

}  // namespace mileage
