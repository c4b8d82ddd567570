// Frames that no single time describes: of two kinds, rare but expensive, or slower and slower within a run.
#pragma once

#include <vector>

#include "analysis/evidence/judged_run.h"

namespace mileage {

enum class Unevenness {
  even,
  mixed,  ///< Some take far longer: work deferred to every n-th frame, or bursts.
  rising  ///< Runs end far slower than they begin.
};

/// Mixed: at some place, in most runs, the mean exceeds the typical frame by `uneven_beyond` without the longest 1 %.
/// Rising: the last quarter of most runs takes `rise_ratio` times the first. Places with few runs are pooled with their
/// neighbours.
Unevenness unevenness_of(const std::vector<const JudgedRun*>& runs);

}  // namespace mileage
