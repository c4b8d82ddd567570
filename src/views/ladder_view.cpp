#include "views/ladder_view.h"

#include <algorithm>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/error.h"
#include "views/capacity_view.h"
#include "views/look.h"
#include "views/words.h"

namespace mileage {
namespace {

constexpr int step_height = 74;
constexpr int beside_steps = 190;
/// The budget is drawn where the slowest rung takes at least this share of it.
constexpr double budget_in_sight = 0.3;

bool is_beyond(const Capacity& capacity) { return !capacity.at && capacity.none != NoCapacity::over_at_once; }

Entry change_cell(const std::optional<Change>& change) {
  return change ? Entry{change->takes, change->takes_interval} : absent("-");
}

Table rungs_table(const About& about, const LadderAnswer& answer) {
  const bool is_any_capacity = std::any_of(answer.rungs.begin(), answer.rungs.end(),
                                           [](const RungAt& rung) { return !is_beyond(rung.capacity); });
  Table table(
      about, "rungs", "",
      {{"rung", "change", Format::text, "the change"},
       {about.axis.name, "", Format::place, "place on the axis"},
       {"ms", "ms/frame", Format::number, "with this change and those before it, ms", Spread::inside},
       {"on_top", "on top of the last", Format::ratio, "relative to the rung before", Spread::hidden},
       {"alone", "alone", Format::ratio, "the base with this change alone, relative to the base", Spread::hidden},
       {"removed_last", "removed last", Format::ratio, "all changes relative to all but this one", Spread::hidden},
       {"capacity", is_any_capacity ? fmt::format("capacity in {}", ms_text(answer.budget_ms)) : "", Format::place,
        "largest number within the budget", Spread::inside},
       {"error", "error", Format::percent, "largest relative difference of its outcome from the reference"},
       {"no_part_at_end", "", Format::flag, "a later change undoes it"},
       {"inconclusive", "", Format::flag, "no effect is significant"},
       {"only_together", "", Format::flag, "an effect only together with others"},
       {"changes_several", "", Format::flag, "several settings at once"}});
  for (const RungAt& rung : answer.rungs)
    table.row({rung.name,
               answer.x,
               {rung.cost.ms, rung.cost.interval},
               change_cell(rung.on_top),
               change_cell(rung.alone),
               rung.has_no_part_at_end ? absent("undone later") : change_cell(rung.taken_away),
               capacity_cell(about, rung.capacity),
               rung.error > 0 ? Entry(rung.error) : absent(),
               rung.has_no_part_at_end,
               rung.is_inconclusive,
               rung.only_together,
               rung.changes_several});
  return table;
}

void note_where(Answer& view, const LadderAnswer& answer, bool RungAt::*holds, const char* words) {
  std::vector<std::string> names;
  for (const RungAt& rung : answer.rungs)
    if (rung.*holds) names.push_back(rung.name);
  if (!names.empty()) view.note(fmt::format("{}: {}.", fmt::join(names, "; "), words));
}

}  // namespace

std::string ladder_sentence(const About& about, const LadderAnswer& answer) {
  std::string text = "At " + named_place(answer.x, about.axis);
  const std::size_t changes = answer.rungs.size() - 1;
  if (answer.all) {
    const Column ratio{"", "", Format::ratio, "", Spread::inside};
    const std::string range = spread_text(answer.all->takes_interval, ratio, about.axis);
    text += fmt::format(", {} change{} together: {} → {} ({}{})", changes, changes == 1 ? "" : "s",
                        three_digits(answer.rungs.front().cost.ms), ms_text(answer.rungs.back().cost.ms),
                        ratio_text(answer.all->takes), range.empty() ? "" : ", " + range);
  }
  const std::string budget = ms_text(answer.budget_ms);
  if (!answer.first_within) return text + fmt::format(". None fits {}.", budget);
  return *answer.first_within == 0
             ? text + "."
             : text + fmt::format(". From {} on it fits {}.", answer.rungs[*answer.first_within].name, budget);
}

Answer ladder_view(const About& about, const LadderAnswer& answer) {
  Answer view;
  if (answer.rungs.empty()) {
    view.verdict.emplace_back(answer.not_measured.empty() ? "The study holds no ladder." : "No rung was measured.");
    view.next.push_back(pasted_command("ladder --help"));
    return view;
  }
  view.verdict.push_back(ladder_sentence(about, answer));
  view.tables.push_back(rungs_table(about, answer));
  note_where(view, answer, &RungAt::is_inconclusive, "no significant effect");
  note_where(view, answer, &RungAt::only_together, "significant only together with others");
  note_where(view, answer, &RungAt::changes_several, "several settings at once, so their shares are unknown");
  if (!answer.not_measured.empty())
    view.note(fmt::format("not measured there: {}.", fmt::join(answer.not_measured, "; ")));
  if (std::all_of(answer.rungs.begin(), answer.rungs.end(),
                  [](const RungAt& rung) { return is_beyond(rung.capacity); }))
    view.note(fmt::format("capacities in {} are beyond what was measured; add larger counts to --at.",
                          ms_text(answer.budget_ms)),
              true);
  return view;
}

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
