#include "figures/figures.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>

#include "figures/look.h"
#include "figures/tics.h"
#include "types/notation.h"
#include "views/views.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Pixels around the bands, and per band.
constexpr int frame_height = 200;
constexpr int band_height = 110;
constexpr int min_height = 420;
/// Bands are at 1, 2, 3 ...
constexpr double half_band = 0.36;

std::string box(int number, const ChosenStretch& stretch, double y, const char* colour) {
  return fmt::format("set object {} rect from {},{} to {},{} fc rgb '{}' fs transparent solid {} noborder behind\n",
                     number, stretch.from, y - half_band, stretch.to, y + half_band, colour,
                     stretch.matters && !stretch.alone && !stretch.not_measured ? 0.8 : 0.25);
}

/// Nothing fits from here.
std::string budget_mark(double y, double x) {
  return fmt::format("set arrow from {0},{1} to {0},{2} nohead lw 3 lc rgb '{3}' front\n", x, y - half_band - 0.06,
                     y + half_band + 0.06, look::amber);
}

/// Place, band, low, high; closed intervals only.
std::string borders_block(const ChoiceAnswer& answer, const ChoiceMap& map) {
  std::string block = "$borders << END\n";
  for (std::size_t row = 0; row < map.rows.size(); ++row)
    for (const ChosenStretch& stretch : answer.groups[map.rows[row].group].stretches)
      if (stretch.from_interval.closed())
        block += fmt::format("{} {} {} {}\n", stretch.from, row + 1, *stretch.from_interval.low,
                             *stretch.from_interval.high);
  return block + "END\n";
}

}  // namespace

std::string choice_map_figure_script(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                                     FigureFormat format) {
  const int rows = static_cast<int>(map.rows.size());
  const int height = std::max(min_height, frame_height + band_height * rows);
  std::string script = gnuplot_terminal(format, height), bands, tics, keys;
  double from = HUGE_VAL, to = 0;
  int boxes = 0;
  std::set<std::size_t> used;
  for (int row = 0; row < rows; ++row) {
    const ChoiceMap::Row& one = map.rows[static_cast<std::size_t>(row)];
    tics += fmt::format("{}{} {}", tics.empty() ? "" : ", ", gnuplot_text(one.conditions), row + 1);
    bool fits = true;
    for (const ChosenStretch& stretch : answer.groups[one.group].stretches) {
      bands += box(++boxes, stretch, row + 1, look::mark_of(about.series[stretch.use].rank).colour);
      if (!stretch.fits && fits) bands += budget_mark(row + 1, stretch.from);
      fits = stretch.fits;
      from = std::min(from, stretch.from);
      to = std::max(to, stretch.to);
      used.insert(stretch.use);
    }
  }
  std::set<int> ranks;
  for (const std::size_t series : used) {
    const NamedSeries& named = about.series[series];
    if (!ranks.insert(named.rank).second) continue;
    keys += fmt::format("NaN with points pt 5 ps 2.2*scale lc rgb '{}' title {}, ", look::mark_of(named.rank).colour,
                        gnuplot_text(named.series.variant));
  }
  return script + borders_block(answer, map) + bands +
         fmt::format(
             "set logscale x 10\nset grid xtics lc rgb '{1}' lw 1 dt 1\n"
             "set lmargin at screen 0.13\nset rmargin at screen 0.975\nset tmargin at screen {2}\n"
             "set bmargin at screen {3}\nset xrange [{4}:{5}]\nset yrange [0.45:{6}]\nset xtics ({7})\n"
             "set ytics ({8})\nset key above Left reverse samplen 1 textcolor rgb '{0}'\n"
             "set xlabel {9} textcolor rgb '{0}'\nset title {10} font ',15' textcolor rgb '{0}'\n"
             "plot {11}$borders using 1:2:3:4 with xerrorbars lw 2.4 pt 7 ps 0.9*scale lc rgb '{0}' title "
             "'border, with its 95 % interval', NaN with points pt 5 ps 2.2*scale lc rgb '{1}' title 'pale: "
             "inconclusive', NaN with lines lw 3 lc rgb '{12}' title {13}\n",
             look::ink, look::rule, 1 - 105.0 / height, 75.0 / height, from / 1.05, to * 1.05, rows + 0.55,
             decade_tics(from / 1.05, to * 1.05, [&](double x) { return place_text(x, about.axis); }), tics,
             gnuplot_text(about.axis.things),
             gnuplot_text(fmt::format("{}: which variant to use over {} and {}", about.head.scenario.name,
                                      about.axis.things, map.knob)),
             keys, look::amber, gnuplot_text("over " + ms_text(answer.budget_ms) + " from here on"));
}

std::string choice_map_figure(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                              FigureFormat format) {
  return run_gnuplot(choice_map_figure_script(about, answer, map, format));
}

}  // namespace mileage
