// Choice map: which variant wins over count and knob.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/choice.h"

namespace mileage {

/// One row per value of a knob, ascending.
struct ChoiceMap {
  std::string knob;
  struct Row {
    std::size_t group = 0;   ///< Index into the groups of the answer.
    std::string conditions;  ///< With the other conditions: "work 4, scatter 0.5".
  };
  std::vector<Row> rows;
  /// Ascending.
  std::vector<double> places;
};

/// One per knob in which groups differ, by name.
std::vector<ChoiceMap> choice_maps(const Analysis& analysis, const ChoiceAnswer& answer);

/// The first map if `knob` is empty. Throws Error (usage) if there is none.
const ChoiceMap& map_over(const std::vector<ChoiceMap>& maps, const std::string& knob);

}  // namespace mileage
