// What 99 % of frames stay below, of the machine as it was: the curve at full speed times a ratio that frames show to
// it.
#pragma once

#include <optional>
#include <vector>

#include "analysis/curves/series_curve.h"

namespace mileage {

/// Frames of one series as ratios to what their own run typically takes at full speed, pooled by place: slow moments of
/// the machine are in them, the luck of single runs is not. Samples of several frames carry no tail and are
/// excluded.
struct TailEvidence {
  struct Frame {
    int part;  ///< Of its run, which is split into several, one after the other.
    float ratio;
  };
  struct Place {
    double x = 0;
    std::vector<Frame> frames;
  };
  std::vector<Place> places;  ///< Ascending.

  /// Frames of the places within `tail_pooled_within` of x.
  std::size_t frames_near(double x) const;
};

TailEvidence gather_tail(const SeriesEvidence& evidence, const SeriesCurve& curve);

/// The curve of what 99 % of a series' frames stay below: the shape of its curve times the 99 % point of the ratios
/// pooled around a place, read from a straight line over log(place) through the places around, so that no place rests
/// on its own ten slowest frames. How far the curve lies too high or low as a whole is no uncertainty of it, since the
/// ratios are to its middle. Nothing where no place has enough frames. Averaging each run's own 99 % point instead is
/// biased downwards.
std::optional<SeriesCurve> tail_curve(const SeriesCurve& curve, const TailEvidence& tail);

}  // namespace mileage
