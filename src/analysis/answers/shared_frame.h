// Shared frame: another system uses part of the frame. Capacity of each series over the other's count, and which to
// improve first.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/capacity.h"
#include "analysis/curves/reading.h"

namespace mileage {

struct Analysis;
struct Questions;

struct BesideOther {
  double other_x = 0;
  CostReading other;  ///< Frame time of the other system there.
  Capacity capacity;  ///< In the remaining budget; its interval includes both uncertainties.
};

/// Capacity at the place asked for: as is, and with one of the costs halved.
struct Improvement {
  std::optional<double> now;
  std::optional<double> own_halved;
  std::optional<double> other_halved;
};

struct SharedSeries {
  std::size_t series = 0;
  std::vector<BesideOther> map;  ///< Over the other's measured range while it leaves time.
  std::optional<BesideOther> asked;
  std::optional<Improvement> improve;
};

struct SharedFrameAnswer {
  double budget_ms = 0;
  std::string other;  ///< Label.
  std::string other_scenario;
  std::string other_things;  ///< What it counts.
  std::optional<double> other_at;
  std::vector<SharedSeries> series;  ///< Without floors.
};

struct OtherAsked {
  std::string variant;       ///< Or label; may be empty if it has one series.
  std::optional<double> at;  ///< Its count.
};

/// For the first budget, draw by draw; the studies are independent. Throws Error (usage) if the other system's series
/// is ambiguous, unknown or not measured there.
SharedFrameAnswer shared_frame_answer(const Analysis& analysis, const Analysis& other, const OtherAsked& asked,
                                      const Questions& questions);

}  // namespace mileage
