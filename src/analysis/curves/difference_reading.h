// The difference of a pair read from the counts that both have measured around a place.
#pragma once

#include <optional>
#include <utility>
#include <vector>

#include "analysis/curves/difference.h"
#include "analysis/statistics/local_reading.h"

namespace mileage {

/// The difference as a parabola through the shared points in a window reads it, with all blocks and without each of
/// them. Refers to the pair, which must outlive it.
class WindowReading {
 public:
  /// Nothing where the window holds fewer than two shared points.
  static std::optional<WindowReading> of(const Pair& pair, const Window& window);

  /// Where the difference changes its sign, no farther outside the window than a local reading may go.
  std::optional<double> crossing(bool upward) const { return all_.crossing(0, upward); }
  double slope_at(double x) const { return all_.slope_at(x); }
  bool covers(double x) const { return x >= window_.min && x <= window_.max; }
  Difference at(double x) const;

  /// Half-width on the log scale that a crossing at x is bound to have by the noise of the runs, with this slope.
  double expected_width(double x, double slope) const;

  /// Where the difference is within its interval around a crossing. An end that lies outside the window, or outside
  /// what both have measured, is open.
  Interval not_clear(double crossing) const;

 private:
  WindowReading(const Pair& pair, const Window& window, LocalFit all)
      : pair_(&pair), window_(window), all_(std::move(all)) {}

  const Pair* pair_;
  Window window_;
  LocalFit all_;
  std::vector<LocalFit> without_;
};

}  // namespace mileage
