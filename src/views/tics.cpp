#include "views/tics.h"

#include <cmath>

#include <fmt/format.h>

#include "views/gnuplot.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Ratio of the ends of an axis below which decades are too few labels.
constexpr double short_range = 100;

}  // namespace

std::string decade_tics(double from, double to, const std::function<std::string(double)>& word) {
  const bool is_short = to / from < short_range;
  const auto is_labelled = [&](int step) { return step == 1 || (is_short && (step == 2 || step == 5)); };
  std::string tics;
  for (double decade = std::pow(10.0, std::floor(std::log10(from))); decade <= to; decade *= 10)
    for (int step = 1; step < 10; ++step) {
      const double x = decade * step;
      if (x < from || x > to) continue;
      tics += fmt::format("{}{} {} {}", tics.empty() ? "" : ", ", is_labelled(step) ? gnuplot_text(word(x)) : "\"\"", x,
                          is_labelled(step) ? 0 : 1);
    }
  return tics;
}

std::string fine_tics(double from, double to) {
  std::string tics;
  for (double decade = std::pow(10.0, std::floor(std::log10(from))); decade <= to; decade *= 10)
    for (const int step : {1, 2, 5})
      if (const double y = decade * step; y >= from && y <= to)
        tics += fmt::format("{}{} {}", tics.empty() ? "" : ", ",
                            gnuplot_text(y < 1 ? fmt::format("{:g}", y) : count_text(y)), y);
  return tics;
}

}  // namespace mileage
