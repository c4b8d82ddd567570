// The measuring loop: a placing pass, then blocks of visits in shuffled order.
#pragma once

#include <functional>
#include <string>

#include "measure/clock.h"
#include "measure/runner.h"
#include "study/study.h"

namespace mileage {

/// How far a study is; told before each visit.
struct Progress {
  bool placing = false;     ///< In the placing pass, before the first block.
  int block = 0;            ///< Block in work, counted from 0.
  int blocks = 0;           ///< Blocks foreseen; 0 while it is not known.
  std::size_t done = 0;     ///< Visits made in this block or in the placing pass.
  std::size_t cells = 0;    ///< Visits of a whole block; 0 in the placing pass.
  double elapsed_s = 0;
  double left_s = 0;        ///< Time left as foreseen; 0 while it is not known.
  const Series* series = nullptr;
  std::int64_t count = 0;
};

/// What happens around the loop. Empty functions are left out.
struct Watch {
  std::function<void(const Visit&)> keep;         ///< Called with each visit as it is finished, failed ones too.
  std::function<void(const Progress&)> progress;  ///< Called before each visit.
  std::function<bool()> stop;                     ///< Asked before each visit; true ends the study cleanly.
};

struct Summary {
  int blocks = 0;  ///< Blocks finished as a whole.
  std::size_t kept = 0;
  std::size_t failed = 0;
  bool stopped = false;  ///< By the watch, before the plan was done.
  double elapsed_s = 0;
};

/// Measures a plan. First every series is placed: one short visit per count, upwards, until it is far over the budget
/// (twice it); counts beyond are left out for that series, and so are cells that fail. Then come the blocks: in each,
/// the counts in shuffled order, and at each count its series side by side in random order. All series of a count in a
/// block get the same seed. Blocks end after plan.blocks of them, or when another one would not fit into plan.time_s;
/// one at least is made. `keep` and `stop` may throw; nothing is lost then but the visit in work.
Summary measure_study(const Scenario& scenario, const Plan& plan, Runner& runner, Clock& clock, const Watch& watch);

}  // namespace mileage
