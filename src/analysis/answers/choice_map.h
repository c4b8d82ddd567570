// Choice map: where each way wins over count and knob.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/choice.h"

namespace mileage {

/// The choices of a study, one row for each value of a knob, ordered by it; other conditions that differ are kept
/// together.
struct ChoiceMap {
  std::string knob;  ///< Of the scenario.
  struct Row {
    std::size_t group = 0;   ///< Place among the groups of the answer.
    std::string conditions;  ///< "scatter 0.5", after what is held besides: "work 4, scatter 0.5".
  };
  std::vector<Row> rows;  ///< At least two.
  /// A few measured places along the axis, ascending.
  std::vector<double> places;
};

/// One for each knob of the scenario that the groups of the answer differ in, in the order of their names.
std::vector<ChoiceMap> choice_maps(const Analysis& analysis, const ChoiceAnswer& answer);

/// The map over a knob; over the first one where `knob` is empty. Throws Error (usage) where the study has no such map.
const ChoiceMap& map_over(const std::vector<ChoiceMap>& maps, const std::string& knob);

}  // namespace mileage
