// Makes the visits that the measuring loop orders, or takes them from an interrupted study, and keeps what they teach:
// the time used, the level of the yardstick, and the study so far.
#pragma once

#include <optional>
#include <vector>

#include "analysis/evidence/yardstick_judge.h"
#include "measure/machine/clock.h"
#include "measure/loop/progress.h"
#include "measure/runners/runner.h"
#include "study/study.h"

namespace mileage {

/// What one visit is for.
struct Order {
  Series series;  ///< As planned.
  Knobs varied;   ///< Knobs set otherwise, in a check.
  std::int64_t count = 0;
  int block = -1;
  VisitStatus intended = VisitStatus::kept;
  int least_frames = 20;
  double predicted_s = 0.5;  ///< Time that the visit will take, from what was measured; sets its limit.
  int check_frames = 20;     ///< Of a check.
};

class VisitRecorder {
 public:
  /// `made`: visits of the study so far, when it was interrupted; they are taken in their order before any is made. All
  /// arguments must outlive this object.
  VisitRecorder(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch);

  /// The next visit. What is told to the watch and what is not follows measure_study(). A visit that its yardstick
  /// condemns comes back as `disturbed`. Throws Error (bad input) when an earlier visit is not the one ordered.
  Visit make(const Order& order, Progress& progress);

  /// Seconds after which a visit is ended: 20 times what it is foreseen to take, 10 at least; of a study with a time at
  /// most a tenth of that, of one at a single count three tenths.
  double limit_s(const Order& order) const;
  /// Whether a visit failed at that limit.
  bool ran_into_limit(const Order& order, const Visit& visit) const;

  /// Seconds that the study took so far, those before an interruption included.
  double elapsed_s() const;
  /// Seconds that the visits so far took, by what stands in them: the same when they are taken from an interrupted
  /// study, so that whatever is decided by it is decided alike.
  double visits_s() const;
  /// Whether visits from before an interruption are still to be taken.
  bool is_replaying() const { return next_made_ < made_.size(); }
  const YardstickJudge& judge() const { return judge_; }
  const Study& study() const { return study_; }

 private:
  VisitRequest request_for(const Order& order) const;
  const Visit& earlier_visit(const Order& order);
  Visit fresh_visit(const Order& order, Progress& progress);

  const std::vector<Visit>& made_;
  std::size_t next_made_ = 0;
  double made_before_s_ = 0;
  Runner& runner_;
  Clock& clock_;
  const Watch& watch_;
  YardstickJudge judge_;
  std::int64_t start_ns_;
  Study study_;
};

}  // namespace mileage
