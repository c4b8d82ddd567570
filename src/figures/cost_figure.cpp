#include "figures/figures.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "types/text.h"
#include "figures/gnuplot.h"
#include "figures/look.h"
#include "figures/tics.h"
#include "views/words.h"

namespace mileage {
namespace {

/// For the axis below the strips.
constexpr double strip_bottom = 0.09;
/// Of the plot per entity.
constexpr double each_height = 0.24;

/// Of the upper plot: width, and height per line.
constexpr double key_width = 0.25;
constexpr double key_line = 0.06;
/// Budget, capacity, break-even.
constexpr std::size_t key_lines_besides = 3;
/// Of a key above the plot, and height per line.
constexpr std::size_t key_columns = 4;
constexpr double line_above = 0.025;

/// Range of the axes.
struct Frame2D {
  double x_from, x_to, y_from, y_to;

  double share_of_width(double x) const { return std::log(x / x_from) / std::log(x_to / x_from); }
  double share_of_height(double ms) const { return std::log(ms / y_from) / std::log(y_to / y_from); }
};

Frame2D frame_of(const Report& report) {
  Frame2D frame{HUGE_VAL, 0, HUGE_VAL, 0};
  for (const SeriesGrowth& series : report.growth.series)
    for (const CurvePoint& point : series.points) {
      frame.x_from = std::min(frame.x_from, point.x);
      frame.x_to = std::max(frame.x_to, point.x);
      frame.y_from = std::min(frame.y_from, point.interval.low.value_or(point.ms));
      frame.y_to = std::max(frame.y_to, point.interval.high.value_or(point.ms));
    }
  for (const CapacityBound& bound : report.capacities.bounds) {
    frame.x_from = std::min(frame.x_from, bound.at_least);
    frame.x_to = std::max(frame.x_to, bound.at_least);
  }
  frame.y_to = std::max(frame.y_to, 1.3 * report.capacities.budgets_ms.front());
  return {frame.x_from / 1.25, frame.x_to * 1.25, frame.y_from / 1.7, frame.y_to * 2.4};
}

int height_of(std::size_t strips) { return 930 + 46 * static_cast<int>(strips > 1 ? strips - 1 : 0); }

std::string shared_settings(const Frame2D& frame, const Axis& axis) {
  return fmt::format(
      "set logscale x 10\n"
      "set xrange [{1}:{2}]\nset xtics ({3})\n",
      look::ink, frame.x_from, frame.x_to,
      decade_tics(frame.x_from, frame.x_to, [&](double x) { return place_text(x, axis); }));
}

std::string points_block(std::size_t index, const SeriesGrowth& series) {
  std::string block = fmt::format("$points{} << END\n", index);
  for (const CurvePoint& point : series.points)
    block += fmt::format("{} {} {} {}\n", point.x, point.ms, point.interval.low.value_or(point.ms),
                         point.interval.high.value_or(point.ms));
  return block + "END\n";
}

std::string curve_block(std::size_t index, const std::vector<SampledPoint>& curve) {
  std::string block = fmt::format("$curve{} << END\n", index);
  for (const SampledPoint& point : curve) block += fmt::format("{} {}\n", point.x, point.ms);
  return block + "END\n";
}

/// For the first budget, ascending.
std::vector<const Capacity*> capacities_shown(const Report& report) {
  std::vector<const Capacity*> shown;
  for (const SeriesCapacity& one : report.capacities.capacities)
    if (one.capacity.budget_ms == report.capacities.budgets_ms.front() && one.capacity.at)
      shown.push_back(&one.capacity);
  std::sort(shown.begin(), shown.end(), [](const Capacity* a, const Capacity* b) { return *a->at < *b->at; });
  return shown;
}

/// "x y low high label label-height"; close labels are stacked.
std::string capacities_block(const Report& report, const Frame2D& frame) {
  std::string block = "$capacities << END\n";
  const double one_line = std::pow(frame.y_to / frame.y_from, 0.056);
  const double label_width = std::pow(frame.x_to / frame.x_from, 0.055);
  double previous = 0;
  int line = 0;
  for (const Capacity* one : capacities_shown(report)) {
    line = *one->at < previous * label_width ? line + 1 : 0;
    previous = *one->at;
    block += fmt::format("{} {} {} {} {} {}\n", *one->at, one->budget_ms, one->interval.low.value_or(*one->at),
                         one->interval.high.value_or(*one->at), place_text(*one->at, report.about.axis),
                         one->budget_ms * std::pow(one_line, 1 + line));
  }
  return block + "END\n";
}

std::string break_evens_block(const Report& report) {
  std::string block = "$breakevens << END\n";
  for (const ComparedPair& pair : report.break_evens.pairs)
    for (const BreakEven& one : pair.answer.break_evens)
      block += fmt::format("{} {} {}\n", one.at, one.ms, place_text(one.at, report.about.axis));
  return block + "END\n";
}

/// From capped recordings that held the budget.
std::string bound_arrows(const Report& report) {
  std::string arrows;
  int number = 1;
  for (const CapacityBound& bound : report.capacities.bounds) {
    if (bound.budget_ms != report.capacities.budgets_ms.front()) continue;
    arrows += fmt::format(
        "set arrow {0} from {1},{2} to {3},{2} head filled lw 2.5 lc rgb '{4}' front\n"
        "set label {0} {5} at {1},{2} right offset -0.6,{6} font ',11' textcolor rgb '{4}' front\n",
        number, bound.at_least, bound.budget_ms, bound.at_least * 1.2, look::amber,
        gnuplot_text(fmt::format("{}: at least {}", bound.label, place_text(bound.at_least, report.about.axis))),
        0.7 * number);
    ++number;
  }
  return arrows;
}

bool has_rows(const std::string& block) { return std::count(block.begin(), block.end(), '\n') > 2; }

std::string plot_of_series(std::size_t index, const NamedSeries& series) {
  const look::Mark mark = look::mark_of(series.rank);
  const int dash = 1 + series.of_variant;
  return fmt::format(
      "$curve{0} using 1:2 with lines lw 2 dt {1} lc rgb '{2}' notitle, "
      "$points{0} using 1:2:3:4 with yerrorbars pt {3} ps 1.1*scale lw 1.2 lc rgb '{2}' notitle, "
      "NaN with linespoints lw 2 dt {1} pt {3} ps 1.1*scale lc rgb '{2}' title {4}",
      index, dash, mark.colour, mark.point, gnuplot_text(series.label));
}

std::string plot_command(const Report& report, const std::string& capacities, const std::string& break_evens) {
  std::string command = "plot ";
  for (std::size_t i = 0; i < report.about.series.size(); ++i)
    command += plot_of_series(i, report.about.series[i]) + ", \\\n  ";
  command += fmt::format("{} with lines lw 1.6 dt (14,6) lc rgb '{}' title {}", report.capacities.budgets_ms.front(),
                         look::amber, gnuplot_text("budget " + ms_text(report.capacities.budgets_ms.front())));
  if (has_rows(capacities))
    command += fmt::format(
        ", \\\n  $capacities using 1:2 with impulses lw 1 dt 3 lc rgb '{0}' notitle"
        ", \\\n  $capacities using 1:2:3:4 with xerrorbars pt 13 ps 1.8*scale lw 2 lc rgb '{0}' title 'capacity'"
        ", \\\n  $capacities using 1:6:5 with labels font ',11' textcolor rgb '{0}' notitle",
        look::amber);
  if (has_rows(break_evens))
    command += fmt::format(
        ", \\\n  $breakevens using 1:2 with points pt 6 ps 2.2*scale lw 2.2 lc rgb '{0}' title 'break-even'"
        ", \\\n  $breakevens using 1:2:3 with labels offset 2.6,-0.9 font ',11' textcolor rgb '{0}' notitle",
        look::amber);
  return command + "\n";
}

std::string title_of(const Report& report) {
  const bool optimized = !report.about.head.scenario.build.known || report.about.head.scenario.build.optimized;
  return fmt::format("{}: time per frame over {}{}", report.about.head.scenario.name, report.about.axis.things,
                     optimized ? "" : "  (built without optimization)");
}

/// For the names of strips.
double left_margin(const Report& report) {
  std::size_t longest = 0;
  for (const GroupChoice& group : report.choices.groups) longest = std::max(longest, group.conditions.size());
  return std::max(0.075, 0.02 + 0.0057 * static_cast<double>(longest));
}

std::string blocks_of_series(const Report& report) {
  std::string blocks;
  for (std::size_t i = 0; i < report.about.series.size(); ++i)
    blocks += points_block(i, report.growth.series[i]) + curve_block(i, report.curves[i]);
  return blocks;
}

/// 0 if a key inside hides no curves.
std::size_t key_lines_above(const Report& report, const Frame2D& frame) {
  const std::size_t lines = report.about.series.size() + key_lines_besides;
  const double height = key_line * static_cast<double>(lines);
  for (const std::vector<SampledPoint>& curve : report.curves)
    for (const SampledPoint& point : curve)
      if (frame.share_of_width(point.x) > 1 - key_width && frame.share_of_height(point.ms) < height)
        return (lines + key_columns - 1) / key_columns;
  return 0;
}

std::string upper_plot(const Report& report, const Frame2D& frame, double bottom) {
  const std::size_t above = key_lines_above(report, frame);
  const std::string key = above > 0 ? fmt::format("above maxcols {}", key_columns) : "bottom right";
  std::string script = blocks_of_series(report);
  const std::string capacities = capacities_block(report, frame);
  const std::string break_evens = break_evens_block(report);
  script += capacities + break_evens + bound_arrows(report);
  script += fmt::format(
      "set logscale y 10\nset yrange [{}:{}]\nset ytics ({})\n"
      "set lmargin at screen {}\nset rmargin at screen 0.975\nset tmargin at screen {}\nset bmargin at screen {}\n"
      "set grid xtics ytics lc rgb '{}' lw 1 dt 1\n"
      "set key {} Left reverse samplen 3 spacing 1.15 textcolor rgb '{}' opaque fc rgb '{}'\n"
      "set ylabel 'ms per frame' textcolor rgb '{}' offset 1,0\n"
      "set title {} font ',15' textcolor rgb '{}'\n",
      frame.y_from, frame.y_to,
      decade_tics(frame.y_from, frame.y_to, [](double ms) { return fmt::format("{:g}", ms); }), left_margin(report),
      0.925 - line_above * static_cast<double>(above), bottom, look::rule, key, look::ink, look::paper, look::ink,
      gnuplot_text(title_of(report)), look::ink);
  return script + plot_command(report, capacities, break_evens);
}

std::string each_plot(const Report& report, double top, double bottom) {
  const double factor = each_factor(report.about.axis);
  double from = HUGE_VAL;
  double to = 0;
  for (const SeriesGrowth& series : report.growth.series)
    for (const CurvePoint& point : series.points) {
      from = std::min(from, point.interval.low.value_or(point.ms) * factor / point.x);
      to = std::max(to, point.interval.high.value_or(point.ms) * factor / point.x);
    }
  std::string script = fmt::format(
      "unset title\nunset key\nunset arrow\nunset label\nset yrange [{}:{}]\nset ytics ({})\nset tmargin at screen "
      "{}\nset bmargin at screen {}\n"
      "set ylabel {} textcolor rgb '{}' offset -1,0\nplot ",
      from / 1.15, to * 1.15, fine_tics(from / 1.15, to * 1.15), top, bottom,
      gnuplot_text(each_unit(report.about.axis)), look::ink);
  for (std::size_t i = 0; i < report.about.series.size(); ++i) {
    const NamedSeries& series = report.about.series[i];
    const look::Mark mark = look::mark_of(series.rank);
    script += fmt::format(
        "{0}$curve{1} using 1:($2*{5}/$1) with lines lw 2 dt {2} lc rgb '{3}' notitle, "
        "$points{1} using 1:($2*{5}/$1):($3*{5}/$1):($4*{5}/$1) with yerrorbars pt {4} ps 0.9*scale lw 1.2 lc rgb "
        "'{3}' "
        "notitle",
        i == 0 ? "" : ", \\\n  ", i, 1 + series.of_variant, mark.colour, mark.point, factor);
  }
  return script + "\n";
}

std::string stretch_box(const Report& report, const ChosenStretch& stretch, int object, double from, double to) {
  const look::Mark mark = look::mark_of(report.about.series[stretch.use].rank);
  const char* fill = !stretch.fits          ? "solid 0.12"
                     : stretch.not_measured ? "empty"
                     : stretch.matters      ? "solid 0.85"
                                            : "pattern 5";
  return fmt::format("set object {0} rectangle from {1},{2} to {3},{4} fc rgb '{5}' fs {6} border lc rgb '{5}' lw 1\n",
                     object, stretch.from, from, stretch.to, to, mark.colour, fill);
}

std::string stretch_label(const GroupChoice& group, const ChosenStretch& stretch, int label, double y,
                          const Frame2D& frame) {
  const double share = std::log(stretch.to / stretch.from) / std::log(frame.x_to / frame.x_from);
  const std::string& name = group.label(stretch.use);
  if (share * 130 < static_cast<double>(name.size()) + 1) return {};
  return fmt::format("set label {} {} at {},{} center front font ',11' textcolor rgb '{}' boxed\n", label,
                     gnuplot_text(name), std::sqrt(stretch.from * stretch.to), y, look::ink);
}

/// A bar per group, with capacities as diamonds.
std::string strips(const Report& report, const Frame2D& frame, double top) {
  std::string script = fmt::format(
      "unset grid\nunset logscale y\nunset ytics\nset border 1\nset ylabel ' '\n"
      "set tmargin at screen {}\nset bmargin at screen {}\nset yrange [0:{}]\n"
      "set xlabel {} textcolor rgb '{}'\nset style textbox opaque noborder fillcolor rgb '{}' margins 0.6,0.3\n",
      top, strip_bottom, report.choices.groups.size(), gnuplot_text(report.about.axis.things), look::ink, look::paper);
  std::string marks = "$marks << END\n";
  int number = 1;
  for (std::size_t row = 0; row < report.choices.groups.size(); ++row) {
    const GroupChoice& group = report.choices.groups[row];
    const double y = static_cast<double>(report.choices.groups.size() - row) - 0.5;
    for (const ChosenStretch& stretch : group.stretches) {
      script += stretch_box(report, stretch, number, y - 0.28, y + 0.28);
      script += stretch_label(group, stretch, number++, y, frame);
    }
    script += fmt::format("set label {} {} at graph -0.008,first {} right font ',11' textcolor rgb '{}'\n", number++,
                          gnuplot_text(group.conditions.empty() ? "use" : group.conditions), y, look::ink);
    for (const SeriesCapacity& one : report.capacities.capacities)
      if (one.capacity.at && one.capacity.budget_ms == report.capacities.budgets_ms.front() &&
          std::find(group.members.begin(), group.members.end(), one.series) != group.members.end())
        marks += fmt::format("{} {}\n", *one.capacity.at, y + 0.28);
  }
  marks += "END\n";
  script += marks;
  if (has_rows(marks))
    return script +
           fmt::format("plot $marks using 1:2 with points pt 13 ps 1.4*scale lc rgb '{}' notitle\n", look::amber);
  return script + "plot NaN notitle\n";
}

}  // namespace

std::string cost_figure_script(const Report& report, FigureFormat format) {
  if (report.about.only_place) return bars_figure_script(report, format);
  const Frame2D frame = frame_of(report);
  const auto rows = static_cast<double>(report.choices.groups.size());
  const double strip_top = strip_bottom + 0.05 * rows;
  const double each_bottom = strip_top + 0.045;
  const double each_top = each_bottom + each_height;
  std::string script = gnuplot_terminal(format, height_of(report.choices.groups.size()));
  script += shared_settings(frame, report.about.axis) + "set multiplot\n";
  script += upper_plot(report, frame, each_top + 0.045);
  script += each_plot(report, each_top, each_bottom);
  script += strips(report, frame, strip_top);
  return script + "unset multiplot\n";
}

std::string cost_figure(const Report& report, FigureFormat format) {
  return run_gnuplot(cost_figure_script(report, format));
}

}  // namespace mileage
