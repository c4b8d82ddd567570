// What 99 % of frames stay below, of the machine as it was: the typical frame at full speed times a ratio that
// frames show to that.
#pragma once

#include <optional>
#include <vector>

#include "analysis/curves/curve.h"

namespace mileage {

/// Frames of one series as ratios to what their own run typically takes at full speed, pooled by place: slow
/// moments of the machine are in them, the luck of single runs is not. Samples of several frames carry no tail and
/// are excluded.
struct TailEvidence {
  struct Frame {
    int part;  ///< Of its run, which is split into as many as the study has blocks, one after the other.
    float ratio;
    float slowdown;  ///< How slow the machine was during its run, log scale.
  };
  struct Place {
    double x = 0;
    std::vector<Frame> frames;
  };
  std::vector<Place> places;  ///< Ascending.

  /// Frames of the places within `tail_pooled_within` of x.
  std::size_t frames_near(double x) const;
};

/// `adjustment`: of all runs of the series; `blocks`: those of the study, ascending.
TailEvidence gather_tail(const SeriesEvidence& evidence, const SlowdownCorrection& adjustment,
                         const std::vector<int>& blocks);

/// The curve of what 99 % of a series' frames stay below, over the places with enough frames near: cell means times the
/// 99 % point of the ratios pooled there, read from a straight line over log(place) through the places around, so that
/// no place rests on its own ten slowest frames. All of it without each block in turn, by one slope of the slowdown; of
/// the ratios, one part of each run is excluded instead: how slow the machine was in a block is what is known, and no
/// sample of it. That slope, full speed and its drift are in cost and ratio alike, and no uncertainty of this curve,
/// but for how far the runs of the slowest frames lie from the mean slowdown: so much of the slope's uncertainty stands
/// in its place_uncertainties, and how far the end pooled at a place deviates from that line. Nothing where no place
/// has enough frames. Averaging each run's own 99 % point instead is biased downwards.
std::optional<SeriesCurve> fit_tail(const SeriesEvidence& evidence, const SlowdownCorrection& adjustment,
                                    const TailEvidence& tail);

}  // namespace mileage
