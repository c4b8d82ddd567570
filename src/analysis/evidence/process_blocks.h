// Processes that made several blocks each: runs of one process share its luck, so its blocks repeat
// nothing.
#pragma once

#include <cstddef>
#include <map>

#include "analysis/statistics/constants.h"
#include "study/study.h"

namespace mileage {

/// Blocks that share a process.
struct ProcessBlocks {
  std::map<int, int> first_block;  ///< For every block: the first of those that runs of the same process tie it to.
  std::size_t processes = 0;       ///< Processes behind the blocks; 0 where none made more than one block.

  /// Whether blocks of one process count as one: where that leaves min_processes_for_interval of them.
  bool are_merged() const { return processes >= min_processes_for_interval; }
  /// Too few processes to show what differs between them.
  bool are_few() const { return processes > 0 && !are_merged(); }
  /// The number that a block of the study has in the analysis.
  int block_of(int block) const;
};

ProcessBlocks find_process_blocks(const Study& study);

}  // namespace mileage
