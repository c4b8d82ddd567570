#include "views/breakdown_view.h"

#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "types/text.h"
#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

/// Parts of the sentence take at least this share of the largest one.
constexpr double share_of_largest_told = 0.05;

std::string with_sign(double value) {
  return (value > 0 ? "+" : value < 0 ? "-" : "") + three_digits(std::fabs(value));
}

std::string signed_part(const Part& part) {
  const std::string text = fmt::format("{} {}", part.name, with_sign(part.ms));
  if (!part.interval.closed()) return text;
  return fmt::format("{} ({} to {})", text, three_digits(*part.interval.low), three_digits(*part.interval.high));
}

std::string difference_cell(const Part& part) {
  if (!part.interval.closed()) return with_sign(part.ms);
  return fmt::format("{} ({} to {})", with_sign(part.ms), three_digits(*part.interval.low),
                     three_digits(*part.interval.high));
}

std::vector<std::string> parts_told(const PairBreakdown& pair) {
  double largest = std::fabs(pair.whole.ms);
  for (const Part& part : pair.phases) largest = std::max(largest, std::fabs(part.ms));
  std::vector<std::string> told;
  for (const Part& part : pair.phases)
    if (std::fabs(part.ms) >= share_of_largest_told * largest) told.push_back(signed_part(part));
  return told;
}

/// "makes 3.96 updates a lantern (expected 1)".
std::string counter_line(const About& about, const PairBreakdown& pair, const CounterPair& one) {
  const auto of = [&](std::size_t series, const std::optional<double>& amount) {
    return fmt::format("{} {}", about.label(series), amount ? fmt::format("{:.3g}", *amount) : "none");
  };
  const std::string expected = !one.expected ? ""
                               : one.first_is_off || one.second_is_off
                                   ? fmt::format("; expected {:.3g}: NOT as expected", *one.expected)
                                   : fmt::format("; expected {:.3g}", *one.expected);
  return fmt::format("  {} {} and frame: {}, {}{}\n", one.name, with_article(about.axis.thing),
                     of(pair.first, one.of_first), of(pair.second, one.of_second), expected);
}

std::string capacity_cell(const About& about, const Capacity& capacity) {
  if (!capacity.at)
    return capacity.none == NoCapacity::over_at_once ? "over the budget at once" : "beyond what was measured";
  const std::string at = place_text(*capacity.at, about.axis);
  return capacity.interval.closed() ? at + " " + interval_text(capacity.interval, about.axis) : at;
}

std::string pair_text(const About& about, const PairBreakdown& pair) {
  std::string text = breakdown_sentence(about, pair) + "\n\n";
  text += fmt::format("What the difference is made of, ms a frame at {}\n\n{}\n", named_place(pair.x, about.axis),
                      breakdown_table(about, pair).text());
  if (pair.phases.empty())
    text += "Neither marks phases: frame.phase(\"name\") in the code, or a column phase:NAME, would place it.\n";
  if (pair.page_faults)
    text += fmt::format("Memory touched first, pages a frame: {} {}, {} {}: it is asked for and given back.\n",
                        about.label(pair.first), three_digits(pair.page_faults->first_ms), about.label(pair.second),
                        three_digits(pair.page_faults->second_ms));
  if (!pair.counters.empty()) text += "Counters that differ\n";
  for (const CounterPair& one : pair.counters) text += counter_line(about, pair, one);
  return text + "\n";
}

Json part_row(const About& about, const PairBreakdown& pair, const char* split, const Part& part) {
  Json row = row_of(about, pair.second);
  row["against"] = about.label(pair.first);
  row[about.axis.name] = place_json(pair.x, about.axis);
  row["split"] = split;
  row["part"] = part.name;
  row["ms"] = part.ms;
  add_interval(row, part.interval, "low_ms", "high_ms");
  row["of_first_ms"] = part.first_ms;
  row["of_second_ms"] = part.second_ms;
  row["told"] = part.is_told();
  return row;
}

void add_parts(Json& json, const About& about, const PairBreakdown& pair) {
  Json& rows = rows_of(json, "difference_parts");
  for (const Part& part : pair.phases) rows.push_back(part_row(about, pair, "phase", part));
  if (pair.outside) rows.push_back(part_row(about, pair, "outside", *pair.outside));
  for (const Part& part : pair.inside) rows.push_back(part_row(about, pair, "inner phase", part));
  for (const Part& part : pair.thread) rows.push_back(part_row(about, pair, "thread", part));
}

void add_counters(Json& json, const About& about, const PairBreakdown& pair) {
  Json& rows = rows_of(json, "difference_counters");
  for (const CounterPair& one : pair.counters) {
    Json row = row_of(about, pair.second);
    row["against"] = about.label(pair.first);
    row[about.axis.name] = place_json(pair.x, about.axis);
    row["counter"] = one.name;
    row["of_first_per_entity"] = optional_json(one.of_first);
    row["of_second_per_entity"] = optional_json(one.of_second);
    row["expected_per_entity"] = optional_json(one.expected);
    row["as_expected"] = !one.first_is_off && !one.second_is_off;
    rows.push_back(std::move(row));
  }
}

}  // namespace

std::string breakdown_sentence(const About& about, const PairBreakdown& pair) {
  const std::string& first = about.label(pair.first);
  const std::string& second = about.label(pair.second);
  const std::string more = pair.whole.is_told() || !pair.whole.interval.closed()
                               ? fmt::format("{} takes {} {} than {}", second, ms_text(std::fabs(pair.whole.ms)),
                                             pair.whole.ms < 0 ? "less" : "more", first)
                               : fmt::format("{} cannot be told apart from {}", second, first);
  const std::string range =
      pair.whole.interval.closed()
          ? fmt::format(" ({} to {})", with_sign(*pair.whole.interval.low), with_sign(*pair.whole.interval.high))
          : " (no interval)";
  const std::vector<std::string> parts = parts_told(pair);
  std::string text = fmt::format("At {}, {}{}", named_place(pair.x, about.axis), more, range);
  if (!parts.empty()) text += fmt::format(": {}", fmt::join(parts, ", "));
  if (pair.outside)
    text += fmt::format("{} outside any phase {}", parts.empty() ? ":" : ";", with_sign(pair.outside->ms));
  text += ".";
  return text;
}

TextTable breakdown_table(const About& about, const PairBreakdown& pair) {
  TextTable table;
  table.column("part");
  table.column(about.label(pair.first), Align::right);
  table.column(about.label(pair.second), Align::right);
  table.column("more by (95 %)");
  const auto add = [&](const std::string& name, const Part& part) {
    table.row({name, three_digits(part.first_ms), three_digits(part.second_ms), difference_cell(part)});
  };
  add("whole frame", pair.whole);
  for (const Part& part : pair.phases) add("phase " + part.name, part);
  if (pair.outside) add(pair.outside->name, *pair.outside);
  for (const Part& part : pair.inside) add("inside a phase: " + part.name, part);
  for (const Part& part : pair.thread) add(part.name, part);
  return table;
}

TextTable floors_table(const About& about, const BreakdownAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column("without phase");
  table.column("takes ms", Align::right);
  table.column("ms a frame then (95 %)");
  table.column(fmt::format("capacity in {} ms", three_digits(answer.budget_ms)));
  table.column("by");
  for (const PhaseFloor& one : answer.floors)
    table.row({about.label(one.series), one.phase, three_digits(one.phase_ms),
               with_range(one.floor_ms, one.floor_interval), capacity_cell(about, one.capacity),
               one.is_measured ? "measured" : "subtracted"});
  return table;
}

std::string breakdown_text(const About& about, const BreakdownAnswer& answer) {
  std::string text;
  for (const PairBreakdown& pair : answer.pairs) text += pair_text(about, pair);
  for (const std::string& pair : answer.not_measured_together)
    text += fmt::format("No place holds visits of both {}: measure them at one count.\n\n", pair);
  if (answer.floors.empty()) return text;
  return text + fmt::format("If a phase cost nothing\n\n{}\n", floors_table(about, answer).text());
}

void add_breakdown_json(Json& json, const About& about, const BreakdownAnswer& answer) {
  if (answer.empty()) return;
  Json& differences = rows_of(json, "differences");
  for (const PairBreakdown& pair : answer.pairs) {
    Json row = part_row(about, pair, "whole", pair.whole);
    row["page_faults_more"] = pair.page_faults ? Json(pair.page_faults->ms) : Json(nullptr);
    differences.push_back(std::move(row));
    add_parts(json, about, pair);
    add_counters(json, about, pair);
  }
  Json& floors = rows_of(json, "floors");
  for (const PhaseFloor& one : answer.floors) {
    Json row = row_of(about, one.series);
    row["phase"] = one.phase;
    row["phase_ms"] = one.phase_ms;
    row["floor_ms"] = one.floor_ms;
    add_interval(row, one.floor_interval, "low_ms", "high_ms");
    row["measured"] = one.is_measured;
    row["budget_ms"] = answer.budget_ms;
    row["capacity"] = place_json(one.capacity.at, about.axis);
    row["capacity_low"] = place_json(one.capacity.interval.low, about.axis);
    row["capacity_high"] = place_json(one.capacity.interval.high, about.axis);
    floors.push_back(std::move(row));
  }
}

}  // namespace mileage
