// Log-axis tics for gnuplot.
#pragma once

#include <functional>
#include <string>

namespace mileage {

/// Decades labelled; over a short range others, too.
std::string decade_tics(double from, double to, const std::function<std::string(double)>& word);
/// Labels at 1, 2 and 5.
std::string fine_tics(double from, double to);

}  // namespace mileage
