// What an analysis uses as evidence.
#pragma once

#include <string>

#include "analysis/evidence/axis.h"
#include "analysis/evidence/judged_run.h"
#include "analysis/evidence/selection.h"

namespace mileage {

struct EvidenceWanted {
  std::string axis = count_axis;
  /// Without the assumed variance between processes: what more blocks could still narrow.
  bool within_processes = false;
  /// Accept a study with upper bounds only; it has no curves.
  bool bounds_suffice = false;
  /// Runs without it are no evidence.
  CostOf cost_of = CostOf::frame;
  /// Slowdown and outcomes use the whole study.
  Selection selection;
};

}  // namespace mileage
