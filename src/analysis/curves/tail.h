// 99th percentile of frames on the machine as it was: the full-speed curve times a measured ratio.
#pragma once

#include <optional>
#include <vector>

#include "analysis/curves/series_curve.h"

namespace mileage {

/// Frames relative to their own run's typical frame at full speed, by place. Samples of several frames are excluded.
struct TailEvidence {
  struct Frame {
    int part;  ///< Of its run, in time order.
    float ratio;
  };
  struct Place {
    double x = 0;
    std::vector<Frame> frames;
  };
  std::vector<Place> places;  ///< Ascending.

  /// Within `tail_pooled_within` of x.
  std::size_t frames_near(double x) const;
};

TailEvidence gather_tail(const SeriesEvidence& evidence, const SeriesCurve& curve);

/// The curve times the 99th percentile of the pooled ratios near each place, read from a line over log place, so that
/// no place rests on its own ten slowest frames. The curve's common shift is not part of its uncertainty. Nothing
/// without enough frames. Averaging each run's 99th percentile would be biased downwards.
std::optional<SeriesCurve> tail_curve(const SeriesCurve& curve, const TailEvidence& tail);

}  // namespace mileage
