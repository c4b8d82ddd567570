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

constexpr int frames_height = 800;
constexpr int work_height = 620;
constexpr double height_of_a_line = 0.036;
constexpr double max_of_the_height = 0.3;
/// Of the highest frame to the budget.
constexpr double budget_drawn_from = 0.1;

struct TimeSpan {
  double from_ms = HUGE_VAL, to_ms = 0;
};

TimeSpan times_of(const FramesAnswer& answer) {
  TimeSpan span;
  const auto take = [&](double ms) {
    span.from_ms = std::min(span.from_ms, ms);
    span.to_ms = std::max(span.to_ms, ms);
  };
  for (const CellFrames& cell : answer.cells) {
    for (const double ms : cell.sorted_ms) take(ms);
    for (const FrameAfter& frame : cell.beginning) {
      take(frame.typical_ms);
      take(frame.worst_ms);
    }
  }
  if (span.to_ms >= budget_drawn_from * answer.budget_ms) take(answer.budget_ms);
  // Key above all frames.
  const double key = height_of_a_line * static_cast<double>(answer.cells.size() + 1);
  const double room = std::pow(span.to_ms / span.from_ms, std::min(key, max_of_the_height) / (1 - max_of_the_height));
  return {span.from_ms / 1.2, span.to_ms * 1.2 * room};
}

/// "number typical worst" and "share ms".
std::string blocks_of(std::size_t index, const CellFrames& cell) {
  std::string block = fmt::format("$beginning{} << END\n", index);
  for (const FrameAfter& frame : cell.beginning)
    block += fmt::format("{} {} {}\n", frame.number, frame.typical_ms, frame.worst_ms);
  block += fmt::format("END\n$sorted{} << END\n", index);
  for (std::size_t i = 0; i < cell.sorted_ms.size(); ++i)
    block += fmt::format("{} {}\n", 100 * (static_cast<double>(i) + 0.5) / static_cast<double>(cell.sorted_ms.size()),
                         cell.sorted_ms[i]);
  return block + "END\n";
}

std::string plot_of_beginning(const About& about, std::size_t index, const CellFrames& cell) {
  const NamedSeries& series = about.series[cell.series];
  const look::Mark mark = look::mark_of(series.rank);
  return fmt::format(
      "$beginning{0} using 1:2:3 with filledcurves fc rgb '{1}' fs transparent solid 0.18 noborder notitle, "
      "$beginning{0} using 1:2 with linespoints lw 2 dt {2} pt {3} ps 0.7*scale lc rgb '{1}' notitle",
      index, mark.colour, 1 + series.of_variant, mark.point);
}

std::string plot_of_sorted(const About& about, std::size_t index, const CellFrames& cell) {
  const NamedSeries& series = about.series[cell.series];
  const look::Mark mark = look::mark_of(series.rank);
  return fmt::format("$sorted{} using 1:2 with linespoints lw 2.2 dt {} pt {} pi -8 ps 1*scale lc rgb '{}' title {}",
                     index, 1 + series.of_variant, mark.point, mark.colour,
                     gnuplot_text(fmt::format("{} at {}", series.label, place_text(cell.x, about.axis))));
}

std::string budget_plot(const FramesAnswer& answer, const TimeSpan& span, bool with_title) {
  if (answer.budget_ms > span.to_ms) return "";
  return fmt::format(", {} with lines lw 1.6 dt (14,6) lc rgb '{}' {}", answer.budget_ms, look::amber,
                     with_title ? "title " + gnuplot_text("budget " + ms_text(answer.budget_ms)) : "notitle");
}

}  // namespace

std::string frames_figure_script(const About& about, const FramesAnswer& answer, FigureFormat format) {
  const TimeSpan span = times_of(answer);
  std::string script = gnuplot_terminal(format, frames_height);
  std::string beginnings, sorted;
  bool after_arrival = false;
  for (std::size_t i = 0; i < answer.cells.size(); ++i) {
    const CellFrames& cell = answer.cells[i];
    if (cell.frames == 0) continue;
    script += blocks_of(i, cell);
    after_arrival = after_arrival || (cell.settling && cell.settling->after_arrival);
    if (!cell.beginning.empty()) beginnings += (beginnings.empty() ? "" : ", ") + plot_of_beginning(about, i, cell);
    sorted += (sorted.empty() ? "" : ", ") + plot_of_sorted(about, i, cell);
  }
  script += fmt::format(
      "set multiplot\nset logscale y 10\n"
      "set grid xtics ytics lc rgb '{1}' lw 1 dt 1\n"
      "set tmargin at screen 0.9\nset bmargin at screen 0.1\nset yrange [{2}:{3}]\nset ytics ({4})\n"
      "set key top left Left reverse samplen 3 spacing 1.15 textcolor rgb '{0}' opaque fc rgb '{5}'\n",
      look::ink, look::rule, span.from_ms, span.to_ms, fine_tics(span.from_ms, span.to_ms), look::paper);
  script += fmt::format("set label 1 {} at screen 0.07,0.955 font ',15' textcolor rgb '{}'\n",
                        gnuplot_text(about.head.scenario.name + ": frame by frame"), look::ink);
  if (!beginnings.empty())
    script += fmt::format(
        "set lmargin at screen 0.07\nset rmargin at screen 0.42\nset xrange [-0.5:*]\n"
        "set xlabel {} textcolor rgb '{}'\nset ylabel 'milliseconds: median, and up to the worst' textcolor rgb '{}' "
        "offset 1,0\nplot {}{}\nunset label 1\n",
        gnuplot_text(after_arrival ? "frames after an arrival, laid over each other"
                                   : "frames after the set-up, laid over each other"),
        look::ink, look::ink, beginnings, budget_plot(answer, span, false));
  script += fmt::format(
      "set lmargin at screen {}\nset rmargin at screen 0.975\nset xrange [0:100]\nset ylabel ''\n"
      "set xlabel 'all measured frames, sorted by time: share of them, %' textcolor rgb '{}'\nplot {}{}\n",
      beginnings.empty() ? 0.07 : 0.5, look::ink, sorted, budget_plot(answer, span, true));
  return script + "unset multiplot\n";
}

std::string work_figure_script(const About& about, const FramesAnswer& answer, FigureFormat format) {
  double longest = 0, y = 0;
  std::string bars, tics;
  int object = 0;
  std::size_t longest_name = 0;
  for (const CellFrames& cell : answer.cells) {
    if (!cell.work) continue;
    const look::Mark mark = look::mark_of(about.series[cell.series].rank);
    const std::string name = fmt::format("{} at {}", about.label(cell.series), place_text(cell.x, about.axis));
    longest_name = std::max(longest_name, name.size());
    tics += fmt::format("{}{} {}", tics.empty() ? "" : ", ", gnuplot_text(name),
                        -y - static_cast<double>(cell.work->busy_ms.size()) / 2);
    for (const double ms : cell.work->busy_ms) {
      bars += fmt::format("set object {} rectangle from 0,{} to {},{} fc rgb '{}' fs solid 0.85 noborder\n", ++object,
                          -y - 0.88, ms, -y - 0.12, mark.colour);
      longest = std::max(longest, ms);
      ++y;
    }
    bars += fmt::format("set arrow {0} from {1},{2} to {1},{3} nohead lw 3 lc rgb '{4}' front\n", ++object,
                        cell.work->largest_ms, -y + static_cast<double>(cell.work->busy_ms.size()), -y, look::amber);
    longest = std::max(longest, cell.work->largest_ms);
    y += 0.8;
  }
  return gnuplot_terminal(format, work_height) + bars +
         fmt::format(
             "set ytics ({1})\nset lmargin at screen {2}\nset rmargin at screen 0.975\nset tmargin at screen 0.9\n"
             "set bmargin at screen 0.12\nset xrange [0:{3}]\nset yrange [{4}:0]\nset grid xtics lc rgb '{5}'\n"
             "set key bottom right textcolor rgb '{0}'\n"
             "set xlabel 'busy ms per frame, a bar per worker, sorted' textcolor rgb '{0}'\n"
             "set title {6} font ',15' textcolor rgb '{0}'\n"
             "plot 1/0 with lines lw 3 lc rgb '{7}' title 'the largest batch of all frames'\n",
             look::ink, tics, 0.03 + 0.0068 * static_cast<double>(longest_name), 1.08 * longest, -y, look::rule,
             gnuplot_text(about.head.scenario.name + ": work by worker"), look::amber);
}

bool notes_work(const FramesAnswer& answer) {
  return std::any_of(answer.cells.begin(), answer.cells.end(),
                     [](const CellFrames& cell) { return cell.work.has_value(); });
}

bool has_single_frames(const FramesAnswer& answer) {
  return std::any_of(answer.cells.begin(), answer.cells.end(), [](const CellFrames& cell) { return cell.frames > 0; });
}

std::string work_figure(const About& about, const FramesAnswer& answer, FigureFormat format) {
  if (!notes_work(answer))
    throw Error({.kind = FaultKind::usage,
                 .field = "work-figure",
                 .problem = "no cell notes work by worker",
                 .accepted = "variants that call Frame::work"});
  return run_gnuplot(work_figure_script(about, answer, format));
}

std::string frames_figure(const About& about, const FramesAnswer& answer, FigureFormat format) {
  if (!has_single_frames(answer))
    throw Error({.kind = FaultKind::usage,
                 .field = "figure",
                 .problem = "no cell tells of single frames",
                 .accepted = "a study measured with --trace 3"});
  return run_gnuplot(frames_figure_script(about, answer, format));
}

}  // namespace mileage
