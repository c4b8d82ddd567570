#include "figures/figures.h"

#include <algorithm>

#include <fmt/format.h>

#include "figures/look.h"
#include "figures/tics.h"
#include "types/error.h"
#include "types/notation.h"
#include "views/views.h"
#include "views/words.h"

namespace mileage {
namespace {

constexpr int step_height = 74;
constexpr int beside_steps = 190;
/// Of the slowest rung to the budget.
constexpr double budget_in_sight = 0.3;

}  // namespace

std::string ladder_figure_script(const About& about, const LadderAnswer& answer, FigureFormat format) {
  double longest = 0;
  std::size_t longest_name = 0;
  for (const RungAt& rung : answer.rungs) {
    longest = std::max(longest, rung.cost.interval.high.value_or(rung.cost.ms));
    longest_name = std::max(longest_name, rung.name.size());
  }
  const auto rungs = static_cast<double>(answer.rungs.size());
  std::string script = gnuplot_terminal(format, beside_steps + step_height * static_cast<int>(answer.rungs.size()));
  std::string tics;
  for (std::size_t i = 0; i < answer.rungs.size(); ++i) {
    const RungAt& rung = answer.rungs[i];
    const double y = rungs - static_cast<double>(i) - 0.5;
    tics += fmt::format("{}{} {}", i == 0 ? "" : ", ", gnuplot_text(rung.name), y);
    const char* colour = rung.is_inconclusive ? look::faint_ink : look::marks[1].colour;
    script += fmt::format("set object {} rectangle from 0,{} to {},{} fc rgb '{}' fs solid 0.85 noborder\n", i + 1,
                          y - 0.28, rung.cost.ms, y + 0.28, colour);
    script += fmt::format("set arrow {} from {},{} to {},{} heads size {},90 lw 2 lc rgb '{}' front\n", i + 2,
                          rung.cost.interval.low.value_or(rung.cost.ms), y,
                          rung.cost.interval.high.value_or(rung.cost.ms), y, 0.004 * longest, look::ink);
    const std::string takes = rung.on_top ? fmt::format("   {} of the last", ratio_text(rung.on_top->takes)) : "";
    script += fmt::format("set label {} {} at {},{} left offset 1.5,0 textcolor rgb '{}' front\n", i + 1,
                          gnuplot_text(three_digits(rung.cost.ms) + " ms" + takes),
                          rung.cost.interval.high.value_or(rung.cost.ms), y, look::ink);
  }
  if (longest >= budget_in_sight * answer.budget_ms)
    script += fmt::format(
        "set arrow 1 from {0},graph 0 to {0},graph 1 nohead lw 1.6 dt (14,6) lc rgb '{1}' back\n"
        "set label 1000 {2} at {0},graph 1 center offset 0,0.7 textcolor rgb '{1}'\n",
        answer.budget_ms, look::amber, gnuplot_text("budget " + ms_text(answer.budget_ms)));
  return script +
         fmt::format(
             "set ytics ({1})\nset lmargin at screen {2}\nset rmargin at screen 0.975\nset tmargin at "
             "screen {3}\nset bmargin at screen {4}\nset xrange [0:{5}]\nset yrange [0:{6}]\nunset key\n"
             "set xlabel 'ms per frame, with 95 % intervals' textcolor rgb '{0}'\n"
             "set title {7} font ',15' textcolor rgb '{0}' offset 0,0.8\nplot -1 with lines\n",
             look::ink, tics, 0.03 + 0.0068 * static_cast<double>(longest_name), 0.82, 0.16,
             std::max(1.55 * longest, longest >= budget_in_sight * answer.budget_ms ? 1.1 * answer.budget_ms : 0),
             rungs,
             gnuplot_text(
                 fmt::format("{}: rung by rung at {}", about.head.scenario.name, named_place(answer.x, about.axis))));
}

std::string ladder_figure(const About& about, const LadderAnswer& answer, FigureFormat format) {
  if (answer.rungs.size() < 2)
    throw Error({.kind = FaultKind::usage,
                 .field = "figure",
                 .problem = "a ladder has two rungs at least",
                 .accepted = "a study of a ladder"});
  return run_gnuplot(ladder_figure_script(about, answer, format));
}

}  // namespace mileage
