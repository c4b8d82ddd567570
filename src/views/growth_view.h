// The answer of `curve`: laws, exponents, knees, steps, points.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/growth.h"
#include "views/answer.h"

namespace mileage {

/// "48.5 ns x N", "0.79 us + 10.5 ns x N", "N^0.96", "48.5 ns x N, 1.8x steeper above 20k".
std::string law_text(const NamedLaw& law, const Axis& axis);
/// "1.8x steeper above 20k", "flat below 500".
std::string knee_text(double at, double slope_below, double slope_above, const Axis& axis);

/// Growth by series. Points are left to --more.
Answer growth_view(const About& about, const GrowthAnswer& answer);
/// Every measured count of every series.
Table points_table(const About& about, const GrowthAnswer& answer);

}  // namespace mileage
