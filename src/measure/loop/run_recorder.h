// Makes the runs that the loop orders, or takes them from an interrupted study; tracks time, slowdown and the study so
// far.
#pragma once

#include <optional>
#include <vector>

#include "analysis/evidence/disturbance_filter.h"
#include "measure/machine/clock.h"
#include "measure/loop/progress.h"
#include "measure/runners/runner.h"
#include "study/study.h"

namespace mileage {

struct Order {
  Series series;  ///< As planned.
  Knobs varied;   ///< Changed in a check.
  std::int64_t count = 0;
  int block = -1;
  RunStatus intended = RunStatus::kept;
  int min_frames = 20;
  double predicted_s = 0.5;  ///< Sets the limit.
  int check_frames = 20;     ///< Of a check.
};

class RunRecorder {
 public:
  /// `made`: runs of an interrupted study, taken in order first. Arguments must outlive it.
  RunRecorder(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock, const Watch& watch);

  /// A run discarded by its yardstick is `disturbed`. Callbacks as in measure_study(). Throws Error (bad input) if an
  /// earlier run is not the one ordered.
  Run make(const Order& order, Progress& progress);

  /// 20 times the predicted time, at least 10 s; with a study time at most a tenth of it (three tenths at one count).
  double limit_s(const Order& order) const;
  bool ran_into_limit(const Order& order, const Run& run) const;

  /// Including time before an interruption.
  double elapsed_s() const;
  /// From the runs' own times, so that a resumed study decides alike.
  double runs_s() const;
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
