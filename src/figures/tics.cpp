#include "figures/tics.h"

#include <cmath>
#include <vector>

#include <fmt/format.h>

#include "figures/gnuplot.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Ratio of ends below which decades are too few labels.
constexpr double short_range = 100;
/// More are labelled in larger steps.
constexpr int max_decades = 12;

/// Powers of ten in the range, thinned to max_decades. None for axes that reach 0.
struct Decades {
  std::vector<double> powers;
  bool is_each = true;  ///< None is skipped.
};

Decades decades_within(double from, double to) {
  Decades decades;
  if (!(from > 0) || !std::isfinite(to)) return decades;
  const int first = static_cast<int>(std::floor(std::log10(from)));
  const int last = static_cast<int>(std::floor(std::log10(to)));
  const int step = (last - first) / max_decades + 1;
  decades.is_each = step == 1;
  for (int exponent = first; exponent <= last; exponent += step) decades.powers.push_back(std::pow(10.0, exponent));
  return decades;
}

}  // namespace

std::string decade_tics(double from, double to, const std::function<std::string(double)>& word) {
  const bool is_short = to / from < short_range;
  const auto is_labelled = [&](int step) { return step == 1 || (is_short && (step == 2 || step == 5)); };
  const Decades decades = decades_within(from, to);
  std::string tics;
  for (const double decade : decades.powers)
    for (int step = 1; step < (decades.is_each ? 10 : 2); ++step) {
      const double x = decade * step;
      if (x < from || x > to) continue;
      tics += fmt::format("{}{} {} {}", tics.empty() ? "" : ", ", is_labelled(step) ? gnuplot_text(word(x)) : "\"\"", x,
                          is_labelled(step) ? 0 : 1);
    }
  return tics;
}

std::string fine_tics(double from, double to) {
  const Decades decades = decades_within(from, to);
  std::string tics;
  for (const double decade : decades.powers)
    for (const int step : {1, 2, 5})
      if (const double y = decade * step; y >= from && y <= to && (step == 1 || decades.is_each))
        tics += fmt::format("{}{} {}", tics.empty() ? "" : ", ",
                            gnuplot_text(y < 1 ? fmt::format("{:g}", y) : count_text(y)), y);
  return tics;
}

}  // namespace mileage
