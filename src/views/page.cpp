#include "views/page.h"

#include <fmt/format.h>

#include "types/notation.h"
#include "types/text.h"
#include "views/about_view.h"
#include "views/arrivals_view.h"
#include "views/break_even_view.h"
#include "views/capacity_view.h"
#include "views/choice_map_view.h"
#include "views/choice_view.h"
#include "views/cost_figure.h"
#include "views/cost_view.h"
#include "views/frames_figure.h"
#include "views/frames_view.h"
#include "views/growth_view.h"
#include "views/ladder_view.h"
#include "views/limits_view.h"
#include "views/look.h"
#include "views/parts_view.h"
#include "views/price_view.h"
#include "views/ratio_figure.h"
#include "views/shared_frame_view.h"
#include "views/tuning_view.h"
#include "views/words.h"

namespace mileage {
namespace {

constexpr std::size_t failures_shown = 20;

std::string escaped(const std::string& text) {
  std::string html;
  for (const char c : printable_line(text)) {
    if (c == '<')
      html += "&lt;";
    else if (c == '>')
      html += "&gt;";
    else if (c == '&')
      html += "&amp;";
    else if (c == '"')
      html += "&quot;";
    else
      html += c;
  }
  return html;
}

std::string style() {
  return fmt::format(R"css(
  body {{ margin: 2.2rem auto; max-width: 68rem; padding: 0 1.2rem; background: {paper}; color: {ink};
         font: 16px/1.5 "DejaVu Sans", "Segoe UI", sans-serif; }}
  h1 {{ font-size: 1.7rem; margin: 0 0 .3rem; }}
  h2 {{ font-size: 1.15rem; margin: 2.2rem 0 .5rem; border-bottom: 2px solid {amber}; padding-bottom: .15rem; }}
  .answer {{ font-size: 1.1rem; margin: .35rem 0; }}
  .faint {{ color: #5c6678; font-size: .9rem; }}
  .warning {{ border-left: .35rem solid {amber}; padding: .2rem .8rem; margin: .6rem 0; }}
  table {{ border-collapse: collapse; font-size: .93rem; margin: .5rem 0 1rem; }}
  th, td {{ padding: .22rem 1.1rem .22rem 0; text-align: left; vertical-align: top; }}
  th {{ border-bottom: 1px solid {ink}; font-weight: 600; }}
  td {{ border-bottom: 1px solid {rule}; }}
  .number {{ text-align: right; font-variant-numeric: tabular-nums; }}
  figure {{ margin: 1.2rem 0; }}
  figure svg {{ width: 100%; height: auto; }}
  details {{ margin: .4rem 0; }}
  summary {{ cursor: pointer; }}
  @media print {{ body {{ margin: 0; max-width: none; }} details > * {{ display: block; }} }}
)css",
                     fmt::arg("paper", look::paper), fmt::arg("ink", look::ink), fmt::arg("amber", look::amber),
                     fmt::arg("rule", look::rule));
}

std::string cell(const char* tag, const std::string& text, TextTable::Align align) {
  const char* attribute = align == TextTable::Align::right ? " class=\"number\"" : "";
  return fmt::format("<{0}{1}>{2}</{0}>", tag, attribute, escaped(text));
}

std::string html(const TextTable& table) {
  if (table.empty()) return {};
  std::string text = "<table><tr>";
  for (std::size_t i = 0; i < table.headings().size(); ++i) text += cell("th", table.headings()[i], table.aligns()[i]);
  text += "</tr>\n";
  for (const auto& cells : table.rows()) {
    text += "<tr>";
    for (std::size_t i = 0; i < cells.size(); ++i) text += cell("td", cells[i], table.aligns()[i]);
    text += "</tr>\n";
  }
  return text + "</table>\n";
}

std::string paragraph(const std::string& text, const char* kind = "") {
  return *kind == 0 ? fmt::format("<p>{}</p>\n", escaped(text))
                    : fmt::format("<p class=\"{}\">{}</p>\n", kind, escaped(text));
}

std::string list(const std::vector<std::string>& lines) {
  if (lines.empty()) return {};
  std::string text = "<ul>\n";
  for (const std::string& line : lines) text += "<li>" + escaped(line) + "</li>\n";
  return text + "</ul>\n";
}

std::string heading(const std::string& text) { return "<h2>" + escaped(text) + "</h2>\n"; }

std::string answers(const Report& report) {
  std::string text;
  for (const double budget_ms : report.capacities.budgets_ms)
    text += paragraph(capacity_sentence(report.about, report.capacities, budget_ms), "answer");
  return text + paragraph(break_even_sentence(report.about, report.break_evens), "answer");
}

std::string warnings(const About& about) {
  std::string text;
  for (const std::string& warning : about.warnings) text += paragraph(warning, "warning");
  if (about.failures.empty()) return text;
  return text + heading("Visits that failed") + list(failure_lines(about.failures, about.axis, failures_shown));
}

/// The XML declaration and document type of a picture of its own have no place inside a page; nothing where there is
/// none.
std::string figure(const std::string& svg) {
  const auto start = svg.find("<svg");
  return start == std::string::npos ? "" : "<figure>" + svg.substr(start) + "</figure>\n";
}

std::string use_where(const Report& report, const std::string& map_svg) {
  std::vector<std::size_t> chosen;
  std::string text =
      heading("Which variant to use where") + paragraph(worth_text(report.about, report.choices), "faint");
  for (const GroupChoice& group : report.choices.groups) {
    if (!group.conditions.empty()) text += paragraph(group.conditions);
    text += html(choice_table(report.about, group));
    for (const std::size_t one : chosen_series(group)) chosen.push_back(one);
  }
  const TextTable prices = price_table(report.about, chosen);
  if (!prices.empty()) text += paragraph("What each asks for, in lines of code") + html(prices);
  for (const ChoiceMap& map : report.maps)
    text +=
        paragraph(fmt::format("Over {} and {} (any: no difference is worth it)", report.about.axis.things, map.knob)) +
        html(choice_map_table(report.about, report.choices, map));
  return text + figure(map_svg);
}

/// A study that tuned a knob, or of a ladder.
std::string settings(const Report& report, const PageFigures& figures) {
  std::string text;
  if (!report.ladder.empty())
    text += heading("Change by change") + paragraph(ladder_sentence(report.about, report.ladder), "answer") +
            html(ladder_table(report.about, report.ladder)) + html(changes_table(report.ladder)) +
            figure(figures.ladder);
  if (report.tuning.empty()) return text;
  text += heading("The best value");
  for (const TunedAt& at : report.tuning.places)
    text += paragraph(tuning_sentence(report.about, report.tuning, at), "answer") +
            html(tuning_table(report.about, report.tuning, at));
  return text + figure(figures.tuning);
}

/// How far each goes beside another system of the same frame, where one was named.
std::string beside_another(const Report& report, const PageFigures& figures) {
  if (!report.beside) return {};
  const SharedFrameAnswer& beside = *report.beside;
  return heading(fmt::format("Beside {} in one frame", beside.other_scenario)) +
         list(shared_frame_lines(report.about, beside)) + html(shared_frame_table(report.about, beside)) +
         figure(figures.beside);
}

/// What runs out first, and one cell of each series frame by frame.
std::string explanations(const Report& report, const PageFigures& figures) {
  const About& about = report.about;
  std::string text;
  if (const TextTable limits = limits_table(about, report.limits); !limits.empty())
    text += heading("What runs out first, and how far each would go alone") + html(limits);
  std::vector<std::string> lines;
  for (const CellFrames& cell : report.frames.cells)
    if (cell.frames > 0) lines.push_back(frames_sentence(about, cell));
  if (!lines.empty())
    text += heading("Frame by frame") + list(lines) + html(spikes_table(about, report.frames)) +
            html(over_table(about, report.frames)) + html(settling_table(about, report.frames)) +
            figure(figures.frames);
  if (const TextTable work = work_table(about, report.frames); !work.empty())
    text += heading("Work by worker") + html(work) + figure(figures.work);
  return text;
}

std::string evidence(const Report& report) {
  const About& about = report.about;
  std::string text;
  for (const double budget_ms : report.capacities.budgets_ms)
    text += heading("Capacity " + rate_text(budget_ms)) + html(capacity_table(about, report.capacities, budget_ms)) +
            paragraph(tail_line(about, report.capacities, budget_ms), "faint");
  if (!report.arrivals.empty()) {
    text += heading("Arrivals");
    for (const double budget_ms : report.capacities.budgets_ms)
      text += html(worst_frames_table(about, report.arrivals, report.capacities, budget_ms));
    text += html(arrival_sizes_table(about, report.arrivals));
  }
  const TextTable device = device_table(about, report.parts);
  if (!device.empty()) text += heading("Processor and device") + html(device);
  text += heading("Break-evens") + html(worth_table(about, report.break_evens)) +
          html(break_even_table(about, report.break_evens)) + list(lines_without_break_even(about, report.break_evens));
  for (std::size_t i = 0; i < report.costs.groups.size(); ++i) {
    const GroupCosts& group = report.costs.groups[i];
    text += heading(with_conditions("What a frame costs", group.conditions)) +
            html(cost_table(about, report.costs, i)) + list(trait_lines(about, group));
  }
  text += heading("How cost grows") + html(growth_table(about, report.growth)) + html(law_table(about, report.growth));
  for (std::size_t i = 0; i < about.series.size(); ++i)
    text += fmt::format("<details><summary>every measured count of {}</summary>\n{}{}</details>\n",
                        escaped(about.label(i)), html(point_table(about, report.growth.series[i])),
                        html(parts_table(about, report.parts.series[i])));
  return text;
}

/// How the visits were made.
std::string visits_text(const About& about) {
  const std::string blocks = fmt::format(", in {} blocks of shuffled order", about.blocks);
  switch (about.head.made_by) {
    case MadeBy::tables:
      return "Frames were recorded elsewhere";
    case MadeBy::game:
      return "Visits were made inside a running program" + blocks;
    case MadeBy::person:
      return "Visits were recorded by hand" + blocks;
    case MadeBy::program:
    case MadeBy::commands:
      break;
  }
  return "Every visit ran in a process of its own" + blocks;
}

std::string knobs_of_all(const About& about) {
  std::string knobs;
  for (const NamedSeries& series : about.series) {
    knobs += (knobs.empty() ? "" : "; ") + series.label + ":";
    for (const auto& [name, value] : series.series.knobs.values()) knobs += fmt::format(" {} {}", name, text_of(value));
  }
  return knobs;
}

std::string method(const About& about) {
  const Head& head = about.head;
  std::string text = heading("Machine and method");
  for (const std::string& line : cold_lines(about)) text += paragraph(line);
  for (const std::string& line : origin_lines(head)) text += paragraph(line);
  text += paragraph("Knobs: " + knobs_of_all(about) + ".");
  for (const std::string& line : quietness_lines(about)) text += paragraph(line);
  for (const std::string& line : spent_lines(about)) text += paragraph(line);
  return text + paragraph(fmt::format("{} by {} on {}; {}. {}; the typical frame is the mean of logs without the ends, "
                                      "at the machine's fast level. Intervals are "
                                      "95 %, from leaving out one block at a time. A law is named where replication "
                                      "noise does not reject it at 1 %; otherwise readings lie between the points.",
                                      head.made_by == MadeBy::tables ? "Imported" : "Measured", head.program,
                                      head.recorded, evidence_text(about), visits_text(about)),
                          "faint");
}

}  // namespace

PageFigures page_figures(const Report& report) {
  const About& about = report.about;
  constexpr FigureFormat svg = FigureFormat::svg;
  PageFigures figures;
  figures.costs = cost_figure(report, svg);
  if (has_ratios(report.ratios)) figures.ratios = ratio_figure(about, report.ratios, svg);
  if (!report.maps.empty()) figures.map = choice_map_figure(about, report.choices, report.maps.front(), svg);
  if (report.beside && has_map(*report.beside)) figures.beside = shared_frame_figure(about, *report.beside, svg);
  if (tells_of_frames(report.frames)) figures.frames = frames_figure(about, report.frames, svg);
  if (notes_work(report.frames)) figures.work = work_figure(about, report.frames, svg);
  if (can_draw_tuning(report.tuning)) figures.tuning = tuning_figure(about, report.tuning, svg);
  if (report.ladder.rungs.size() > 1) figures.ladder = ladder_figure(about, report.ladder, svg);
  return figures;
}

std::string report_page(const Report& report, const PageFigures& figures) {
  const Scenario& scenario = report.about.head.scenario;
  std::string page = fmt::format(
      "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">\n<title>{}: "
      "{}</title>\n<style>{}</style></head><body>\n",
      escaped(scenario.name), "how far each way goes", style());
  page +=
      fmt::format("<h1>{}: how far each way goes</h1>\n", escaped(scenario.name)) + paragraph(scenario.note, "faint");
  page += warnings(report.about) + answers(report);
  page += figure(figures.costs) + settings(report, figures) + use_where(report, figures.map);
  if (!figures.ratios.empty()) page += heading("Held against the slowest") + figure(figures.ratios);
  page += beside_another(report, figures);
  page += explanations(report, figures) + evidence(report) + method(report.about);
  return page + "</body></html>\n";
}

}  // namespace mileage
