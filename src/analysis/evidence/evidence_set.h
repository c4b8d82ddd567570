// All evidence of a study: runs judged and grouped by series, with places on the axis.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/evidence/agreement.h"
#include "analysis/evidence/axis.h"
#include "analysis/evidence/judged_run.h"
#include "analysis/evidence/machine_condition.h"
#include "analysis/evidence/evidence_wanted.h"
#include "analysis/evidence/uneven.h"
#include "analysis/evidence/failures_and_bounds.h"
#include "analysis/evidence/disturbance_filter.h"

namespace mileage {

struct SeriesEvidence {
  Series series;
  std::string label;                         ///< Variant, and the knobs that differ among its series.
  int rank = 0;                              ///< Of the variant in the scenario; decides the color.
  int of_variant = 0;                        ///< Number within the variant, from 0.
  std::vector<const JudgedRun*> runs;        ///< In study order.
  std::vector<double> x;                     ///< Ascending.
  Unevenness unevenness = Unevenness::even;  ///< Unless even, costs are means.
  /// Smallest failed count; nothing from there on is evidence. Other axes only exclude the places themselves.
  std::optional<double> fails_from;
};

/// Refers to the study, which must outlive it. Movable only: parts refer to each other.
struct EvidenceSet {
  EvidenceSet() = default;
  EvidenceSet(EvidenceSet&&) = default;
  EvidenceSet& operator=(EvidenceSet&&) = default;
  EvidenceSet(const EvidenceSet&) = delete;
  EvidenceSet& operator=(const EvidenceSet&) = delete;

  const Study* study = nullptr;
  CostOf cost_of = CostOf::frame;
  /// Median power for energy costs, else 1. Budget times this is in the unit of costs.
  double power_w = 1;
  Axis axis;
  Head head;                           ///< On this axis.
  std::vector<JudgedRun> runs;         ///< In study order.
  std::size_t processes = 0;           ///< Processes with several blocks each; else 0.
  std::vector<int> blocks;             ///< Ascending.
  std::vector<SeriesEvidence> series;  ///< In plan order.
  std::vector<Agreement> agreements;   ///< By series of the plan, as measured.
  MachineCondition quiet;
  std::vector<Failure> failures;
  std::vector<Bound> bounds;  ///< Ascending by series and reason.
};

/// Series without runs, or with a different outcome, are excluded; their failures are kept. Throws Error as
/// put_on_axis() does.
EvidenceSet gather_evidence(const Study& study, const EvidenceWanted& wanted = {});

}  // namespace mileage
