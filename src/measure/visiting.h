// Makes the visits that the measuring loop orders, or takes them from an earlier run, and keeps what they teach: the time
// used, the level of the yardstick, and the study so far.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "analysis/evidence/yardstick_judge.h"
#include "measure/clock.h"
#include "measure/runner.h"
#include "study/study.h"

namespace mileage {

/// How far a study is; told before each visit.
struct Progress {
  bool checking = false;    ///< In the checks of outcomes, before everything else.
  bool placing = false;     ///< In the placing pass, before the first block.
  bool repeating = false;   ///< Visiting again what the yardstick condemned.
  int block = 0;            ///< Block in work, counted from 0.
  int blocks = 0;           ///< Blocks foreseen, the last one perhaps in part.
  std::size_t done = 0;     ///< Visits made in this block or pass.
  std::size_t cells = 0;    ///< Visits of a whole block; 0 in the placing pass.
  double elapsed_s = 0;
  double left_s = 0;        ///< Time left as foreseen; 0 while it is not known.
  std::optional<double> reached;  ///< Relative half-width of the goal's widest interval so far.
  const Series* series = nullptr;
  std::int64_t count = 0;
};

/// What happens around the loop. Empty functions are left out.
struct Watch {
  std::function<void(const Visit&)> keep;         ///< Called with each visit as it is finished, failed ones too.
  std::function<void(const Progress&)> progress;  ///< Called before each visit.
  std::function<bool()> stop;                     ///< Asked before each visit; true ends the study cleanly.
};

/// What one visit is for.
struct Order {
  Series series;  ///< As planned.
  Knobs varied;   ///< Knobs set otherwise, in a check.
  std::int64_t count = 0;
  int block = -1;
  VisitStatus intended = VisitStatus::kept;
  int least_frames = 20;
  bool patient = false;      ///< Whether to wait for a quiet moment.
  double predicted_s = 0.5;  ///< Time that the visit will take, from what was measured; sets its limit.
};

class Visiting {
 public:
  /// `made`: visits of an earlier, interrupted run; they are taken in their order before any is made. All arguments must
  /// outlive this object.
  Visiting(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch);

  /// The next visit. What is told to the watch and what is not follows measure_study(). A condemned visit comes back as
  /// `repeated`. Throws Error (bad input) when an earlier visit is not the one ordered.
  Visit make(const Order& order, Progress& progress);

  /// Seconds that the study took so far, those of an earlier run included.
  double elapsed_s() const;
  /// Seconds that the visits so far took, by what stands in them: the same when they are taken from an earlier run, so that
  /// whatever is decided by it is decided alike.
  double visits_s() const;
  /// Whether visits of an earlier run are still to be taken.
  bool is_replaying() const { return next_made_ < made_.size(); }
  const YardstickJudge& judge() const { return judge_; }
  const Study& study() const { return study_; }

 private:
  VisitRequest request_for(const Order& order) const;
  /// How long a visit of so many seconds may wait for a quiet moment.
  double patience_s(double visit_s) const;
  const Visit& earlier_visit(const Order& order);
  Visit fresh_visit(const Order& order, Progress& progress);

  const std::vector<Visit>& made_;
  std::size_t next_made_ = 0;
  double made_before_s_ = 0;
  double waited_s_ = 0;
  Runner& runner_;
  Clock& clock_;
  const Watch& watch_;
  YardstickJudge judge_;
  std::int64_t start_ns_;
  Study study_;
};

}  // namespace mileage
