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

constexpr int tuning_height = 800;

double number_of(const TunedValue& one) { return std::get<double>(one.values.front()); }

std::string costs_block(std::size_t index, const TunedAt& at) {
  std::string block = fmt::format("$costs{} << END\n", index);
  for (const TunedValue& one : at.values)
    block += fmt::format("{} {} {} {}\n", number_of(one), one.cost.ms, one.cost.interval.low.value_or(one.cost.ms),
                         one.cost.interval.high.value_or(one.cost.ms));
  return block + "END\n";
}

}  // namespace

std::string tuning_figure_script(const About& about, const TuningAnswer& answer, FigureFormat format) {
  double x_from = HUGE_VAL, x_to = 0, y_from = HUGE_VAL, y_to = 0;
  for (const TunedAt& at : answer.places)
    for (const TunedValue& one : at.values) {
      x_from = std::min(x_from, number_of(one));
      x_to = std::max(x_to, number_of(one));
      y_from = std::min(y_from, one.cost.interval.low.value_or(one.cost.ms));
      y_to = std::max(y_to, one.cost.interval.high.value_or(one.cost.ms));
    }
  // A log axis has no zero.
  const bool is_log = x_from > 0;
  x_from = is_log ? x_from / 1.3 : x_from - 0.05 * (x_to - x_from);
  x_to = is_log ? x_to * 1.3 : x_to + 0.05 * (x_to - x_from);
  y_from /= 1.4;
  y_to *= 1.4;
  std::string script = gnuplot_terminal(format, tuning_height), plots;
  for (std::size_t i = 0; i < answer.places.size(); ++i) {
    const TunedAt& at = answer.places[i];
    const look::Mark mark = look::mark_of(static_cast<int>(i));
    const double best_ms = at.values[at.best].cost.ms;
    script += costs_block(i, at);
    if (at.plateau)
      script += fmt::format("set arrow {0} from {1},{3} to {2},{3} nohead lw 7 lc rgb '{4}' back\n", i + 1,
                            std::max(x_from, std::get<double>(at.plateau->from) / 1.05),
                            std::min(x_to, std::get<double>(at.plateau->to) * 1.05), best_ms / 1.12, look::amber);
    plots += fmt::format(
        "{0}$costs{1} using 1:3:4 with filledcurves fc rgb '{2}' fs transparent solid 0.15 noborder notitle, "
        "$costs{1} using 1:2 with linespoints lw 2 pt {3} ps 1.1*scale lc rgb '{2}' title {4}",
        i == 0 ? "" : ", ", i, mark.colour, mark.point, gnuplot_text(named_place(at.x, about.axis)));
  }
  return script +
         fmt::format(
             "set logscale {13} 10\n"
             "set grid xtics ytics lc rgb '{1}' lw 1 dt 1\n"
             "set lmargin at screen 0.075\nset rmargin at screen 0.975\nset tmargin at screen 0.92\nset bmargin at "
             "screen 0.09\nset xrange [{2}:{3}]\nset yrange [{4}:{5}]\nset xtics {6}\nset ytics ({7})\n"
             "set key top center horizontal samplen 3 spacing 1.15 textcolor rgb '{0}' opaque fc rgb '{8}'\n"
             "set xlabel {9} textcolor rgb '{0}'\nset ylabel 'ms per frame, with 95 % bands' textcolor rgb "
             "'{0}' offset 1,0\nset title {10} font ',15' textcolor rgb '{0}'\nplot {11}, 1/0 with lines lw 7 lc rgb "
             "'{12}' title 'values within noise of the best'\n",
             look::ink, look::rule, x_from, x_to, y_from, y_to,
             is_log ? "(" + decade_tics(x_from, x_to, [](double x) { return fmt::format("{:g}", x); }) + ")"
                    : "autofreq",
             fine_tics(y_from, y_to), look::paper, gnuplot_text(answer.knobs.front()),
             gnuplot_text(fmt::format("{}: {} tuned", about.head.scenario.name, answer.knobs.front())), plots,
             look::amber, is_log ? "xy" : "y");
}

bool can_draw_tuning(const TuningAnswer& answer) {
  return !answer.places.empty() && answer.knobs.size() == 1 &&
         std::holds_alternative<double>(answer.places.front().values.front().values.front());
}

std::string tuning_figure(const About& about, const TuningAnswer& answer, FigureFormat format) {
  if (!can_draw_tuning(answer))
    throw Error({.kind = FaultKind::usage,
                 .field = "figure",
                 .problem = "a figure is of one knob with numbers",
                 .accepted = "a study over several values of one numeric knob"});
  return run_gnuplot(tuning_figure_script(about, answer, format));
}

}  // namespace mileage
