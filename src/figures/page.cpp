#include "figures/page.h"

#include <fmt/format.h>

#include "types/notation.h"
#include "types/text.h"
#include "views/views.h"
#include "figures/figures.h"
#include "figures/look.h"
#include "views/words.h"

namespace mileage {
namespace {

constexpr std::size_t max_failures = 20;

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
  h3 {{ font-size: 1rem; margin: 1.2rem 0 .3rem; }}
  h2 {{ font-size: 1.15rem; margin: 2.2rem 0 .5rem; border-bottom: 2px solid {amber}; padding-bottom: .15rem; }}
  .answer {{ font-size: 1.1rem; margin: .35rem 0; }}
  .faint {{ color: #5c6678; font-size: .9rem; }}
  .note {{ border-left: .35rem solid {amber}; padding: .2rem .8rem; margin: .6rem 0; }}
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

std::string cell(const char* tag, const std::string& text, bool is_to_the_right) {
  return fmt::format("<{0}{1}>{2}</{0}>", tag, is_to_the_right ? " class=\"number\"" : "", escaped(text));
}

std::string table_html(const Table::Shown& shown) {
  std::string text = "<table><tr>";
  for (std::size_t i = 0; i < shown.headings.size(); ++i) text += cell("th", shown.headings[i], shown.to_the_right[i]);
  text += "</tr>\n";
  for (const auto& cells : shown.rows) {
    text += "<tr>";
    for (std::size_t i = 0; i < cells.size(); ++i) text += cell("td", cells[i], shown.to_the_right[i]);
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

/// --more parts are folded.
std::string html(const Table& table) {
  if (!table.is_shown()) return {};
  const std::string rows = table_html(table.shown());
  if (table.is_on_request())
    return fmt::format("<details><summary>{}</summary>\n{}</details>\n", escaped(table.title()), rows);
  return (table.title().empty() ? "" : "<h3>" + escaped(table.title()) + "</h3>\n") + rows;
}

std::string notes_html(const std::vector<Note>& notes) {
  std::string text, folded;
  for (const Note& note : notes)
    (note.on_request ? folded : text) += paragraph(note.text, note.on_request ? "" : "note");
  return folded.empty() ? text : text + "<details><summary>Details</summary>\n" + folded + "</details>\n";
}

/// Without XML declaration and document type.
std::string figure(const std::string& svg) {
  const auto start = svg.find("<svg");
  return start == std::string::npos ? "" : "<figure>" + svg.substr(start) + "</figure>\n";
}

std::string section_html(const Section& section, const PageFigures& figures) {
  std::string text;
  if (!section.is_headline)
    for (const std::string& sentence : section.answer.verdict) text += paragraph(sentence, "answer");
  for (const Table& table : section.answer.tables) text += html(table);
  text += notes_html(section.answer.notes);
  if (section.figure != nullptr) text += figure(figures.*section.figure);
  return text.empty() ? text : heading(section.title) + text;
}

std::string runs_text(const About& about) {
  const std::string blocks = fmt::format(", in {} blocks of shuffled order", about.blocks);
  switch (about.head.made_by) {
    case MadeBy::tables:
      return "Frames were recorded elsewhere";
    case MadeBy::game:
      return "Runs were made inside a running program" + blocks;
    case MadeBy::person:
      return "Runs were recorded by hand" + blocks;
    case MadeBy::program:
    case MadeBy::commands:
      break;
  }
  return "Every run was a fresh process" + blocks;
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
  for (const auto& lines : {cold_lines(about), origin_lines(head), condition_lines(about), spent_lines(about)})
    for (const std::string& line : lines) text += paragraph(line);
  text += paragraph("Knobs: " + knobs_of_all(about) + ".");
  return text + paragraph(fmt::format("{} by {} on {}; {}. {}. The typical frame is a trimmed mean of logs, corrected "
                                      "for machine slowdown. Intervals are 95 %, from leaving out one block at a time. "
                                      "A law is named where replication noise does not reject it at 1 %.",
                                      head.made_by == MadeBy::tables ? "Imported" : "Measured", head.program,
                                      head.recorded, evidence_text(about), runs_text(about)),
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
  if (report.next_to_rest && has_map(*report.next_to_rest))
    figures.next_to_rest = shared_frame_figure(about, *report.next_to_rest, svg);
  if (has_single_frames(report.frames)) figures.frames = frames_figure(about, report.frames, svg);
  if (notes_work(report.frames)) figures.work = work_figure(about, report.frames, svg);
  if (can_draw_tuning(report.tuning)) figures.tuning = tuning_figure(about, report.tuning, svg);
  if (report.ladder.rungs.size() > 1) figures.ladder = ladder_figure(about, report.ladder, svg);
  return figures;
}

std::string report_page(const Report& report, const PageFigures& figures) {
  const Scenario& scenario = report.about.head.scenario;
  const std::vector<Section> sections = sections_of(report);
  std::string page = fmt::format(
      "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">\n<title>{0}</title>\n<style>{1}</style>"
      "</head><body>\n<h1>{0}</h1>\n",
      escaped(scenario.name), style());
  page += paragraph(scenario.note, "faint");
  for (const std::string& caution : cautions(report.about)) page += paragraph(caution, "note");
  for (const Section& section : sections)
    if (section.is_headline)
      for (const std::string& sentence : section.answer.verdict) page += paragraph(sentence, "answer");
  page += figure(figures.costs);
  for (const Section& section : sections) page += section_html(section, figures);
  if (!report.about.failures.empty())
    page += heading("Runs that failed") + list(failure_lines(report.about.failures, report.about.axis, max_failures));
  if (!report.about.warnings.empty()) page += heading("Notes") + list(report.about.warnings);
  return page + method(report.about) + "</body></html>\n";
}

}  // namespace mileage
