#include "views/tables.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/tail.h"
#include "study/csv_reader.h"
#include "types/notation.h"
#include "types/text.h"
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
  return findings.axis == "count" ? fmt::format("{} holds {} {}", label(findings, one.series), place_text(*one.capacity.at, findings.axis),
                                               findings.head.scenario.entities)
                                  : fmt::format("{} goes up to {} {}", label(findings, one.series), findings.axis,
                                                place_text(*one.capacity.at, findings.axis));
}

std::string tail_text(const Findings& findings, const CapacityFinding& one) {
  if (!one.tail) return fmt::format("not enough frames ({} of {})", one.tail_frames, frames_for_tail);
  if (!one.tail->at) return no_capacity_text(one.tail->none);
  return fmt::format("{} {}", place_text(*one.tail->at, findings.axis), interval_text(one.tail->interval, findings.axis));
}

/// A row of a table of capacities, after the columns that the caller fills.
void add_capacity_row(TextTable& table, std::vector<std::string> row, const Findings& findings, const CapacityFinding& one) {
  const Capacity& capacity = one.capacity;
  row.push_back(label(findings, one.series));
  row.push_back(capacity.at ? place_text(*capacity.at, findings.axis) : "none");
  row.push_back(capacity.at ? interval_or(capacity.interval, findings.axis, capacity.interval_missing) : "");
  row.push_back(capacity.at ? source_text(capacity.source) : no_capacity_text(capacity.none));
  row.push_back(tail_text(findings, one));
  table.row(std::move(row));
}

/// "(0.218 to 0.235)".
std::string range_text(const Interval& interval) {
  return interval.closed() ? fmt::format("({} to {})", three_digits(*interval.low), three_digits(*interval.high)) : "(no interval)";
}

/// "0.227 (0.218 to 0.235)".
std::string with_range(double value, const Interval& interval) {
  return three_digits(value) + (interval.closed() ? " " + range_text(interval) : "");
}

/// What a stretch saves against the first series at its ends, as far as that was measured.
std::string saving_text(const Findings& findings, const GroupFinding& group, const Stretch& stretch) {
  const Curve& first = findings.series[group.members.front()].curve.all;
  const Curve& used = findings.series[stretch.use].curve.all;
  if (stretch.use == group.members.front()) return "";
  const auto saves = [&](double x) { return three_digits(std::exp(first.log_ms_at(x)) - std::exp(used.log_ms_at(x))); };
  const double to = std::min(stretch.to, first.most());
  if (to < stretch.from) return "it was not measured that far";
  return fmt::format("{} ms to {} ms at {}", saves(stretch.from), saves(to), place_text(to, findings.axis));
}

/// Only a set-up that is dearer than the first one's has to be earned back.
std::string payback_text(const CostFinding::Cost& cost) {
  if (!cost.payback_frames) return "";
  return fmt::format("{:.0f} frame{} ({} s at 60 Hz)", *cost.payback_frames, *cost.payback_frames == 1 ? "" : "s",
                     three_digits(*cost.payback_frames / 60));
}

std::pair<std::size_t, std::size_t> below_and_above(const PairFinding& pair, const BreakEven& one) {
  return one.cheaper_below == Side::one ? std::pair{pair.one, pair.other} : std::pair{pair.other, pair.one};
}

std::string exponent_text(const SeriesFinding& series) {
  return series.exponent ? with_range(*series.exponent, series.exponent_interval) : "?";
}

std::string per_entity_ns(const PointFinding& point) { return three_digits(point.ms * 1e6 / point.x); }

/// "410 each of 3 kinds".
std::string divided_text(double count, const Divider& divider) {
  return fmt::format("{} each of {} {}", count_text(count / divider.number), count_text(divider.number),
                     divider.number == 1 ? singular(divider.knob) : divider.knob);
}

bool answers_alike(const std::optional<DeviceShare>& one, const std::optional<DeviceShare>& other) {
  if (!one || !other) return !one && !other;
  return one->by_timer == other->by_timer && one->shares_cores == other->shares_cores &&
         (one->shares_cores || one->device_runs_out_first() == other->device_runs_out_first());
}

const char* runs_out_text(const DeviceShare& share) {
  if (share.shares_cores) return "the cores, which both share";
  return share.device_runs_out_first() ? "the device" : "the processor";
}

std::string law_words(const Findings& findings, const SeriesFinding& series) {
  const Curve& curve = series.curve.all;
  if (curve.law) return laws_text(curve.names, one_along_axis(findings));
  return curve.not_tested != NotTested::tested ? not_tested_text(curve.not_tested)
                                               : "no law fits; the points speak for themselves";
}

}  // namespace

TextTable capacity_table(const Findings& findings, double budget_ms) {
  TextTable table;
  table.column("variant");
  table.column("capacity", Align::right);
  table.column("95 % interval");
  table.column("read");
  table.column("for 99 % of frames");
  for (const CapacityFinding* one : capacities_for(findings, budget_ms)) add_capacity_row(table, {}, findings, *one);
  return table;
}

TextTable capacity_table(const std::vector<Findings>& studies) {
  TextTable table;
  table.column("study");
  table.column("processor");
  table.column("budget", Align::right);
  table.column("variant");
  table.column("capacity", Align::right);
  table.column("95 % interval");
  table.column("read");
  table.column("for 99 % of frames");
  for (const Findings& findings : studies)
    for (const CapacityFinding& one : findings.capacities)
      add_capacity_row(table, {findings.study, findings.head.machine.processor, ms_text(one.capacity.budget_ms)}, findings, one);
  return table;
}

TextTable headroom_table(const Findings& findings, double budget_ms) {
  TextTable table;
  table.column(along_axis_text(findings), Align::right);
  table.column("variant");
  table.column("ms a frame", Align::right);
  table.column("95 % interval");
  table.column("share of the budget", Align::right);
  table.column("ms left", Align::right);
  for (const PlaceFinding& one : findings.places) {
    const std::string place = place_text(one.x, findings.axis);
    if (one.ms)
      table.row({place, label(findings, one.series), three_digits(*one.ms), range_text(one.interval), three_digits(100 * *one.ms / budget_ms) + " %",
                 three_digits(budget_ms - *one.ms)});
    else
      table.row({place, label(findings, one.series), "", "", "", "not measured there"});
  }
  return table;
}

std::vector<std::string> missing_measurements(const Findings& findings) {
  std::vector<std::string> commands;
  if (findings.head.imported) return commands;  // by no command of this tool
  for (const CapacityFinding& one : findings.capacities) {
    if (one.capacity.at || one.capacity.none == NoCapacity::over_at_once || findings.axis != "count") continue;
    const SeriesFinding& series = findings.series[one.series];
    std::string knobs;
    for (const auto& [name, value] : series.series.knobs.values())
      knobs +=
          " --knob " + shell_word(fmt::format(
                           "{}={}", name, std::visit([](const auto& held) { return fmt::format("{}", held); }, value)));
    if (series.series.is_cold()) knobs += " --cold " + bytes_text(series.series.cold_bytes);
    if (!series.series.build.empty()) knobs += " --builds " + shell_word(series.series.build + "=PROGRAM");
    const double from = series.curve.all.most();
    const bool is_driven = findings.runs > 0;
    const Head& head = findings.head;
    const std::string plan = head.plan_file.empty() ? "PLAN.toml" : shell_word(head.plan_file);
    const std::string what = is_driven ? "drive"
                             : head.commands.empty() && !head.plan.by_hand
                                 ? "measure --scenario " + shell_word(head.scenario.name)
                                 : "measure " + plan;
    const std::string command =
        fmt::format("mileage {} --variants {}{} --counts {}..{} --for capacity@{}ms -o more.study.jsonl", what,
                    shell_word(series.series.variant), knobs, count_text(from), count_text(8 * from),
                    three_digits(one.capacity.budget_ms));
    if (std::find(commands.begin(), commands.end(), command) == commands.end()) commands.push_back(command);
  }
  return commands;
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
  table.column("does not matter between");
  const bool divided = std::any_of(findings.pairs.begin(), findings.pairs.end(), [](const PairFinding& pair) { return pair.divider.has_value(); });
  if (divided) table.column("that is");
  for (const PairFinding& pair : findings.pairs)
    for (const BreakEven& one : pair.answer.break_evens) {
      const auto [below, above] = below_and_above(pair, one);
      std::vector<std::string> row{label(findings, below), place_text(one.at, findings.axis),
                                   interval_or(one.interval, findings.axis, one.interval_missing), label(findings, above),
                                   fmt::format("{} and {}", place_text(*one.even.low, findings.axis), place_text(*one.even.high, findings.axis))};
      if (divided) row.push_back(pair.divider ? divided_text(one.at, *pair.divider) : "");
      table.row(std::move(row));
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
  table.column(along_axis_text(findings), Align::right);
  table.column("variant");
  table.column("ms a frame (95 %)");
  table.column("saves ms", Align::right);
  table.column("takes of the first one's time");
  table.column("set-up ms", Align::right);
  table.column("earned back after");
  for (const CostFinding& place : group.costs)
    for (const CostFinding::Cost& cost : place.costs) {
      if (!cost.ms) continue;
      const bool is_first = cost.series == group.members.front();
      const bool has_first = place.costs.front().ms.has_value();
      table.row({place_text(place.x, findings.axis), label(findings, cost.series),
                 with_range(*cost.ms, cost.ms_interval), is_first || !has_first ? "" : three_digits(cost.saves_ms),
                 is_first    ? "1"
                 : has_first ? with_range(cost.share, cost.share_interval)
                             : first + " was not measured that far",
                 cost.setup_ms ? three_digits(*cost.setup_ms) : "not known", payback_text(cost)});
    }
  return table;
}

TextTable growth_table(const Findings& findings) {
  TextTable table;
  const std::string one = one_along_axis(findings);
  table.column("variant");
  table.column("exponent (95 %)");
  table.column("at the ends");
  table.column("measured");
  table.column(fmt::format("ns {} there", with_article(one)));
  for (const SeriesFinding& series : findings.series) {
    const PointFinding& first = series.points.front();
    const PointFinding& last = series.points.back();
    table.row(
        {series.label, exponent_text(series),
         series.exponent_at_least && series.exponent_at_most
             ? fmt::format("{} to {}", three_digits(*series.exponent_at_least), three_digits(*series.exponent_at_most))
             : "not known",
         fmt::format("{} to {}", place_text(first.x, findings.axis), place_text(last.x, findings.axis)),
         fmt::format("{} to {}", per_entity_ns(first), per_entity_ns(last))});
  }
  return table;
}

TextTable law_table(const Findings& findings) {
  TextTable table;
  table.column("variant");
  table.column("law");
  for (const SeriesFinding& series : findings.series) table.row({series.label, law_words(findings, series)});
  return table;
}

std::vector<std::string> knee_lines(const Findings& findings) {
  std::vector<std::string> lines;
  for (const SeriesFinding& series : findings.series)
    for (std::size_t i = 0; i < series.knees.size(); ++i) {
      const KneeFinding& knee = series.knees[i];
      lines.push_back(fmt::format("{}: {} {}{}", series.label, knee_text(*series.curve.all.law, i), interval_text(knee.interval, findings.axis),
                                  knee.cache.empty() ? "" : fmt::format("; so many take about as much memory as {} holds", knee.cache)));
    }
  return lines;
}

TextTable point_table(const Findings& findings, const SeriesFinding& series) {
  TextTable table;
  table.column(along_axis_text(findings), Align::right);
  table.column("ms a frame", Align::right);
  table.column("95 % interval", Align::right);
  table.column("ns " + with_article(one_along_axis(findings)), Align::right);
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
  const std::string one = one_along_axis(findings);
  const double cores = std::max(1, findings.head.machine.cores);
  TextTable table;
  table.column(along_axis_text(findings), Align::right);
  table.column("part");
  table.column("a frame", Align::right);
  table.column("share of the frame", Align::right);
  table.column(with_article(one), Align::right);
  table.column("a second", Align::right);
  for (const CellDetail& cell : series.details) {
    const std::string place = place_text(cell.x, findings.axis);
    const auto time_row = [&](const std::string& part, double ms) {
      table.row({place, part, ms_text(ms), three_digits(ms / cell.frame_ms), three_digits(ms * 1e6 / cell.x) + " ns", ""});
    };
    time_row(cell.frames_per_sample > 1 ? fmt::format("wall time (in runs of {} frames)", cell.frames_per_sample) : "wall time", cell.frame_ms);
    const auto known_row = [&](const std::string& part, const std::optional<double>& ms) {
      ms ? time_row(part, *ms) : table.row({place, part, "not known", "", "", ""});
    };
    known_row("its thread busy", cell.thread_busy_ms);
    known_row(cell.cores_used() ? fmt::format("all threads: {} of {} cores used", three_digits(*cell.cores_used()),
                                              three_digits(cores))
                                : "all threads",
              cell.processor_ms);
    if (cell.whole_cores_used)
      table.row({place,
                 fmt::format("the whole run, set-up included: {} of {} cores used",
                             three_digits(*cell.whole_cores_used), three_digits(cores)),
                 "", "", "", ""});
    for (const auto& [name, ms] : cell.phases_ms) time_row("phase " + name, ms);
    for (const auto& [name, amount] : cell.counters)
      table.row({place, "counter " + name, three_digits(amount), "", three_digits(amount / cell.x), three_digits(cell.per_second(amount))});
    table.row({place, "memory beyond the smallest world", "", "",
               cell.bytes_per_entity ? three_digits(*cell.bytes_per_entity) + " bytes" : "not known", ""});
    if (cell.peak_bytes) table.row({place, "memory at most: " + memory_text(*cell.peak_bytes), "", "", "", ""});
    if (cell.growth_bytes_per_frame)
      table.row(
          {place, "memory keeps growing (a leak?)", three_digits(*cell.growth_bytes_per_frame) + " bytes", "", "", ""});
  }
  return table;
}

TextTable device_table(const Findings& findings) {
  TextTable table;
  table.column("variant");
  table.column("from", Align::right);
  table.column("to", Align::right);
  table.column("processor", Align::right);
  table.column("device", Align::right);
  table.column("told by");
  table.column("runs out first");
  const auto at_both_ends = [](double from_ms, double to_ms) { return fmt::format("{} to {}", three_digits(from_ms), ms_text(to_ms)); };
  for (const SeriesFinding& series : findings.series)
    for (std::size_t from = 0; from < series.device_shares.size();) {
      std::size_t end = from + 1;
      while (end < series.device_shares.size() && answers_alike(series.device_shares[from], series.device_shares[end])) ++end;
      if (const auto& first = series.device_shares[from]) {
        const DeviceShare& last = *series.device_shares[end - 1];
        table.row({series.label, place_text(series.details[from].x, findings.axis), place_text(series.details[end - 1].x, findings.axis),
                   at_both_ends(first->processor_ms, last.processor_ms), at_both_ends(first->device_ms, last.device_ms),
                   first->by_timer ? "its timer" : "waiting for it", runs_out_text(*first)});
      }
      from = end;
    }
  return table;
}

std::string summaries_csv(const Findings& findings) {
  std::string csv = fmt::format("series,{},ms,low,high,visits,ns_each\n", csv_field(findings.axis));
  const auto end = [](const std::optional<double>& ms) { return ms ? fmt::format("{}", *ms) : std::string(); };
  for (const SeriesFinding& series : findings.series)
    for (const PointFinding& point : series.points)
      csv += fmt::format("{},{},{},{},{},{},{}\n", csv_field(series.label), point.x, point.ms, end(point.interval.low), end(point.interval.high),
                         point.visits, point.ms * 1e6 / point.x);
  return csv;
}

std::string quietness_text(const Findings& findings) {
  const Quietness& quiet = findings.quiet;
  if (!quiet.level_ns) return "no yardstick was taken beside these visits: a slow machine cannot be told from a slow variant";
  std::string text = fmt::format("yardstick {} us", three_digits(*quiet.level_ns * 1e-3));
  if (quiet.remembered_ns) text += fmt::format(" ({} times its best)", three_digits(*quiet.level_ns / *quiet.remembered_ns));
  text += fmt::format("; {} of {} visits disturbed, left out or repeated; {} s waited for quiet", quiet.condemned,
                      quiet.condemned + quiet.kept, three_digits(quiet.waited_s));
  if (!quiet.busy_cores || !quiet.stolen_share) return text + "; load not known";
  return text + fmt::format("; {} cores busy, {} % stolen", three_digits(*quiet.busy_cores),
                            three_digits(100 * *quiet.stolen_share));
}

TextTable against_table(const Findings& findings, const AgainstFinding& one) {
  TextTable table;
  table.column(along_axis_text(findings), Align::right);
  table.column("takes this share of the time of " + label(findings, one.against));
  table.column("95 % interval");
  table.column("saves ms", Align::right);
  for (const AgainstFinding::Place& place : one.places)
    table.row({place_text(place.x, findings.axis), three_digits(place.share), range_text(place.interval), three_digits(place.saves_ms)});
  return table;
}

TextTable everywhere_table(const Findings& findings, const GroupFinding& group) {
  TextTable table;
  table.column("used everywhere");
  table.column("loses at most", Align::right);
  table.column("at", Align::right);
  table.column("times the cost of the choice there", Align::right);
  for (const Everywhere& one : group.everywhere) {
    if (one.loses_ms <= 0)
      table.row({label(findings, one.series), "nothing", "", ""});
    else
      table.row({label(findings, one.series), ms_text(one.loses_ms), place_text(one.at, findings.axis), three_digits(one.takes)});
  }
  return table;
}

std::string advice_sentence(const Findings& findings, const GroupFinding& group, const Advice& advice) {
  std::string costs;
  for (const CostFinding& place : group.costs) {
    if (place.x != advice.at) continue;
    for (const CostFinding::Cost& cost : place.costs)
      if (cost.ms) costs += fmt::format("{}{} {}", costs.empty() ? "" : ", ", label(findings, cost.series), ms_text(*cost.ms));
  }
  const bool first = advice.use == group.members.front();
  const std::string verdict =
      !advice.matters ? "no change is worth it"
      : first         ? fmt::format("stay with {}", label(findings, advice.use))
                      : fmt::format("{} is worth it", label(findings, advice.use));
  const std::string later = !advice.next ? " as far as measured" : fmt::format("; from {} on, {} is", place_text(advice.next_from, findings.axis), label(findings, *advice.next));
  const std::string fits = advice.fits ? "" : " (over the budget, the best that was measured)";
  return fmt::format("At {} {}: {}.\n  So {}{}{}.", place_text(advice.at, findings.axis), along_axis_text(findings), costs, verdict, fits, later);
}

TextTable choice_table(const Findings& findings, const GroupFinding& group) {
  TextTable table;
  table.column("from", Align::right);
  table.column("to", Align::right);
  table.column("use");
  table.column("saves against " + label(findings, group.members.front()));
  table.column("because");
  for (const Stretch& stretch : group.stretches) {
    const bool first = stretch.use == group.members.front();
    const char* because = !stretch.matters ? "no difference is worth it"
                          : first          ? "none of the others saves enough"
                                           : "it saves enough, and none of the simpler ones does";
    table.row({place_text(stretch.from, findings.axis), place_text(stretch.to, findings.axis), label(findings, stretch.use), saving_text(findings, group, stretch),
               stretch.fits ? because : "the best that was measured there, but over the budget"});
  }
  return table;
}

std::string worth_text(const Findings& findings) {
  return fmt::format("Staying with the simplest variant until a later one saves more than {} ({} % of the budget).",
                     ms_text(findings.worth_ms), three_digits(100 * findings.worth_ms / findings.budgets_ms.front()));
}

std::vector<std::string> failure_lines(const Findings& findings, std::size_t most) {
  struct Alike {
    const Failure* first;
    std::set<double> at;
    std::size_t visits = 0;
  };
  std::vector<Alike> kinds;
  for (const Failure& failure : findings.failures) {
    auto kind = std::find_if(kinds.begin(), kinds.end(), [&](const Alike& one) { return one.first->label == failure.label && one.first->reason == failure.reason; });
    if (kind == kinds.end()) kind = kinds.insert(kinds.end(), {&failure, {}, 0});
    kind->at.insert(failure.x);
    ++kind->visits;
  }
  std::vector<std::string> lines;
  for (const Alike& kind : kinds) {
    if (lines.size() == most) {
      lines.push_back(fmt::format("... and {} more of other kinds", kinds.size() - most));
      break;
    }
    std::vector<std::string> places;
    for (const double x : kind.at) places.push_back(place_text(x, findings.axis));
    lines.push_back(fmt::format("{} at {}{}: {}", kind.first->label, fmt::join(places, ", "), kind.visits > 1 ? fmt::format(" ({} visits)", kind.visits) : "",
                                kind.first->reason));
  }
  return lines;
}

}  // namespace mileage
