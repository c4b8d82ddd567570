// What to use over count and knob: as a table and a figure.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/choice_map.h"
#include "views/answer.h"
#include "views/gnuplot.h"

namespace mileage {

/// A row for each value of the knob, a column for each place, and in it the variant to use there: "any" where no
/// difference pays off, "(over)" where none fits, empty where nothing was measured.
Answer choice_map_view(const About& about, const ChoiceAnswer& answer, const std::vector<ChoiceMap>& maps);

/// A band for each value of the knob, in the colour of the variant to use along the axis; pale where no difference pays
/// off or what was in use below was not measured, with the interval of every border. Throws Error (cannot write) when
/// gnuplot is missing.
std::string choice_map_figure(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                              FigureFormat format);
/// The script that draws it.
std::string choice_map_figure_script(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                                     FigureFormat format);

}  // namespace mileage
