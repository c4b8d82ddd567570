#include "views/ladder_view.h"

#include <algorithm>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "types/error.h"
#include "views/answer_json.h"
#include "views/look.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

constexpr int step_height = 74;
constexpr int beside_steps = 190;
/// The budget is drawn where the dearest rung takes this share of it at least.
constexpr double budget_in_sight = 0.3;

std::string change_cell(const std::optional<Change>& change) {
  return change ? with_range(change->takes, change->takes_interval) : "";
}

bool is_beyond(const Capacity& capacity) { return !capacity.at && capacity.none != NoCapacity::over_at_once; }

std::string capacity_of_rung(const About& about, const Capacity& capacity) {
  if (!capacity.at) return capacity.none == NoCapacity::over_at_once ? "none" : "beyond what was measured";
  const std::string at = place_text(*capacity.at, about.axis);
  return capacity.interval.closed() ? at + " " + interval_text(capacity.interval, about.axis) : at;
}

std::vector<std::string> names_where(const LadderAnswer& answer, bool RungAt::*holds) {
  std::vector<std::string> names;
  for (const RungAt& rung : answer.rungs)
    if (rung.*holds) names.push_back(rung.name);
  return names;
}

std::string remark(const char* words, const std::vector<std::string>& names) {
  return names.empty() ? "" : fmt::format("{}: {}.\n", words, fmt::join(names, "; "));
}

Json change_json(const std::optional<Change>& change) {
  if (!change) return nullptr;
  Json json{{"takes", change->takes}, {"saves_ms", change->saves_ms}, {"told", change->is_told()}};
  add_interval(json, change->takes_interval);
  return json;
}

}  // namespace

std::string ladder_sentence(const About& about, const LadderAnswer& answer) {
  std::string text = "At " + named_place(answer.x, about.axis);
  const std::size_t changes = answer.rungs.size() - 1;
  if (answer.all)
    text += fmt::format(", {} change{} together take {} of the time of the base", changes, changes == 1 ? "" : "s",
                        with_range(answer.all->takes, answer.all->takes_interval));
  const std::string budget = ms_text(answer.budget_ms);
  if (!answer.first_within) return text + fmt::format("; none of the rungs is within {}.", budget);
  return *answer.first_within == 0
             ? text + fmt::format("; the base is within {} already.", budget)
             : text + fmt::format("; the first within {} is {}.", budget, answer.rungs[*answer.first_within].name);
}

TextTable ladder_table(const About& about, const LadderAnswer& answer) {
  const auto any_of = [&](auto holds) { return std::any_of(answer.rungs.begin(), answer.rungs.end(), holds); };
  const bool any_error = any_of([](const RungAt& rung) { return rung.error > 0; });
  const bool any_capacity = any_of([](const RungAt& rung) { return !is_beyond(rung.capacity); });
  TextTable table;
  table.column("rung");
  table.column("ms a frame (95 %)");
  if (any_capacity) table.column(fmt::format("capacity in {} ms", three_digits(answer.budget_ms)));
  if (any_error) table.column("error given up", Align::right);
  for (const RungAt& rung : answer.rungs) {
    std::vector<std::string> row{rung.name, with_range(rung.cost.ms, rung.cost.interval)};
    if (any_capacity) row.push_back(capacity_of_rung(about, rung.capacity));
    if (any_error) row.push_back(rung.error > 0 ? fmt::format("{:.3g} %", 100 * rung.error) : "");
    table.row(std::move(row));
  }
  return table;
}

TextTable changes_table(const LadderAnswer& answer) {
  TextTable table;
  for (const char* heading : {"rung", "of the rung before", "alone, of the base", "at the end, of all without it"})
    table.column(heading);
  for (std::size_t i = 1; i < answer.rungs.size(); ++i) {
    const RungAt& rung = answer.rungs[i];
    table.row({rung.name, change_cell(rung.on_top), change_cell(rung.alone),
               rung.has_no_part_at_end ? "no part in it" : change_cell(rung.taken_away)});
  }
  return table;
}

std::string ladder_text(const About& about, const LadderAnswer& answer) {
  if (answer.rungs.empty())
    return answer.not_measured.empty()
               ? "The study holds no ladder: " + pasted_command("ladder --scenario ... --rungs \"...\".\n\n")
               : "No rung was measured.\n\n";
  std::string text = ladder_sentence(about, answer) + "\n\n" + ladder_table(about, answer).text() + "\n";
  if (answer.rungs.size() > 1)
    text += "Share of the time that each change leaves\n\n" + changes_table(answer).text() + "\n";
  std::string remarks = remark("Whether it does anything cannot be told", names_where(answer, &RungAt::cannot_be_told));
  remarks += remark("Brings something only together with others", names_where(answer, &RungAt::only_together));
  remarks += remark("Changes several things at once, so that nobody knows which of them did it",
                    names_where(answer, &RungAt::changes_several));
  remarks += remark("Not measured there", answer.not_measured);
  if (std::all_of(answer.rungs.begin(), answer.rungs.end(),
                  [](const RungAt& rung) { return is_beyond(rung.capacity); }))
    remarks += fmt::format("Capacities in {} lie beyond what was measured: more counts with --at tell them.\n",
                           ms_text(answer.budget_ms));
  return remarks.empty() ? text : text + remarks + "\n";
}

void add_ladder_json(Json& json, const About& about, const LadderAnswer& answer) {
  Json& rows = rows_of(json, "rungs");
  for (const RungAt& rung : answer.rungs) {
    Json row = rung.series < about.series.size() ? row_of(about, rung.series) : row_of(about);
    row["rung"] = rung.name;
    row[about.axis.name] = place_json(answer.x, about.axis);
    row["ms"] = rung.cost.ms;
    add_interval(row, rung.cost.interval, "low_ms", "high_ms");
    row["on_top"] = change_json(rung.on_top);
    row["alone"] = change_json(rung.alone);
    row["taken_away"] = change_json(rung.taken_away);
    row["capacity"] = place_json(rung.capacity.at, about.axis);
    row["capacity_low"] = place_json(rung.capacity.interval.low, about.axis);
    row["capacity_high"] = place_json(rung.capacity.interval.high, about.axis);
    row["error"] = rung.error;
    row["no_part_at_end"] = rung.has_no_part_at_end;
    row["cannot_be_told"] = rung.cannot_be_told;
    row["only_together"] = rung.only_together;
    row["changes_several"] = rung.changes_several;
    rows.push_back(std::move(row));
  }
  json["ladder"] = {
      {"budget_ms", answer.budget_ms},
      {"all", change_json(answer.all)},
      {"first_within", answer.first_within ? Json(answer.rungs[*answer.first_within].name) : Json(nullptr)},
      {"not_measured", answer.not_measured}};
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
    const char* colour = rung.cannot_be_told ? look::faint_ink : look::marks[1].colour;
    script += fmt::format("set object {} rectangle from 0,{} to {},{} fc rgb '{}' fs solid 0.85 noborder\n", i + 1,
                          y - 0.28, rung.cost.ms, y + 0.28, colour);
    script += fmt::format("set arrow {} from {},{} to {},{} heads size {},90 lw 2 lc rgb '{}' front\n", i + 2,
                          rung.cost.interval.low.value_or(rung.cost.ms), y,
                          rung.cost.interval.high.value_or(rung.cost.ms), y, 0.004 * longest, look::ink);
    const std::string takes =
        rung.on_top ? fmt::format("   takes {} of the rung before", change_cell(rung.on_top)) : "";
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
             "set xlabel 'milliseconds a frame, with 95 % intervals' textcolor rgb '{0}'\n"
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
