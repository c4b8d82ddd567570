// Runs of a program that made several blocks each: visits of one process share its luck, so that its blocks repeat nothing.
#pragma once

#include <cstddef>

#include "study/study.h"

namespace mileage {

/// Fewer runs give no interval of their own.
inline constexpr std::size_t runs_for_an_interval = 3;

/// Runs that stand behind the blocks of a study; 0 where no run made more than one block.
std::size_t runs_of(const Study& study);

/// The study with all blocks of a run numbered as its first one, where that leaves runs_for_an_interval of them; as it is
/// otherwise.
Study told_by_runs(Study study);

}  // namespace mileage
