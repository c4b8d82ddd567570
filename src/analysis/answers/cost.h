// What a frame of every series costs at given places, and what that saves.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/parts.h"
#include "analysis/curves/reading.h"

namespace mileage {

struct Analysis;
struct Questions;

struct SeriesCost {
  std::size_t series = 0;                ///< Place among the series of the study.
  std::optional<CostReading> cost;       ///< Nothing where the series was not measured that far.
  double saves_ms = 0;                   ///< Against the first series of the group; negative when it costs more.
  double share = 1;                      ///< Takes this share of the time of the first series of the group.
  Interval share_interval;               ///< 95 %; open for the first series itself.
  std::optional<double> setup_ms;        ///< Set-up time there, between the points.
  std::optional<double> payback_frames;  ///< Frames until a dearer set-up than the first series' is earned back.
};

/// What a frame costs at one place.
struct PlaceCosts {
  double x = 0;
  std::vector<SeriesCost> costs;  ///< One per member of the group.
};

struct GroupCosts {
  std::string conditions;            ///< Empty when all series of the study share theirs.
  std::vector<std::size_t> members;  ///< Simplest first.
  std::vector<PlaceCosts> places;
};

struct CostAnswer {
  std::vector<GroupCosts> groups;
};

/// At the places asked for, or at a few round ones. `parts` of the same study tell set-up times.
CostAnswer cost_answer(const Analysis& analysis, const PartsAnswer& parts, const Questions& questions);

}  // namespace mileage
