#include "tool/answer_text.h"

#include <fmt/format.h>

#include "views/strip.h"
#include "views/tables.h"
#include "views/words.h"

namespace mileage {
namespace {

std::string headroom_answer(const Findings& findings, double budget_ms) {
  return findings.at.empty() ? "" : headroom_table(findings, budget_ms).text() + "\n";
}

std::string group_title(const char* title, const GroupFinding& group) {
  return group.conditions.empty() ? fmt::format("{}\n", title) : fmt::format("{} ({})\n", title, group.conditions);
}

}  // namespace

std::string preamble(const Findings& findings) {
  std::string text;
  for (const std::string& line : failure_lines(findings)) text += "! failed: " + line + "\n";
  for (const std::string& warning : findings.warnings) text += "! " + warning + "\n";
  return text.empty() ? text : text + "\n";
}

std::string capacity_answer(const Findings& findings) {
  std::string text;
  for (const double budget_ms : findings.budgets_ms)
    text += fmt::format("{}\n\n{}\n", capacity_sentence(findings, budget_ms), capacity_table(findings, budget_ms).text()) +
            headroom_answer(findings, budget_ms);
  const TextTable device = device_table(findings);
  if (!device.empty()) text += "Processor and device\n\n" + device.text() + "\n";
  const std::vector<std::string> commands = missing_measurements(findings);
  if (!commands.empty()) text += "To measure what is missing:\n";
  for (const std::string& command : commands) text += "  " + command + "\n";
  return commands.empty() ? text : text + "\n";
}

std::string capacities_side_by_side(const std::vector<Findings>& studies) { return capacity_table(studies).text() + "\n"; }

std::string choose_answer(const Findings& findings) {
  std::string text;
  for (const GroupFinding& group : findings.groups) {
    for (const Advice& advice : group.advice)
      text += (group.conditions.empty() ? "" : group.conditions + ": ") + advice_sentence(findings, group, advice) + "\n";
  }
  if (!text.empty()) text += "\n";
  text += worth_text(findings) + "\n\n";
  for (const GroupFinding& group : findings.groups) {
    text += group_title("Which variant to use where", group) + "\n" + choice_table(findings, group).text() + "\n";
    text += everywhere_table(findings, group).text() + "\n" + terminal_strip(findings, group) + "\n";
  }
  return text + "  " + strip_legend() + "\n\n";
}

std::string break_even_answer(const Findings& findings) {
  std::string text = break_even_sentence(findings) + "\n\n";
  const TextTable table = break_even_table(findings);
  if (!table.empty()) text += table.text() + "\n";
  const auto lines = lines_without_break_even(findings);
  for (const std::string& line : lines) text += "  no break-even: " + line + "\n";
  return lines.empty() ? text : text + "\n";
}

std::string cost_answer(const Findings& findings) {
  std::string text;
  for (const GroupFinding& group : findings.groups)
    text += group_title("What a frame costs", group) + "\n" + cost_table(findings, group).text() + "\n";
  return text;
}

std::string curve_answer(const Findings& findings, bool with_points, bool with_parts) {
  std::string text;
  for (const AgainstFinding& one : findings.against)
    text += fmt::format("{} against {}\n\n{}\n", findings.series[one.series].label, findings.series[one.against].label,
                        against_table(findings, one).text());
  text += fmt::format("How the time of a frame of {} grows\n\n{}\n{}\n", findings.head.scenario.name, growth_table(findings).text(),
                      law_table(findings).text());
  for (const std::string& line : knee_lines(findings)) text += "  " + line + "\n";
  if (!knee_lines(findings).empty()) text += "\n";
  if (with_points)
    for (const SeriesFinding& series : findings.series)
      text += series.label + "\n\n" + point_table(findings, series).text() + "\n";
  if (with_parts)
    for (const SeriesFinding& series : findings.series)
      text += series.label + ": where the time of a frame goes\n\n" + parts_table(findings, series).text() + "\n";
  return text;
}

std::string choice_answer(const Findings& findings) {
  std::string text = "Which variant to use where\n  " + worth_text(findings) + "\n  " + strip_legend() + "\n\n";
  for (const GroupFinding& group : findings.groups) {
    if (!group.conditions.empty()) text += "  " + group.conditions + "\n";
    text += terminal_strip(findings, group) + "\n";
  }
  return text;
}

std::string evidence_footer(const Findings& findings) {
  std::string text;
  for (const std::string& line : cold_lines(findings)) text += line + "\n";
  text += fmt::format("{}\n{}\n", evidence_text(findings), quietness_text(findings));
  for (const std::string& line : origin_lines(findings.head)) text += line + "\n";
  return text;
}

}  // namespace mileage
