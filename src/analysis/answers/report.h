// All answers of a study.
#pragma once

#include <optional>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/against.h"
#include "analysis/answers/arrivals.h"
#include "analysis/answers/break_even.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/choice.h"
#include "analysis/answers/choice_map.h"
#include "analysis/answers/cost.h"
#include "analysis/answers/frames.h"
#include "analysis/answers/growth.h"
#include "analysis/answers/ladder.h"
#include "analysis/answers/limits.h"
#include "analysis/answers/parts.h"
#include "analysis/answers/questions.h"
#include "analysis/answers/sampled_curves.h"
#include "analysis/answers/shared_frame.h"
#include "analysis/answers/tuning.h"

namespace mileage {

struct Report {
  About about;
  CapacityAnswer capacities;
  ArrivalsAnswer arrivals;
  BreakEvenAnswer break_evens;
  CostAnswer costs;
  ChoiceAnswer choices;
  std::vector<ChoiceMap> maps;
  GrowthAnswer growth;
  PartsAnswer parts;
  LimitsAnswer limits;
  std::optional<SharedFrameAnswer> next_to_rest;  ///< If the rest of the frame was named; not filled by report_of.
  FramesAnswer frames;
  TuningAnswer tuning;
  LadderAnswer ladder;
  std::vector<SeriesAgainst> ratios;              ///< Relative to the slowest variant, for figures.
  std::vector<std::vector<SampledPoint>> curves;  ///< By series, for figures.
};

Report report_of(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
