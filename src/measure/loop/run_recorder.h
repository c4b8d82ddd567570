// Makes the runs that the measuring loop orders, or takes them from an interrupted study, and keeps what they teach:
// the time used, the slowdown of the yardstick, and the study so far.
#pragma once

#include <optional>
#include <vector>

#include "analysis/evidence/disturbance_filter.h"
#include "measure/machine/clock.h"
#include "measure/loop/progress.h"
#include "measure/runners/runner.h"
#include "study/study.h"

namespace mileage {

/// What one run is for.
struct Order {
  Series series;  ///< As planned.
  Knobs varied;   ///< Knobs set otherwise, in a check.
  std::int64_t count = 0;
  int block = -1;
  RunStatus intended = RunStatus::kept;
  int min_frames = 20;
  double predicted_s = 0.5;  ///< Time that the run will take, from what was measured; sets its limit.
  int check_frames = 20;     ///< Of a check.
};

class RunRecorder {
 public:
  /// `made`: runs of the study so far, when it was interrupted; they are taken in their order before any is made. All
  /// arguments must outlive this object.
  RunRecorder(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock, const Watch& watch);

  /// The next run. What is known to the watch and what is not follows measure_study(). A run that its yardstick
  /// condemns comes back as `disturbed`. Throws Error (bad input) when an earlier run is not the one ordered.
  Run make(const Order& order, Progress& progress);

  /// Seconds after which a run is ended: 20 times what it is foreseen to take, 10 at least; of a study with a time at
  /// most a tenth of that, of one at a single count three tenths.
  double limit_s(const Order& order) const;
  /// Whether a run failed at that limit.
  bool ran_into_limit(const Order& order, const Run& run) const;

  /// Seconds that the study took so far, those before an interruption included.
  double elapsed_s() const;
  /// Seconds that the runs so far took, by what stands in them: the same when they are taken from an interrupted
  /// study, so that whatever is decided by it is decided alike.
  double runs_s() const;
  /// Whether runs from before an interruption are still to be taken.
  bool is_replaying() const { return next_made_ < made_.size(); }
  const DisturbanceFilter& judge() const { return judge_; }
  const Study& study() const { return study_; }

 private:
  RunRequest request_for(const Order& order) const;
  const Run& earlier_run(const Order& order);
  Run fresh_run(const Order& order, Progress& progress);

  const std::vector<Run>& made_;
  std::size_t next_made_ = 0;
  double made_before_s_ = 0;
  Runner& runner_;
  Clock& clock_;
  const Watch& watch_;
  DisturbanceFilter judge_;
  std::int64_t start_ns_;
  Study study_;
};

}  // namespace mileage
