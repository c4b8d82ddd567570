// Runs of a program that made several blocks each: visits of one process share its luck, so that its blocks repeat
// nothing.
#pragma once

#include <cstddef>
#include <map>

#include "analysis/statistics/constants.h"
#include "study/study.h"

namespace mileage {

/// Which blocks share a run.
struct BlocksOfRuns {
  std::map<int, int> first_of_run;  ///< For every block: the first of those that visits of the same process tie it to.
  std::size_t runs = 0;             ///< Runs behind the blocks; 0 where no run made more than one.

  /// Whether blocks of one run count as one: where that leaves runs_for_an_interval of them.
  bool are_merged() const { return runs >= runs_for_an_interval; }
  /// Too few runs to show what differs between them.
  bool are_few() const { return runs > 0 && !are_merged(); }
  /// The number that a block of the study has in the analysis.
  int block_of(int block) const;
};

BlocksOfRuns blocks_of_runs(const Study& study);

}  // namespace mileage
