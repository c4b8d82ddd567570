// Where each way wins over count and knob: as a table, a figure and JSON.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/choice_map.h"
#include "study/study_json.h"
#include "views/gnuplot.h"
#include "views/text_table.h"

namespace mileage {

/// A row for each value of the knob, a column for each place, and in it the way to use there. "any" where no difference
/// is worth it, "(over)" where none fits, empty where nothing was measured.
TextTable choice_map_table(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map);

/// The table under a line that says what it shows; empty where the study has no map.
std::string choice_map_text(const About& about, const ChoiceAnswer& answer, const std::vector<ChoiceMap>& maps);

/// Adds rows "map".
void add_choice_map_json(Json& json, const About& about, const ChoiceAnswer& answer,
                         const std::vector<ChoiceMap>& maps);

/// A band for each value of the knob, in the colour of the way to use along the axis; pale where no difference is worth
/// it or what was in use below was not measured, with the interval of every border. Throws Error (cannot write) when
/// gnuplot is missing.
std::string choice_map_figure(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                              FigureFormat format);
/// The script that draws it.
std::string choice_map_figure_script(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                                     FigureFormat format);

}  // namespace mileage
