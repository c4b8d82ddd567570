// Shared frame: another system takes a part of the same frame. How far each series goes beside it, over how many the
// other one has, and which of both to improve first.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/capacity.h"
#include "analysis/curves/reading.h"

namespace mileage {

struct Analysis;
struct Questions;

/// How far a series goes beside this many of the other system.
struct BesideOther {
  double other_x = 0;
  CostReading other;  ///< What the other system takes of a frame there.
  Capacity capacity;  ///< In what it leaves of the budget; its interval holds both uncertainties.
};

/// What improving one of both would bring, at the place asked for.
struct Improvement {
  std::optional<double> now;           ///< The capacity beside the other system as both are,
  std::optional<double> own_halved;    ///< with half of its own cost,
  std::optional<double> other_halved;  ///< and with half of the other's.
};

struct SharedSeries {
  std::size_t series = 0;              ///< Place among the series of the study.
  std::vector<BesideOther> map;        ///< Over the measured range of the other system, as far as it leaves anything.
  std::optional<BesideOther> asked;    ///< At the place asked for.
  std::optional<Improvement> improve;  ///< Where a place was asked for.
};

struct SharedFrameAnswer {
  double budget_ms = 0;
  std::string other;                 ///< Label of the other system's series,
  std::string other_scenario;        ///< its scenario,
  std::string other_things;          ///< and what it counts.
  std::optional<double> other_at;    ///< The place asked for.
  std::vector<SharedSeries> series;  ///< Floors are excluded.
};

/// What is asked of the other system.
struct OtherAsked {
  std::string variant;       ///< Or label; may be empty where it has one series.
  std::optional<double> at;  ///< How many it has.
};

/// In the first budget asked for. The studies are independent: an end of a capacity's interval is read where the other
/// system takes the other end of its own, which is wider than 95 %. Throws Error (usage) where the other system has
/// several series and none of them, or more than one, is called so, and where it was not measured at the place.
SharedFrameAnswer shared_frame_answer(const Analysis& analysis, const Analysis& other, const OtherAsked& asked,
                                      const Questions& questions);

}  // namespace mileage
