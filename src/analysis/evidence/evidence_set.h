// All evidence of a study: its runs judged once, and one table per series of the logarithm of the typical frame time,
// by place on the axis and block. Everything after this step works on the tables and does not know what stands on the
// axis.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include <Eigen/Core>

#include "analysis/evidence/agreement.h"
#include "analysis/evidence/axis.h"
#include "analysis/evidence/judged_run.h"
#include "analysis/evidence/machine_condition.h"
#include "analysis/evidence/evidence_wanted.h"
#include "analysis/evidence/uneven.h"
#include "analysis/evidence/failures_and_bounds.h"
#include "analysis/evidence/disturbance_filter.h"
#include "analysis/statistics/slowdown_correction.h"

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
  Eigen::ArrayXXd log_ms;    ///< x.size() rows, one column per block of the study; NaN where there is no run.
  Eigen::ArrayXXd order;     ///< Of the same shape: place of the run (or the mean of several) among all of the study.
  SlowdownTables slowdowns;  ///< How slow the machine was during the runs, above full speed.
  double full_speed_sd = 0;  ///< Standard deviation of full speed; 0 where slowdowns are not known.
  DisturbanceFilter::Kind probed_by;  ///< Whose probes tell that slowdown.
  /// By how much its costs may hold what other work on the machine added, log scale: its frames do not tell how long
  /// they waited for a core, and others did during that time. 0 where they tell, and where nobody waited.
  double load_uncertainty = 0;
  /// Of a series whose frames use several cores, one per place: by how much the cost there may be told too high, log
  /// scale, because others had those cores. Its threads then do one after the other what they do at once on free ones,
  /// and no waiting that is subtracted tells that. Empty where its frames use one.
  std::vector<double> taken_cores;
  /// Standard error of the whole series on the log scale where nothing was repeated and one is assumed; else nothing.
  std::optional<double> assumed_error;
  double between_processes_sd =
      0;  ///< Standard error assumed because its runs share the luck of one or two processes; 0 where they do not.
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
  Head head;                    ///< As it is on this axis.
  std::vector<JudgedRun> runs;  ///< In the order of the study.
  std::size_t processes = 0;    ///< Processes that made several blocks each; 0 where none did.
  std::size_t blocks_made = 0;  ///< Blocks with evidence.
  /// Numbers of the blocks, ascending; columns of every table. Neighbours are pooled beyond max_blocks_left_out.
  std::vector<int> blocks;
  std::vector<SeriesEvidence> series;  ///< In the order of the plan.
  std::vector<Agreement> agreements;   ///< One per series of the plan, as it was measured.
  MachineCondition quiet;
  std::vector<Failure> failures;
  std::vector<Bound> bounds;  ///< Ascending for each series and reason.
};

/// Puts runs on the axis, judges them by the slowdown of the whole study, and gathers the tables. Several runs of one
/// cell in one block are averaged on the log scale. Series without a run are excluded (their failures stay), and so
/// are those whose outcome differs from the reference's. A block that holds less than half as many of a series' cells
/// as its fullest one is excluded for that series. Where fewer than three processes made all blocks (process_blocks.h),
/// an error between processes is assumed. Throws Error as put_on_axis() does.
EvidenceSet gather_evidence(const Study& study, const EvidenceWanted& wanted = {});

}  // namespace mileage
