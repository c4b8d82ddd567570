#include "views/views.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/statistics/constants.h"
#include "types/notation.h"
#include "types/scenario_knobs.h"
#include "types/text.h"
#include "views/words.h"

namespace mileage {
namespace {

const char* source_name(Source source) {
  switch (source) {
    case Source::measured:
      return "measured";
    case Source::extrapolated:
      return "extrapolated";
    case Source::step:
      return "step";
  }
  return "";
}

/// Range for a missing capacity, relative to the largest count measured,
constexpr double look_as_far_as = 8;
/// and to the smallest, if over budget.
constexpr double look_as_far_below = 1000;

/// As an option; whole rates as rates.
std::string budget_option(double budget_ms) {
  const double rate = 1000 / budget_ms;
  return std::fabs(rate - std::round(rate)) < 1e-6 ? fmt::format("{:.0f}hz", rate)
                                                   : fmt::format("{}ms", three_digits(budget_ms));
}

/// Options to select the same series.
std::string options_of(const Scenario& scenario, const Series& series) {
  std::string options;
  for (const auto& [name, value] : series.knobs.values())
    if (!is_default_value(scenario, series.variant, name, value))
      options += " --knob " + shell_word(fmt::format("{}={}", name, text_of(value)));
  if (series.is_cold()) options += " --cold " + bytes_text(series.cold_bytes);
  if (!series.build.empty()) options += " --builds " + shell_word(series.build + "=PROGRAM");
  return options;
}

/// With what it measures.
std::string measuring_verb(const About& about) {
  const Head& head = about.head;
  if (head.made_by == MadeBy::game) return "drive";
  if (head.made_by == MadeBy::program) return "measure --scenario " + shell_word(head.scenario.name);
  return "measure " + (head.plan_file.empty() ? "PLAN.toml" : shell_word(head.plan_file));
}

bool is_bounded(const CapacityAnswer& answer, const std::string& label, double budget_ms) {
  return std::any_of(answer.bounds.begin(), answer.bounds.end(),
                     [&](const CapacityBound& bound) { return bound.label == label && bound.budget_ms == budget_ms; });
}

/// Without a bound from capped recordings.
std::vector<const SeriesCapacity*> read_for(const About& about, const CapacityAnswer& answer, double budget_ms) {
  std::vector<const SeriesCapacity*> found;
  for (const SeriesCapacity& one : answer.capacities)
    if (one.capacity.budget_ms == budget_ms && !is_bounded(answer, about.label(one.series), budget_ms))
      found.push_back(&one);
  return found;
}

std::string known_up_to(const About& about, const SeriesCapacity& one) {
  if (const auto& fails = about.series[one.series].fails_from;
      one.capacity.none == NoCapacity::within_up_to_failure && fails)
    return "fails at " + place_text(*fails, about.axis);
  if (one.holds_at_least < one.measured_to) return place_text(one.measured_to, about.axis) + " may exceed the budget";
  return fmt::format("largest {} measured", about.axis.name);
}

/// What fits is rounded down.
Entry rounded_down(const About& about, const Capacity& capacity) {
  if (!capacity.at) return absent();
  return {about.axis.is_whole ? std::floor(*capacity.at) : *capacity.at, capacity.interval, capacity.interval_missing};
}

Entry typical_cell(const About& about, const SeriesCapacity& one) {
  if (one.capacity.at) return rounded_down(about, one.capacity);
  Entry cell = one.capacity.none == NoCapacity::over_at_once
                   ? absent("below " + place_text(one.measured_from, about.axis))
                   : absent("more than " + place_text(one.holds_at_least, about.axis));
  cell.missing = one.capacity.none == NoCapacity::over_at_once
                     ? fmt::format("over the budget at every {} measured", about.axis.name)
                     : known_up_to(about, one);
  return cell;
}

Entry tail_cell(const About& about, const SeriesCapacity& one) {
  if (!one.tail) return absent();
  if (one.tail->at) return rounded_down(about, *one.tail);
  if (one.tail->none == NoCapacity::over_at_once) return absent("below " + place_text(one.tail_from, about.axis));
  return absent("more than measured");
}

std::optional<double> at_least(const SeriesCapacity& one) {
  const bool is_within = !one.capacity.at && one.capacity.none != NoCapacity::over_at_once;
  return is_within ? std::optional(one.holds_at_least) : std::nullopt;
}

/// Capped recordings fit at one count and exceed it at another.
Entry bound_cell(const About& about, const CapacityBound& bound) {
  Entry cell = absent("at least " + place_text(bound.at_least, about.axis));
  cell.missing = bound.below ? "below " + place_text(*bound.below, about.axis) : "capped recordings";
  return cell;
}

std::string title_for(const CapacityAnswer& answer, double budget_ms) {
  return answer.budgets_ms.size() > 1 ? at_budget(budget_ms, answer.reserve_ms) : "";
}

Table capacity_table(const About& about, const CapacityAnswer& answer, const LimitsAnswer& limits, double budget_ms) {
  Table table(about, "capacities", title_for(answer, budget_ms),
              {series_column(),
               {"budget_ms", "", Format::number, "frame budget, ms, after the reserve"},
               {"capacity", "capacity", Format::place, "largest number within the budget", Spread::column},
               {"capacity_p99", "for 99 % of frames", Format::place, "the same for 99 % of frames", Spread::inside},
               {"limited_by", "limited by", Format::text, "resource that is used up at the capacity"},
               {"at_least", "", Format::place, "known to fit, where the capacity is not reached"},
               {"source", "", Format::text, "local, law, interpolated, extrapolated or step"},
               {"frames_p99", "", Format::whole, "frames pooled for the 99 %"}});
  for (const SeriesCapacity* one : read_for(about, answer, budget_ms))
    table.row({series_entry(about, one->series), budget_ms, typical_cell(about, *one), tail_cell(about, *one),
               budget_ms == limits.budget_ms ? limited_by(about, limits, one->series) : std::string(), at_least(*one),
               one->capacity.at ? Entry(source_name(one->capacity.source)) : absent(), one->tail_frames});
  for (const CapacityBound& bound : answer.bounds)
    if (bound.budget_ms == budget_ms)
      table.row({bound.label, budget_ms, bound_cell(about, bound), absent(), absent(), bound.at_least, "capped", 0});
  return table;
}

Table headroom_table(const About& about, const CapacityAnswer& answer, double budget_ms) {
  Table table(about, "headroom", "",
              {place_column(about),
               series_column(),
               {"budget_ms", "", Format::number, "frame budget, ms"},
               {"ms", "ms/frame", Format::number, "typical frame, ms", Spread::column},
               {"share", "of the budget", Format::percent, "share of the budget that it takes"},
               {"left_ms", "ms left", Format::number, "budget left, ms"}});
  for (const Headroom& one : answer.headroom) {
    if (one.budget_ms != budget_ms) continue;
    if (one.cost)
      table.row({one.x,
                 series_entry(about, one.series),
                 budget_ms,
                 {one.cost->ms, one.cost->interval},
                 one.share,
                 one.left_ms});
    else
      table.row({one.x, series_entry(about, one.series), budget_ms, absent("not measured there"), absent(), absent()});
  }
  return table;
}

void note_how_read(const About& about, const SeriesCapacity& one, Answer& view) {
  const std::string& label = about.label(one.series);
  const Capacity& capacity = one.capacity;
  if (!capacity.at) return;
  if (capacity.source == Source::extrapolated)
    view.note(fmt::format("{} is extrapolated {} beyond the largest {} measured ({}).", label,
                          ratio_text(*capacity.at / one.measured_to), about.axis.name,
                          place_text(one.measured_to, about.axis)));
  if (capacity.source == Source::step && capacity.interval.closed())
    view.note(fmt::format("{}: the cost jumps over the budget between {} and {}.", label,
                          typed_count(*capacity.interval.low, about.axis),
                          typed_count(*capacity.interval.high, about.axis)));
}

/// Source of the 99 % figures, or how to get them.
void note_tail(const About& about, const CapacityAnswer& answer, std::size_t budget, Answer& view) {
  const double budget_ms = answer.budgets_ms[budget];
  const auto rows = read_for(about, answer, budget_ms);
  const auto any = [&](auto holds) { return std::any_of(rows.begin(), rows.end(), holds); };
  if (any([](const SeriesCapacity* one) { return one->tail.has_value(); }))
    view.note("99 % of frames: not corrected, the machine's slow moments included.", true);
  else if (about.axis.is_whole && about.head.made_by != MadeBy::tables &&
           any([](const SeriesCapacity* one) { return one->capacity.at.has_value(); }))
    view.note(fmt::format("for 99 % of frames, measure with --for capacity@{}:99% (about {:.0f} s per variant).",
                          budget_option(budget_ms), answer.times_for_99_s[budget]),
              true);
}

/// "jobs 3.19M", or what is known instead.
std::string capacity_words(const About& about, const SeriesCapacity& one) {
  const std::string& label = about.label(one.series);
  if (one.capacity.at) return label + " " + place_text(*one.capacity.at, about.axis);
  const std::string words = fmt::format("{} more than {}", label, place_text(one.holds_at_least, about.axis));
  return one.capacity.none == NoCapacity::within_up_to_failure ? words + " (then it fails)" : words;
}

}  // namespace

std::vector<std::string> missing_measurements(const About& about, const CapacityAnswer& answer) {
  std::vector<std::string> commands;
  if (about.head.made_by == MadeBy::tables || !about.axis.is_whole) return commands;  // No command measures other axes.
  // Variants with equal options share a command.
  std::vector<std::pair<std::string, std::vector<std::string>>> alike;
  for (const SeriesCapacity& one : answer.capacities) {
    if (one.capacity.at || one.capacity.none == NoCapacity::within_up_to_failure) continue;
    const bool is_over = one.capacity.none == NoCapacity::over_at_once;
    if (is_over && one.measured_from < 2) continue;
    const double from = is_over ? std::max(1.0, one.measured_from / look_as_far_below) : one.holds_at_least;
    const double to = is_over ? one.measured_from : look_as_far_as * one.measured_to;
    const Series& series = about.series[one.series].series;
    const std::string rest =
        fmt::format("{} --counts {}..{} --for capacity@{}{}", options_of(about.head.scenario, series), count_text(from),
                    count_text(to), budget_option(one.capacity.budget_ms), about.head.plan.goal.for_99 ? ":99%" : "");
    auto same = std::find_if(alike.begin(), alike.end(), [&](const auto& other) { return other.first == rest; });
    if (same == alike.end()) same = alike.insert(alike.end(), {rest, {}});
    std::vector<std::string>& variants = same->second;
    if (std::find(variants.begin(), variants.end(), series.variant) == variants.end())
      variants.push_back(series.variant);
  }
  for (const auto& [rest, variants] : alike)
    commands.push_back(pasted_command(fmt::format("{} --variants {}{} -o more{}.study.jsonl", measuring_verb(about),
                                                  shell_word(fmt::format("{}", fmt::join(variants, ","))), rest,
                                                  commands.empty() ? "" : fmt::format("-{}", commands.size() + 1))));
  return commands;
}

std::string capacity_sentence(const About& about, const CapacityAnswer& answer, double budget_ms) {
  std::vector<const SeriesCapacity*> known;
  std::vector<std::string> over, words;
  for (const SeriesCapacity* one : read_for(about, answer, budget_ms)) {
    if (about.series[one->series].series.is_floor()) continue;  // Does no work.
    if (one->capacity.none == NoCapacity::over_at_once)
      over.push_back(about.label(one->series));
    else
      known.push_back(one);
  }
  const auto reach = [](const SeriesCapacity* one) { return one->capacity.at.value_or(one->holds_at_least); };
  std::stable_sort(known.begin(), known.end(), [&](const auto* a, const auto* b) { return reach(a) > reach(b); });
  for (const SeriesCapacity* one : known) words.push_back(capacity_words(about, *one));
  for (const CapacityBound& bound : answer.bounds)
    if (bound.budget_ms == budget_ms)
      words.push_back(fmt::format("{} at least {}{}", bound.label, place_text(bound.at_least, about.axis),
                                  bound.below ? " and not " + place_text(*bound.below, about.axis) : ""));
  if (!words.empty())
    words.front() =
        about.axis.is_whole ? words.front() + " " + about.axis.things : about.axis.name + " up to: " + words.front();
  if (!words.empty()) words = {listed(words)};
  if (!over.empty())
    words.push_back(fmt::format("{} {} over the budget at every {} measured", listed(over),
                                over.size() == 1 ? "is" : "are", about.axis.name));
  const std::string at = at_budget(budget_ms, answer.reserve_ms);
  return words.empty() ? at + ": no capacity can be read." : fmt::format("{}: {}.", at, fmt::join(words, ", "));
}

Entry capacity_cell(const About& about, const Capacity& capacity) {
  if (capacity.at) return rounded_down(about, capacity);
  return absent(capacity.none == NoCapacity::over_at_once ? "none" : "more than measured");
}

Answer capacity_view(const About& about, const CapacityAnswer& answer, const LimitsAnswer& limits) {
  Answer view;
  for (std::size_t i = 0; i < answer.budgets_ms.size(); ++i) {
    const double budget_ms = answer.budgets_ms[i];
    view.verdict.push_back(capacity_sentence(about, answer, budget_ms));
    view.tables.push_back(capacity_table(about, answer, limits, budget_ms));
    view.tables.push_back(headroom_table(about, answer, budget_ms));
    for (const SeriesCapacity* one : read_for(about, answer, budget_ms)) note_how_read(about, *one, view);
    note_tail(about, answer, i, view);
  }
  view.next = missing_measurements(about, answer);
  return view;
}

}  // namespace mileage
