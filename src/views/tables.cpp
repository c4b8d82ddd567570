#include "views/tables.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

const std::string& label(const Findings& findings, std::size_t series) { return findings.series[series].label; }

std::string interval_or(const Interval& interval, const std::string& axis, const std::string& missing) {
  return missing.empty() ? interval_text(interval, axis) : "none: " + missing;
}

std::vector<const CapacityFinding*> capacities_for(const Findings& findings, double budget_ms) {
  std::vector<const CapacityFinding*> found;
  for (const CapacityFinding& one : findings.capacities)
    if (one.capacity.budget_ms == budget_ms) found.push_back(&one);
  return found;
}

bool goes_less_far(const CapacityFinding* a, const CapacityFinding* b) {
  return a->capacity.at.value_or(0) < b->capacity.at.value_or(0);
}

std::string capacity_words(const Findings& findings, const CapacityFinding& one) {
  return fmt::format("{} holds {} {}", label(findings, one.series), place_text(*one.capacity.at, findings.axis),
                     findings.head.scenario.entities);
}

std::string share_text(const CostFinding::Cost& cost) {
  if (!cost.share_interval.closed()) return three_digits(cost.share);
  return fmt::format("{} ({} to {})", three_digits(cost.share), three_digits(*cost.share_interval.low),
                     three_digits(*cost.share_interval.high));
}

std::pair<std::size_t, std::size_t> below_and_above(const PairFinding& pair, const BreakEven& one) {
  return one.cheaper_below == Side::one ? std::pair{pair.one, pair.other} : std::pair{pair.other, pair.one};
}

std::string exponent_text(const SeriesFinding& series) {
  if (!series.exponent) return "?";
  if (!series.exponent_interval.closed()) return three_digits(*series.exponent);
  return fmt::format("{} ({} to {})", three_digits(*series.exponent), three_digits(*series.exponent_interval.low),
                     three_digits(*series.exponent_interval.high));
}

std::string per_entity_ns(const PointFinding& point) { return three_digits(point.ms * 1e6 / point.x); }

std::string law_words(const Findings& findings, const SeriesFinding& series) {
  const Curve& curve = series.curve.all;
  if (curve.law) return laws_text(curve.names, findings.head.scenario.entities);
  return curve.tests.empty() ? "not tested: no repetition" : "no law fits; the points speak for themselves";
}

}  // namespace

TextTable capacity_table(const Findings& findings, double budget_ms) {
  TextTable table;
  table.column("variant");
  table.column("capacity", Align::right);
  table.column("95 % interval");
  table.column("read");
  for (const CapacityFinding* one : capacities_for(findings, budget_ms)) {
    const Capacity& capacity = one->capacity;
    if (capacity.at)
      table.row({label(findings, one->series), place_text(*capacity.at, findings.axis),
                 interval_or(capacity.interval, findings.axis, capacity.interval_missing), source_text(capacity.source)});
    else
      table.row({label(findings, one->series), "none", "", no_capacity_text(capacity.none)});
  }
  return table;
}

std::string capacity_sentence(const Findings& findings, double budget_ms) {
  auto ranked = capacities_for(findings, budget_ms);
  std::erase_if(ranked, [](const CapacityFinding* one) { return !one->capacity.at; });
  if (ranked.empty()) return fmt::format("No capacity can be read for {}.", budget_text(budget_ms));
  const auto [least, most] = std::minmax_element(ranked.begin(), ranked.end(), goes_less_far);
  const std::string best = capacity_words(findings, **most);
  if (least == most) return fmt::format("In {}, {}.", budget_text(budget_ms), best);
  return fmt::format("In {}, {}, {} only {}.", budget_text(budget_ms), best, label(findings, (*least)->series),
                     place_text(*(*least)->capacity.at, findings.axis));
}

TextTable break_even_table(const Findings& findings) {
  TextTable table;
  table.column("cheaper below");
  table.column("break-even", Align::right);
  table.column("95 % interval");
  table.column("cheaper above");
  table.column("cannot be told between");
  for (const PairFinding& pair : findings.pairs)
    for (const BreakEven& one : pair.answer.break_evens) {
      const auto [below, above] = below_and_above(pair, one);
      table.row({label(findings, below), place_text(one.at, findings.axis),
                 interval_or(one.interval, findings.axis, one.interval_missing), label(findings, above),
                 fmt::format("{} and {}", place_text(*one.even.low, findings.axis), place_text(*one.even.high, findings.axis))});
    }
  return table;
}

std::vector<std::string> lines_without_break_even(const Findings& findings) {
  std::vector<std::string> lines;
  for (const PairFinding& pair : findings.pairs) {
    if (!pair.answer.break_evens.empty()) continue;
    const std::string names = fmt::format("{} and {}", label(findings, pair.one), label(findings, pair.other));
    if (!pair.answer.cheaper) {
      lines.push_back(fmt::format("{}: {}", names, pair.answer.reason));
      continue;
    }
    const std::size_t cheaper = *pair.answer.cheaper == Side::one ? pair.one : pair.other;
    lines.push_back(fmt::format("{}: {} is cheaper {}; it takes {} of the time at {} and {} at {}", names, label(findings, cheaper),
                                pair.answer.throughout ? "throughout" : "where it can be told",
                                three_digits(pair.answer.share_at_lower), place_text(*pair.answer.clear.low, findings.axis),
                                three_digits(pair.answer.share_at_upper), place_text(*pair.answer.clear.high, findings.axis)));
  }
  return lines;
}

std::string break_even_sentence(const Findings& findings) {
  std::size_t found = 0;
  for (const PairFinding& pair : findings.pairs) found += pair.answer.break_evens.size();
  if (findings.pairs.empty()) return "There is only one variant to look at: nothing to compare.";
  const std::string pairs = fmt::format("{} pair{}", findings.pairs.size(), findings.pairs.size() == 1 ? "" : "s");
  if (found == 0) return fmt::format("No break-even among {} in the measured range.", pairs);
  return fmt::format("{} break-even{} among {}.", found, found == 1 ? "" : "s", pairs);
}

TextTable cost_table(const Findings& findings, const GroupFinding& group) {
  TextTable table;
  const std::string first = label(findings, group.members.front());
  table.column(findings.head.scenario.entities, Align::right);
  table.column("variant");
  table.column("ms a frame", Align::right);
  table.column("saves ms", Align::right);
  table.column("takes this share of the time of " + first);
  for (const CostFinding& place : group.costs)
    for (const CostFinding::Cost& cost : place.costs) {
      if (!cost.ms) continue;
      const bool is_first = cost.series == group.members.front();
      const bool has_first = place.costs.front().ms.has_value();
      table.row({place_text(place.x, findings.axis), label(findings, cost.series), three_digits(*cost.ms),
                 is_first || !has_first ? "" : three_digits(cost.saves_ms),
                 is_first ? "1" : has_first ? share_text(cost) : first + " was not measured that far"});
    }
  return table;
}

TextTable growth_table(const Findings& findings) {
  TextTable table;
  const std::string one = one_of(findings.head.scenario.entities);
  table.column("variant");
  table.column("exponent (95 %)");
  table.column("measured");
  table.column(fmt::format("ns a {} there", one));
  table.column("law");
  for (const SeriesFinding& series : findings.series) {
    const PointFinding& first = series.points.front();
    const PointFinding& last = series.points.back();
    table.row({series.label, exponent_text(series),
               fmt::format("{} to {}", place_text(first.x, findings.axis), place_text(last.x, findings.axis)),
               fmt::format("{} to {}", per_entity_ns(first), per_entity_ns(last)), law_words(findings, series)});
  }
  return table;
}

TextTable point_table(const Findings& findings, const SeriesFinding& series) {
  TextTable table;
  table.column(findings.head.scenario.entities, Align::right);
  table.column("ms a frame", Align::right);
  table.column("95 % interval", Align::right);
  table.column(fmt::format("ns a {}", one_of(findings.head.scenario.entities)), Align::right);
  table.column("frames a second", Align::right);
  table.column("visits", Align::right);
  for (const PointFinding& point : series.points)
    table.row({place_text(point.x, findings.axis), three_digits(point.ms),
               point.interval.closed()
                   ? fmt::format("{} to {}", three_digits(*point.interval.low), three_digits(*point.interval.high))
                   : "none",
               per_entity_ns(point), three_digits(1000 / point.ms), fmt::format("{}", point.visits)});
  return table;
}

TextTable parts_table(const Findings& findings, const SeriesFinding& series) {
  const std::string one = one_of(findings.head.scenario.entities);
  const double cores = std::max(1, findings.head.machine.cores);
  TextTable table;
  table.column(findings.head.scenario.entities, Align::right);
  table.column("part");
  table.column("a frame", Align::right);
  table.column("share of the frame", Align::right);
  table.column("a " + one, Align::right);
  for (const CellDetail& cell : series.details) {
    const std::string place = place_text(cell.x, findings.axis);
    const auto time_row = [&](const std::string& part, double ms) {
      table.row({place, part, ms_text(ms), three_digits(ms / cell.frame_ms), three_digits(ms * 1e6 / cell.x) + " ns"});
    };
    time_row(cell.frames_per_sample > 1 ? fmt::format("wall time (in runs of {} frames)", cell.frames_per_sample) : "wall time", cell.frame_ms);
    time_row("its thread busy", cell.thread_busy_ms);
    time_row(fmt::format("all threads: {} of {} cores used", three_digits(cell.cores_used()), three_digits(cores)), cell.processor_ms);
    for (const auto& [name, ms] : cell.phases_ms) time_row("phase " + name, ms);
    for (const auto& [name, amount] : cell.counters)
      table.row({place, "counter " + name, three_digits(amount), "", three_digits(amount / cell.x)});
    table.row({place, "memory", "", "", three_digits(cell.bytes_per_entity) + " bytes"});
    if (cell.growth_bytes_per_frame)
      table.row({place, "memory grows (a leak?)", three_digits(*cell.growth_bytes_per_frame) + " bytes", "", ""});
  }
  return table;
}

std::string quietness_text(const Findings& findings) {
  const Quietness& quiet = findings.quiet;
  if (!quiet.level_ns) return "no yardstick was taken beside these visits: a slow machine cannot be told from a slow variant";
  std::string text = fmt::format("yardstick {} us", three_digits(*quiet.level_ns * 1e-3));
  if (quiet.remembered_ns) text += fmt::format(" ({} times its best)", three_digits(*quiet.level_ns / *quiet.remembered_ns));
  text += fmt::format("; {} of {} visits disturbed, left out or repeated; {} s waited for quiet; {} cores busy, {} % stolen",
                      quiet.condemned, quiet.condemned + quiet.kept, three_digits(quiet.waited_s), three_digits(quiet.busy_cores),
                      three_digits(100 * quiet.stolen_share));
  return text;
}

TextTable choice_table(const Findings& findings, const GroupFinding& group) {
  TextTable table;
  table.column("from", Align::right);
  table.column("to", Align::right);
  table.column("use");
  table.column("because");
  for (const Stretch& stretch : group.stretches) {
    const bool first = stretch.use == group.members.front();
    const char* because = !stretch.matters ? "no difference is worth it"
                          : first          ? "none of the others saves enough"
                                           : "it saves enough, and none of the simpler ones does";
    table.row({place_text(stretch.from, findings.axis), place_text(stretch.to, findings.axis), label(findings, stretch.use),
               stretch.fits ? because : "the best that was measured there, but over the budget"});
  }
  return table;
}

std::string worth_text(const Findings& findings) {
  return fmt::format("Staying with the simplest variant until a later one saves more than {} ({} % of the budget).",
                     ms_text(findings.worth_ms), three_digits(100 * findings.worth_ms / findings.budgets_ms.front()));
}

std::vector<std::string> failure_lines(const Findings& findings, std::size_t most) {
  std::vector<std::string> lines;
  for (const Failure& failure : findings.failures) {
    if (lines.size() == most) {
      lines.push_back(fmt::format("... and {} more", findings.failures.size() - most));
      break;
    }
    lines.push_back(fmt::format("{} at {}: {}", failure.label, place_text(failure.x, findings.axis), failure.reason));
  }
  return lines;
}

}  // namespace mileage
