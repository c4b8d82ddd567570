// How quiet the machine was during a study.
#pragma once

#include <optional>
#include <vector>

#include "analysis/evidence/judged_run.h"
#include "analysis/evidence/yardstick_judge.h"

namespace mileage {

/// How quiet the machine was during a study.
struct Quietness {
  std::size_t kept = 0;                 ///< Runs that answers rest on.
  std::size_t condemned = 0;            ///< Runs of the blocks that the judge of the whole study condemns.
  std::optional<double> fast_ns;        ///< The yardstick's fast level that runs are brought to.
  std::optional<double> remembered_ns;  ///< Fast level known of the machine when the study was made.
  std::optional<double> slowness;       ///< Level of these runs, as a multiple of the fast one: geometric mean.
  bool slow_throughout = false;
  std::optional<double>
      busy_cores;  ///< On average during these runs, their own work included; nothing where the system told none.
  std::optional<double> stolen_share;  ///< On average during these runs; nothing where the system told none.
  double waited_share = 0;             ///< Of the frames' time: waiting for a core that others had, which is taken off.
};

/// `judge` has seen all of these runs.
Quietness quietness_of(const std::vector<JudgedRun>& runs, const YardstickJudge& judge);

}  // namespace mileage
