// Frames that no single time describes: of two kinds, with rare dear ones, or slower and slower within a run.
#pragma once

#include <vector>

#include "analysis/evidence/judged_run.h"

namespace mileage {

/// How the frames of a series differ from their typical one.
enum class Unevenness {
  even,
  mixed,  ///< Some take far more than others: work put off to every n-th frame, or bursts.
  rising  ///< Each run ends far slower than it began.
};

/// Of the runs of one series, those that are evidence. Mixed where at some place the frames that exceed the typical one
/// add `uneven_beyond` to the mean (without the 1 % longest: rare spikes are no kind of frame), in most runs; climbing
/// where the last quarter of most runs takes `rise_ratio` times the first. Runs whose samples are of several frames
/// show neither. Places with few runs are judged together with their neighbours.
Unevenness unevenness_of(const std::vector<const JudgedRun*>& runs);

}  // namespace mileage
