// What evidence an analysis rests on.
#pragma once

#include <string>

#include "analysis/evidence/axis.h"
#include "analysis/evidence/judged_run.h"
#include "analysis/evidence/selection.h"

namespace mileage {

struct EvidenceWanted {
  std::string axis = count_axis;
  /// Leave out what is assumed between processes: what repeating more within the same processes would narrow.
  bool within_processes = false;
  /// Analyse a study of which only upper bounds are known too: no series then, and no curves.
  bool bounds_suffice = false;
  /// What costs are counted in; runs that do not have it are no evidence.
  CostOf cost_of = CostOf::frame;
  /// Slowdown and outcomes are always of the whole study.
  Selection selection;
};

}  // namespace mileage
