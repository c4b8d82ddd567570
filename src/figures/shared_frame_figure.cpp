#include "figures/figures.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "figures/look.h"
#include "figures/tics.h"
#include "types/error.h"
#include "types/notation.h"
#include "views/views.h"
#include "views/words.h"

namespace mileage {
namespace {

constexpr int map_height = 800;

}  // namespace

std::string shared_frame_figure_script(const About& about, const SharedFrameAnswer& answer, FigureFormat format) {
  double x_from = HUGE_VAL, x_to = 0, y_from = HUGE_VAL, y_to = 0;
  std::string script = gnuplot_terminal(format, map_height), plots;
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    const SharedSeries& one = answer.series[i];
    const NamedSeries& named = about.series[one.series];
    const look::Mark mark = look::mark_of(named.rank);
    script += fmt::format("$map{} << END\n", i);
    for (const BesideOther& beside : one.map) {
      if (!beside.capacity.at) continue;
      const double at = *beside.capacity.at;
      script += fmt::format("{} {} {} {}\n", beside.other_x, at, beside.capacity.interval.low.value_or(at),
                            beside.capacity.interval.high.value_or(at));
      x_from = std::min(x_from, beside.other_x);
      x_to = std::max(x_to, beside.other_x);
      y_from = std::min(y_from, at);
      y_to = std::max(y_to, at);
    }
    script += "END\n";
    plots += fmt::format(
        "{0}$map{1} using 1:3:4 with filledcurves fc rgb '{2}' fs transparent solid 0.15 noborder notitle, "
        "$map{1} using 1:2 with linespoints lw 2 dt {3} pt {4} ps 1.1*scale lc rgb '{2}' title {5}",
        plots.empty() ? "" : ", ", i, mark.colour, 1 + named.of_variant, mark.point, gnuplot_text(named.label));
  }
  if (answer.other_at)
    script += fmt::format("set arrow 1 from {0},graph 0 to {0},graph 1 nohead lw 1.6 dt (14,6) lc rgb '{1}'\n",
                          *answer.other_at, look::amber);
  return script +
         fmt::format(
             "set logscale xy 10\n"
             "set grid xtics ytics lc rgb '{1}' lw 1 dt 1\n"
             "set lmargin at screen 0.1\nset rmargin at screen 0.975\nset tmargin at screen 0.92\nset bmargin "
             "at screen 0.09\nset xrange [{2}:{3}]\nset yrange [{4}:{5}]\nset xtics ({6})\nset ytics ({7})\n"
             "set key bottom left Left reverse samplen 3 spacing 1.15 textcolor rgb '{0}' opaque fc rgb '{8}'\n"
             "set xlabel {9} textcolor rgb '{0}'\nset ylabel {10} textcolor rgb '{0}' offset 1,0\n"
             "set title {11} font ',15' textcolor rgb '{0}'\nplot {12}\n",
             look::ink, look::rule, x_from / 1.15, x_to * 1.15, y_from / 1.5, y_to * 1.5,
             decade_tics(x_from / 1.15, x_to * 1.15, count_text),
             decade_tics(y_from / 1.5, y_to * 1.5, [&](double y) { return place_text(y, about.axis); }), look::paper,
             gnuplot_text(answer.other_things + " of " + answer.other),
             gnuplot_text(about.axis.things + " that fit next to them, with 95 % bands"),
             gnuplot_text(fmt::format("{} and {} in {}", about.head.scenario.name, answer.other_scenario,
                                      ms_text(answer.budget_ms))),
             plots);
}

bool has_map(const SharedFrameAnswer& answer) {
  return std::any_of(answer.series.begin(), answer.series.end(), [](const SharedSeries& one) {
    return std::count_if(one.map.begin(), one.map.end(),
                         [](const BesideOther& beside) { return beside.capacity.at.has_value(); }) > 1;
  });
}

std::string shared_frame_figure(const About& about, const SharedFrameAnswer& answer, FigureFormat format) {
  if (!has_map(answer))
    throw Error({.kind = FaultKind::usage,
                 .field = "map",
                 .problem = "no series has a capacity at two places of the other system",
                 .accepted = "studies that were measured up to the budget"});
  return run_gnuplot(shared_frame_figure_script(about, answer, format));
}

}  // namespace mileage
