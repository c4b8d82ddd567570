// Tics of logarithmic axes, as gnuplot takes them. Axes of many decades skip some; one that is not above zero has none.
#pragma once

#include <functional>
#include <string>

namespace mileage {

/// Labelled tics at the decades and unlabelled ones between them; over a short range some of those have labels too.
std::string decade_tics(double from, double to, const std::function<std::string(double)>& word);
/// Labelled tics at 1, 2 and 5 of every decade.
std::string fine_tics(double from, double to);

}  // namespace mileage
