#include "figures/figures.h"

#include <algorithm>

#include <fmt/format.h>

#include "figures/look.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Pixels per bar, and around all bars.
constexpr int row_height = 64;
constexpr int beside_rows = 210;
/// Of the longest bar to the budget.
constexpr double budget_shown_from = 0.4;
/// For numbers after the bars.
constexpr double room_for_figures = 1.45;

struct Bar {
  std::string name;
  int rank = 0;
  const CostReading* cost = nullptr;
};

std::vector<Bar> bars_of(const Report& report) {
  std::vector<Bar> bars;
  for (const GroupCosts& group : report.costs.groups)
    for (std::size_t i = 0; i < group.members.size(); ++i)
      if (const auto& cost = group.places.front().costs[i].cost)
        bars.push_back({(group.conditions.empty() ? "" : group.conditions + ": ") + group.labels[i],
                        report.about.series[group.members[i]].rank, &*cost});
  return bars;
}

double longest_ms(const std::vector<Bar>& bars) {
  double longest = 0;
  for (const Bar& bar : bars) longest = std::max(longest, bar.cost->interval.high.value_or(bar.cost->ms));
  return longest;
}

std::string budget_line(const Report& report, double longest) {
  const double budget_ms = report.costs.budget_ms;
  if (longest < budget_shown_from * budget_ms) return {};
  return fmt::format(
      "set arrow 1 from {0},graph 0 to {0},graph 1 nohead lw 1.6 dt (14,6) lc rgb '{1}'\n"
      "set label 1000 {2} at {0},graph 1 center offset 0,0.7 textcolor rgb '{1}'\n",
      budget_ms, look::amber, gnuplot_text("budget " + ms_text(budget_ms)));
}

std::string bar_objects(const std::vector<Bar>& bars, double longest) {
  std::string script;
  for (std::size_t i = 0; i < bars.size(); ++i) {
    const Bar& bar = bars[i];
    const double y = static_cast<double>(bars.size() - i) - 0.5;
    const double low = bar.cost->interval.low.value_or(bar.cost->ms);
    const double high = bar.cost->interval.high.value_or(bar.cost->ms);
    script += fmt::format("set object {} rectangle from 0,{} to {},{} fc rgb '{}' fs solid 0.85 noborder\n", i + 1,
                          y - 0.28, bar.cost->ms, y + 0.28, look::mark_of(bar.rank).colour);
    script += fmt::format("set arrow {0} from {1},{3} to {2},{3} heads size {4},90 lw 2 lc rgb '{5}' front\n", i + 2,
                          low, high, y, 0.004 * longest, look::ink);
    script += fmt::format("set label {} {} at {},{} left offset 1.5,0 textcolor rgb '{}' front\n", i + 1,
                          gnuplot_text(with_range(bar.cost->ms, bar.cost->interval) + " ms"), high, y, look::ink);
  }
  return script;
}

std::string names_of(const std::vector<Bar>& bars) {
  std::string tics;
  for (std::size_t i = 0; i < bars.size(); ++i)
    tics += fmt::format("{}{} {}", i == 0 ? "" : ", ", gnuplot_text(bars[i].name),
                        static_cast<double>(bars.size() - i) - 0.5);
  return tics;
}

double names_margin(const std::vector<Bar>& bars) {
  std::size_t longest = 0;
  for (const Bar& bar : bars) longest = std::max(longest, bar.name.size());
  return 0.03 + 0.0068 * static_cast<double>(longest);
}

std::string bars_title(const Report& report) {
  return fmt::format("{}: time per frame at {}", report.about.head.scenario.name,
                     named_place(*report.about.only_place, report.about.axis));
}

}  // namespace

std::string bars_figure_script(const Report& report, FigureFormat format) {
  const std::vector<Bar> bars = bars_of(report);
  const double longest = longest_ms(bars);
  const double budget_ms = report.costs.budget_ms;
  const bool is_budget_shown = longest >= budget_shown_from * budget_ms;
  const double span = std::max(room_for_figures * longest, is_budget_shown ? 1.1 * budget_ms : 0.0);
  const int height = beside_rows + row_height * static_cast<int>(std::max<std::size_t>(bars.size(), 2));
  std::string script = gnuplot_terminal(format, height);
  script += fmt::format(
      "unset key\n"
      "set lmargin at screen {1}\nset rmargin at screen 0.975\nset tmargin at screen {2}\nset bmargin at screen {3}\n"
      "set xrange [0:{4}]\nset yrange [0:{5}]\nset ytics ({6}) scale 0\nset grid xtics lc rgb '{7}' lw 1 dt 1\n"
      "set xlabel {8} textcolor rgb '{0}'\nset title {9} font ',15' textcolor rgb '{0}' offset 0,1.2\n",
      look::ink, names_margin(bars), 1 - 110.0 / height, 80.0 / height, span, bars.size(), names_of(bars), look::rule,
      gnuplot_text(is_budget_shown ? "ms per frame, with 95 % intervals"
                                   : fmt::format("ms per frame, with 95 % intervals; the budget of {} is far "
                                                 "to the right",
                                                 ms_text(budget_ms))),
      gnuplot_text(bars_title(report)));
  return script + budget_line(report, longest) + bar_objects(bars, longest) + "plot NaN notitle\n";
}

}  // namespace mileage
