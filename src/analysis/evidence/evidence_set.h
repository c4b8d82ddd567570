// All evidence of a study: its runs judged once and gathered by series, with their places on the axis.
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

/// All evidence on one series.
struct SeriesEvidence {
  Series series;
  std::string label;   ///< The variant, and the knobs that tell it from the study's other series of that variant.
  int rank = 0;        ///< Place of the variant in the scenario's list; names keep their colour by it.
  int of_variant = 0;  ///< 0 for the variant's first series, 1 for its second ...
  std::vector<const JudgedRun*> runs;        ///< Those that answers rest on, in the order of the study.
  std::vector<double> x;                     ///< Places on the axis, ascending.
  Unevenness unevenness = Unevenness::even;  ///< Unless even, all costs are means and not typical frames.
  /// The smallest count at which a run failed: nothing from there on is evidence. Nothing on another axis, where only
  /// the places themselves are excluded.
  std::optional<double> fails_from;
};

/// Refers to the study, which must outlive it. Moved, not copied: its parts refer to each other.
struct EvidenceSet {
  EvidenceSet() = default;
  EvidenceSet(EvidenceSet&&) = default;
  EvidenceSet& operator=(EvidenceSet&&) = default;
  EvidenceSet(const EvidenceSet&) = delete;
  EvidenceSet& operator=(const EvidenceSet&) = delete;

  const Study* study = nullptr;
  CostOf cost_of = CostOf::frame;
  /// Median of what the machine drew during its runs, where costs are energy; 1 otherwise. A budget times this is
  /// what a frame of that length uses.
  double power_w = 1;
  Axis axis;
  Head head;                           ///< As it is on this axis.
  std::vector<JudgedRun> runs;         ///< In the order of the study.
  std::size_t processes = 0;           ///< Processes that made several blocks each; 0 where none did.
  std::vector<int> blocks;             ///< Their numbers, ascending.
  std::vector<SeriesEvidence> series;  ///< In the order of the plan.
  std::vector<Agreement> agreements;   ///< One per series of the plan, as it was measured.
  MachineCondition quiet;
  std::vector<Failure> failures;
  std::vector<Bound> bounds;  ///< Ascending for each series and reason.
};

/// Puts runs on the axis, judges them by the slowdown of the whole study, and gathers them. Series without a run are
/// excluded (their failures stay), and so are those whose outcome differs from the reference's. Throws Error as
/// put_on_axis() does.
EvidenceSet gather_evidence(const Study& study, const EvidenceWanted& wanted = {});

}  // namespace mileage
