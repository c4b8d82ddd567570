#include "views/capacity_view.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "analysis/statistics/constants.h"
#include "types/notation.h"
#include "types/scenario_knobs.h"
#include "types/text.h"
#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

/// How many times its largest count a missing capacity is looked for.
constexpr double look_as_far_as = 8;
/// And how far below its smallest one, where that is over the budget.
constexpr double look_as_far_below = 1000;

/// As an option reads it: whole rates as a rate.
std::string budget_option(double budget_ms) {
  const double rate = 1000 / budget_ms;
  return std::fabs(rate - std::round(rate)) < 1e-6 ? fmt::format("{:.0f}hz", rate)
                                                   : fmt::format("{}ms", three_digits(budget_ms));
}

std::vector<const SeriesCapacity*> capacities_for(const CapacityAnswer& answer, double budget_ms) {
  std::vector<const SeriesCapacity*> found;
  for (const SeriesCapacity& one : answer.capacities)
    if (one.capacity.budget_ms == budget_ms) found.push_back(&one);
  return found;
}

bool is_bounded(const CapacityAnswer& answer, const std::string& label, double budget_ms) {
  return std::any_of(answer.bounds.begin(), answer.bounds.end(),
                     [&](const CapacityBound& bound) { return bound.label == label && bound.budget_ms == budget_ms; });
}

std::string at_least_text(const About& about, const CapacityBound& bound) {
  return "at least " + place_text(bound.at_least, about.axis);
}

/// Of capped recordings.
void add_bound_row(TextTable& table, const About& about, const CapacityBound& bound) {
  table.row({bound.label, at_least_text(about, bound),
             bound.below ? fmt::format("below {}", place_text(*bound.below, about.axis)) : "",
             "capped recordings: a bound"});
}

bool goes_less_far(const SeriesCapacity* a, const SeriesCapacity* b) {
  return a->capacity.at.value_or(0) < b->capacity.at.value_or(0);
}

std::string capacity_words(const About& about, const SeriesCapacity& one) {
  const std::string place = place_text(*one.capacity.at, about.axis);
  return about.axis.is_whole ? fmt::format("{} holds {} {}", about.label(one.series), place, about.axis.things)
                             : fmt::format("{} goes up to {} {}", about.label(one.series), about.axis.name, place);
}

/// Whether the largest measured place may be over the budget, by the interval of its cost.
bool may_be_over(const SeriesCapacity& one) { return one.holds_at_least < one.measured_to; }

/// Of series that no measured count brought over the budget: the best of all. Those that hold it as far stand together.
std::vector<std::string> within_words(const About& about, const std::vector<const SeriesCapacity*>& all) {
  std::vector<std::string> words;
  std::map<std::pair<double, bool>, std::vector<std::string>, std::greater<>> names;
  for (const SeriesCapacity* one : all)
    if (!about.series[one->series].series.is_floor() && !one->capacity.at &&
        one->capacity.none != NoCapacity::over_at_once && one->capacity.none != NoCapacity::within_up_to_failure)
      names[{one->holds_at_least, may_be_over(*one)}].push_back(about.label(one->series));
  for (const auto& [holds, of] : names)
    words.push_back(fmt::format("{} stay{} within it as far as {} ({})", fmt::join(of, ", "), of.size() == 1 ? "s" : "",
                                holds.second ? "can be told" : "measured", named_place(holds.first, about.axis)));
  return words;
}

/// Of series that fit up to where they fail.
std::vector<std::string> failing_words(const About& about, const std::vector<const SeriesCapacity*>& all) {
  std::vector<std::string> words;
  for (const SeriesCapacity* one : all)
    if (one->capacity.none == NoCapacity::within_up_to_failure && about.series[one->series].fails_from)
      words.push_back(fmt::format("{} holds at least {} and fails at {}", about.label(one->series),
                                  place_text(one->holds_at_least, about.axis),
                                  place_text(*about.series[one->series].fails_from, about.axis)));
  return words;
}

/// Whether a capacity is smaller than everything else that is said.
bool is_smallest(const SeriesCapacity& one, const std::vector<const SeriesCapacity*>& all) {
  return std::all_of(all.begin(), all.end(), [&](const SeriesCapacity* other) {
    return other == &one || other->capacity.none == NoCapacity::over_at_once ||
           other->capacity.at.value_or(other->holds_at_least) >= *one.capacity.at;
  });
}

/// The capacity, or how far it lies at least.
std::string capacity_cell(const About& about, const SeriesCapacity& one) {
  if (one.capacity.at) return place_text(*one.capacity.at, about.axis);
  if (one.capacity.none == NoCapacity::over_at_once) return "none";
  return "at least " + place_text(one.holds_at_least, about.axis);
}

std::string tail_text(const About& about, const SeriesCapacity& one) {
  if (!one.tail) return fmt::format("not enough frames ({} of {})", one.tail_frames, frames_for_tail);
  if (one.tail->none == NoCapacity::over_at_once) return "below " + place_text(one.tail_from, about.axis);
  if (!one.tail->at) return no_capacity_text(one.tail->none);
  return fmt::format("{} {}", place_text(*one.tail->at, about.axis), interval_text(one.tail->interval, about.axis));
}

/// Whether any series has the figure for 99 % of frames: a column of reasons helps nobody.
bool has_tails(const std::vector<const SeriesCapacity*>& rows) {
  return std::any_of(rows.begin(), rows.end(), [](const SeriesCapacity* one) { return one->tail.has_value(); });
}

void add_capacity_columns(TextTable& table, bool with_tails) {
  table.column("variant");
  table.column("capacity", Align::right);
  table.column("95 % interval");
  table.column("read");
  if (with_tails) table.column("for 99 % of frames");
}

std::string capacity_interval_cell(const About& about, const Capacity& capacity) {
  return capacity.at ? interval_or_reason(capacity.interval, about.axis, capacity.interval_missing) : "";
}

/// Where the capacity was read, or why there is none.
std::string reading_cell(const About& about, const SeriesCapacity& one) {
  if (one.capacity.at) return source_text(one.capacity.source);
  if (one.capacity.none == NoCapacity::over_at_once || !may_be_over(one)) return no_capacity_text(one.capacity.none);
  return "it may be over the budget at " + place_text(one.measured_to, about.axis);
}

void add_capacity_row(TextTable& table, const About& about, const SeriesCapacity& one, bool with_tails) {
  const Capacity& capacity = one.capacity;
  std::vector<std::string> row{about.label(one.series), capacity_cell(about, one),
                               capacity_interval_cell(about, capacity)};
  row.push_back(reading_cell(about, one));
  if (with_tails) row.push_back(tail_text(about, one));
  table.row(std::move(row));
}

/// What still holds the budget is rounded down.
Json capacity_place(const std::optional<double>& at, const Axis& axis) {
  return place_json(at && axis.is_whole ? std::optional(std::floor(*at)) : at, axis);
}

Json capacity_row(const About& about, std::size_t series, const Capacity& capacity, const char* statistic) {
  Json row = row_of(about, series);
  row["statistic"] = statistic;
  row["budget_ms"] = capacity.budget_ms;
  row[about.axis.name] = capacity_place(capacity.at, about.axis);
  row["low"] = place_json(capacity.interval.low, about.axis);
  row["high"] = place_json(capacity.interval.high, about.axis);
  row["extrapolated"] = capacity.at.has_value() && capacity.source == Source::extrapolated;
  if (capacity.at) row["read"] = source_name(capacity.source);
  if (!capacity.at) row["reason"] = no_capacity_text(capacity.none);
  if (!capacity.interval_missing.empty()) row["interval_missing"] = capacity.interval_missing;
  return row;
}

Json too_few_frames_row(const About& about, const SeriesCapacity& one) {
  Json row = row_of(about, one.series);
  row["budget_ms"] = one.capacity.budget_ms;
  row[about.axis.name] = row["low"] = row["high"] = nullptr;
  row["extrapolated"] = false;
  row["reason"] = "not enough frames";
  row["frames"] = one.tail_frames;
  row["statistic"] = "99%";
  return row;
}

/// Where even the smallest place with enough frames is over the budget, smaller ones may still hold it.
Json tail_row(const About& about, const SeriesCapacity& one) {
  if (!one.tail) return too_few_frames_row(about, one);
  Json row = capacity_row(about, one.series, *one.tail, "99%");
  if (one.tail->none != NoCapacity::over_at_once) return row;
  row["reason"] = "over the budget at the smallest count with enough frames";
  row["below"] = place_json(one.tail_from, about.axis);
  return row;
}

Json headroom_row(const About& about, const Headroom& one) {
  Json row = row_of(about, one.series);
  row["budget_ms"] = one.budget_ms;
  row[about.axis.name] = place_json(one.x, about.axis);
  row["ms"] = one.cost->ms;
  add_interval(row, one.cost->interval, "low_ms", "high_ms");
  row["share"] = one.share;
  row["left_ms"] = one.left_ms;
  return row;
}

/// Options that ask for the same series again.
std::string options_of(const Scenario& scenario, const Series& series) {
  std::string options;
  for (const auto& [name, value] : series.knobs.values())
    if (!is_preset(scenario, series.variant, name, value))
      options += " --knob " + shell_word(fmt::format("{}={}", name, text_of(value)));
  if (series.is_cold()) options += " --cold " + bytes_text(series.cold_bytes);
  if (!series.build.empty()) options += " --builds " + shell_word(series.build + "=PROGRAM");
  return options;
}

/// The verb that measures a study of this kind, and what it is told to measure.
std::string measuring_verb(const About& about) {
  const Head& head = about.head;
  if (head.made_by == MadeBy::game) return "drive";
  if (head.made_by == MadeBy::program) return "measure --scenario " + shell_word(head.scenario.name);
  return "measure " + (head.plan_file.empty() ? "PLAN.toml" : shell_word(head.plan_file));
}

}  // namespace

const char* no_capacity_text(NoCapacity none) {
  switch (none) {
    case NoCapacity::there_is_one:
      return "";
    case NoCapacity::over_at_once:
      return "over the budget at once";
    case NoCapacity::within_as_measured:
      return "within the budget as far as measured";
    case NoCapacity::within_as_far_as_trusted:
      return "within the budget up to twice what was measured";
    case NoCapacity::within_up_to_failure:
      return "within the budget up to the count at which it fails";
  }
  return "";
}

TextTable capacity_table(const About& about, const CapacityAnswer& answer, double budget_ms) {
  TextTable table;
  const auto rows = capacities_for(answer, budget_ms);
  add_capacity_columns(table, has_tails(rows));
  for (const SeriesCapacity* one : rows)
    if (!is_bounded(answer, about.label(one->series), budget_ms)) add_capacity_row(table, about, *one, has_tails(rows));
  for (const CapacityBound& bound : answer.bounds)
    if (bound.budget_ms == budget_ms) add_bound_row(table, about, bound);
  return table;
}

TextTable capacities_side_by_side() {
  TextTable table;
  table.column("study");
  table.column("budget", Align::right);
  table.column("variant");
  table.column("capacity", Align::right);
  table.column("95 % interval");
  table.column("for 99 % of frames");
  return table;
}

void add_capacities_side_by_side(TextTable& table, const About& about, const CapacityAnswer& answer) {
  for (const SeriesCapacity& one : answer.capacities)
    table.row({about.study, ms_text(one.capacity.budget_ms), about.label(one.series), capacity_cell(about, one),
               capacity_interval_cell(about, one.capacity), one.tail ? tail_text(about, one) : ""});
}

TextTable headroom_table(const About& about, const CapacityAnswer& answer, double budget_ms) {
  TextTable table;
  table.column(about.axis.things, Align::right);
  table.column("variant");
  table.column("ms a frame", Align::right);
  table.column("95 % interval");
  table.column("share of the budget", Align::right);
  table.column("ms left", Align::right);
  for (const Headroom& one : answer.headroom) {
    if (one.budget_ms != budget_ms) continue;
    std::vector<std::string> row{place_text(one.x, about.axis), about.label(one.series)};
    const std::vector<std::string> rest =
        one.cost ? std::vector<std::string>{three_digits(one.cost->ms), range_text(one.cost->interval),
                                            three_digits(100 * one.share) + " %", three_digits(one.left_ms)}
                 : std::vector<std::string>{"", "", "", "not measured there"};
    row.insert(row.end(), rest.begin(), rest.end());
    table.row(std::move(row));
  }
  return table;
}

std::vector<std::string> missing_measurements(const About& about, const CapacityAnswer& answer) {
  std::vector<std::string> commands;
  if (about.head.made_by == MadeBy::tables || !about.axis.is_whole) return commands;  // by no command of this tool
  // Variants that are asked for alike stand in one command.
  std::vector<std::pair<std::string, std::vector<std::string>>> alike;
  for (const SeriesCapacity& one : answer.capacities) {
    if (one.capacity.at || one.capacity.none == NoCapacity::within_up_to_failure) continue;
    const bool is_over = one.capacity.none == NoCapacity::over_at_once;
    if (is_over && one.measured_from < 2) continue;
    const double from = is_over ? std::max(1.0, one.measured_from / look_as_far_below) : one.holds_at_least;
    const double to = is_over ? one.measured_from : look_as_far_as * one.measured_to;
    const Series& series = about.series[one.series].series;
    const std::string rest =
        fmt::format("{} --counts {}..{} --for capacity@{}{} -o more.study.jsonl",
                    options_of(about.head.scenario, series), count_text(from), count_text(to),
                    budget_option(one.capacity.budget_ms), about.head.plan.goal.for_99 ? ":99%" : "");
    auto same = std::find_if(alike.begin(), alike.end(), [&](const auto& other) { return other.first == rest; });
    if (same == alike.end()) same = alike.insert(alike.end(), {rest, {}});
    std::vector<std::string>& variants = same->second;
    if (std::find(variants.begin(), variants.end(), series.variant) == variants.end())
      variants.push_back(series.variant);
  }
  for (const auto& [rest, variants] : alike)
    commands.push_back(pasted_command(fmt::format("{} --variants {}{}", measuring_verb(about),
                                                  shell_word(fmt::format("{}", fmt::join(variants, ","))), rest)));
  return commands;
}

std::string capacity_sentence(const About& about, const CapacityAnswer& answer, double budget_ms) {
  const auto all = capacities_for(answer, budget_ms);
  std::vector<const SeriesCapacity*> ranked;
  std::vector<std::string> parts, over;
  for (const SeriesCapacity* one : all) {
    if (about.series[one->series].series.is_floor()) continue;  // no way to do the work
    if (one->capacity.at) ranked.push_back(one);
    if (one->capacity.none == NoCapacity::over_at_once && !is_bounded(answer, about.label(one->series), budget_ms))
      over.push_back(about.label(one->series));
  }
  parts = within_words(about, all);
  for (const CapacityBound& bound : answer.bounds)
    if (bound.budget_ms == budget_ms)
      parts.push_back(fmt::format("{} holds {} {}{}", bound.label, at_least_text(about, bound), about.axis.things,
                                  bound.below ? fmt::format(" and not {}", place_text(*bound.below, about.axis)) : ""));
  const std::vector<std::string> failing = failing_words(about, all);
  if (ranked.empty() && parts.empty() && failing.empty())
    return fmt::format("No capacity can be read for {}.", budget_text(budget_ms, answer.reserve_ms));
  std::stable_sort(ranked.begin(), ranked.end(),
                   [](const SeriesCapacity* a, const SeriesCapacity* b) { return goes_less_far(b, a); });
  const std::size_t named_in_full = parts.size();
  for (const SeriesCapacity* one : ranked) {
    const bool is_last = one == ranked.back() && !parts.empty() && is_smallest(*one, all);
    parts.push_back(parts.size() == named_in_full && !is_last
                        ? capacity_words(about, *one)
                        : fmt::format("{}{} {}", about.label(one->series), is_last ? " only" : "",
                                      place_text(*one->capacity.at, about.axis)));
  }
  parts.insert(parts.end(), failing.begin(), failing.end());
  const std::string at_once =
      over.empty() ? ""
                   : fmt::format("; {} {} over it at once", fmt::join(over, ", "), over.size() == 1 ? "is" : "are");
  return fmt::format("In {}, {}{}.", budget_text(budget_ms, answer.reserve_ms), fmt::join(parts, ", "), at_once);
}

std::string tail_line(const About& about, const CapacityAnswer& answer, double budget_ms) {
  const auto rows = capacities_for(answer, budget_ms);
  if (has_tails(rows)) return "99 % of frames: of this machine as it was, its slow moments within visits included.\n\n";
  const bool is_asked = about.axis.is_whole && about.head.made_by != MadeBy::tables &&
                        std::any_of(rows.begin(), rows.end(), [](const auto* one) { return one->capacity.at; });
  if (!is_asked) return "";
  const auto budget = std::find(answer.budgets_ms.begin(), answer.budgets_ms.end(), budget_ms);
  return fmt::format("For 99 % of frames, measure --for capacity@{}:99%: about {:.0f} s per variant.\n\n",
                     budget_option(budget_ms),
                     answer.times_for_99_s[static_cast<std::size_t>(budget - answer.budgets_ms.begin())]);
}

std::string capacity_text(const About& about, const CapacityAnswer& answer) {
  std::string text;
  for (const double budget_ms : answer.budgets_ms) {
    text += fmt::format("{}\n\n{}\n", capacity_sentence(about, answer, budget_ms),
                        capacity_table(about, answer, budget_ms).text());
    text += tail_line(about, answer, budget_ms);
    if (!answer.headroom.empty()) text += headroom_table(about, answer, budget_ms).text() + "\n";
  }
  return text;
}

std::string missing_measurements_text(const About& about, const CapacityAnswer& answer) {
  const std::vector<std::string> commands = missing_measurements(about, answer);
  if (commands.empty()) return {};
  std::string text = "To measure what is missing:\n";
  for (const std::string& command : commands) text += "  " + command + "\n";
  return text + "\n";
}

void add_capacity_json(Json& json, const About& about, const CapacityAnswer& answer) {
  Json& capacities = rows_of(json, "capacities");
  for (const SeriesCapacity& one : answer.capacities) {
    capacities.push_back(capacity_row(about, one.series, one.capacity, "typical"));
    const bool is_within = !one.capacity.at && one.capacity.none != NoCapacity::over_at_once;
    capacities.back()["at_least"] = is_within ? place_json(one.holds_at_least, about.axis) : Json(nullptr);
    capacities.push_back(tail_row(about, one));
  }
  Json& bounds = rows_of(json, "capacity_bounds");
  for (const CapacityBound& bound : answer.bounds) {
    Json row = row_of(about);
    row["series"] = bound.label;
    row["budget_ms"] = bound.budget_ms;
    row["at_least"] = place_json(bound.at_least, about.axis);
    row["below"] = place_json(bound.below, about.axis);
    bounds.push_back(std::move(row));
  }
  Json& headroom = rows_of(json, "headroom");
  for (const Headroom& one : answer.headroom)
    if (one.cost) headroom.push_back(headroom_row(about, one));
}

}  // namespace mileage
