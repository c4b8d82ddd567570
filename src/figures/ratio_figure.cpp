#include "figures/figures.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "types/error.h"
#include "figures/look.h"
#include "figures/tics.h"
#include "views/words.h"

namespace mileage {
namespace {

constexpr int ratio_height = 800;
/// Open ends, log scale: beyond the plot.
constexpr double open_end = 1e3;

struct Span {
  double x_from = HUGE_VAL, x_to = 0, y_from = 1, y_to = 1;
};

Span span_of(const std::vector<SeriesAgainst>& answer) {
  Span span;
  for (const SeriesAgainst& one : answer)
    for (const SeriesAgainst::Place& place : one.places) {
      span.x_from = std::min(span.x_from, place.x);
      span.x_to = std::max(span.x_to, place.x);
      span.y_from = std::min(span.y_from, place.interval.low.value_or(place.share));
      span.y_to = std::max(span.y_to, place.interval.high.value_or(place.share));
    }
  return {span.x_from / 1.15, span.x_to * 1.15, span.y_from / 1.3, span.y_to * 1.3};
}

/// "place ratio low high".
std::string shares_block(std::size_t index, const SeriesAgainst& one) {
  std::string block = fmt::format("$shares{} << END\n", index);
  for (const SeriesAgainst::Place& place : one.places)
    block += fmt::format("{} {} {} {}\n", place.x, place.share, place.interval.low.value_or(place.share / open_end),
                         place.interval.high.value_or(place.share * open_end));
  return block + "END\n";
}

std::string plot_of_shares(const About& about, std::size_t index, const SeriesAgainst& one) {
  const NamedSeries& series = about.series[one.series];
  const look::Mark mark = look::mark_of(series.rank);
  return fmt::format(
      "$shares{0} using 1:3:4 with filledcurves fc rgb '{1}' fs transparent solid 0.15 noborder notitle, "
      "$shares{0} using 1:2 with linespoints lw 2 dt {2} pt {3} ps 1.1*scale lc rgb '{1}' title {4}",
      index, mark.colour, 1 + series.of_variant, mark.point, gnuplot_text(series.label));
}

}  // namespace

std::string ratio_figure_script(const About& about, const std::vector<SeriesAgainst>& answer, FigureFormat format) {
  const Span span = span_of(answer);
  std::string script = gnuplot_terminal(format, ratio_height);
  for (std::size_t i = 0; i < answer.size(); ++i) script += shares_block(i, answer[i]);
  script += fmt::format(
      "set logscale xy 10\n"
      "set grid xtics ytics lc rgb '{1}' lw 1 dt 1\n"
      "set lmargin at screen 0.075\nset rmargin at screen 0.975\nset tmargin at screen 0.92\nset bmargin at screen "
      "0.09\n"
      "set xrange [{2}:{3}]\nset yrange [{4}:{5}]\nset xtics ({6})\nset ytics ({7})\n"
      "set key bottom left Left reverse samplen 3 spacing 1.15 textcolor rgb '{0}' opaque fc rgb '{8}'\n"
      "set xlabel {9} textcolor rgb '{0}'\nset ylabel 'share of its time, with 95 % bands' textcolor rgb '{0}' offset "
      "1,0\n"
      "set title {10} font ',15' textcolor rgb '{0}'\n",
      look::ink, look::rule, span.x_from, span.x_to, span.y_from, span.y_to,
      decade_tics(span.x_from, span.x_to, [&](double x) { return place_text(x, about.axis); }),
      fine_tics(span.y_from, span.y_to), look::paper, gnuplot_text(about.axis.things),
      gnuplot_text(
          fmt::format("{}: time relative to {}", about.head.scenario.name, about.label(answer.front().against))));
  script += "plot ";
  for (std::size_t i = 0; i < answer.size(); ++i) script += plot_of_shares(about, i, answer[i]) + ", \\\n  ";
  return script + fmt::format("1 with lines lw 1.6 dt (14,6) lc rgb '{}' title {}\n", look::amber,
                              gnuplot_text("equal to " + about.label(answer.front().against)));
}

bool has_ratios(const std::vector<SeriesAgainst>& answer) {
  return std::any_of(answer.begin(), answer.end(), [](const SeriesAgainst& one) { return one.places.size() > 1; });
}

std::string ratio_figure(const About& about, const std::vector<SeriesAgainst>& answer, FigureFormat format) {
  if (!has_ratios(answer))
    throw Error({.kind = FaultKind::usage,
                 .field = "figure",
                 .problem = "no two variants share two counts",
                 .accepted = "a study of several variants at several counts; at one count: mileage report --figure"});
  return run_gnuplot(ratio_figure_script(about, answer, format));
}

}  // namespace mileage
