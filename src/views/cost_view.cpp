#include "views/cost_view.h"

#include <algorithm>
#include <map>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "analysis/statistics/constants.h"
#include "views/answer_json.h"
#include "views/price_view.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

constexpr double frames_a_second = 60;

/// Only a set-up that is dearer than the first one's has to be earned back.
std::string payback_text(const SeriesCost& one) {
  if (!one.payback_frames) return "";
  return fmt::format("{:.0f} frame{} ({} s at 60 Hz)", *one.payback_frames, *one.payback_frames == 1 ? "" : "s",
                     three_digits(*one.payback_frames / frames_a_second));
}

std::string fit_text(const SeriesCost& one) {
  switch (one.fit) {
    case Fit::fits:
      return fmt::format("fits, {} left", three_digits(one.left_ms));
    case Fit::over:
      return fmt::format("over by {}", three_digits(-one.left_ms));
    case Fit::cannot_tell:
      return "cannot tell";
  }
  return {};
}

/// Against the first series of the group.
std::string share_text(const SeriesCost& one, const PlaceCosts& place) {
  const SeriesCost& first = place.costs.front();
  if (one.series == first.series) return "1";
  return first.cost ? with_range(one.share, one.share_interval) : "not known";
}

/// Whether a series stands in a table before, since the conditions do not touch it.
bool stands_above(const CostAnswer& answer, std::size_t group, std::size_t series) {
  return std::any_of(answer.groups.begin(), answer.groups.begin() + static_cast<std::ptrdiff_t>(group),
                     [&](const GroupCosts& earlier) {
                       return std::find(earlier.members.begin(), earlier.members.end(), series) !=
                              earlier.members.end();
                     });
}

void add_row(TextTable& table, const About& about, const CostAnswer& answer, std::size_t group_index,
             const PlaceCosts& place, std::size_t i) {
  const GroupCosts& group = answer.groups[group_index];
  const SeriesCost& one = place.costs[i];
  const bool is_first = i == 0;
  if (!is_first && stands_above(answer, group_index, one.series)) {
    table.row({place_text(place.x, about.axis), group.labels[i], "as above", "", share_text(one, place),
               place.costs.front().cost ? three_digits(one.saves_ms) : ""});
    return;
  }
  table.row({place_text(place.x, about.axis), group.labels[i], with_range(one.cost->ms, one.cost->interval),
             fit_text(one), share_text(one, place),
             is_first || !place.costs.front().cost ? "" : three_digits(one.saves_ms)});
}

/// The costs of a place that are known, cheapest first, by their places in the group. A floor is no way to do the work.
std::vector<std::size_t> cheapest_first(const About& about, const PlaceCosts& place) {
  std::vector<std::size_t> known;
  for (std::size_t i = 0; i < place.costs.size(); ++i)
    if (place.costs[i].cost && !about.series[place.costs[i].series].series.is_floor()) known.push_back(i);
  std::stable_sort(known.begin(), known.end(),
                   [&](std::size_t a, std::size_t b) { return place.costs[a].cost->ms < place.costs[b].cost->ms; });
  return known;
}

/// Which of them are within the budget: "all fit 16.7 ms", "jobs and columns fit, objects does not".
std::string fits_words(const GroupCosts& group, const PlaceCosts& place, const std::vector<std::size_t>& known,
                       const CostAnswer& answer) {
  std::map<Fit, std::vector<std::string>> names;
  for (const std::size_t i : known) names[place.costs[i].fit].push_back(group.labels[i]);
  const std::string budget =
      answer.reserve_ms > 0 ? budget_text(answer.budget_ms, answer.reserve_ms) : ms_text(answer.budget_ms);
  const std::string all = known.size() == 1 ? "" : known.size() == 2 ? "both " : "all ";
  if (names.size() == 1) {
    const Fit fit = names.begin()->first;
    if (fit == Fit::fits) return fmt::format("{}fit{} {}", all, known.size() == 1 ? "s" : "", budget);
    if (fit == Fit::over)
      return fmt::format("{}over {}, by {} at least", all, budget, ms_text(-place.costs[known.front()].left_ms));
    return fmt::format("whether {} fit{} {} cannot be told", known.size() == 1 ? "it" : "they",
                       known.size() == 1 ? "s" : "", budget);
  }
  std::vector<std::string> parts;
  const auto add = [&](Fit fit, const char* one, const char* many) {
    if (const auto& of = names[fit]; !of.empty())
      parts.push_back(fmt::format("{} {}", fmt::join(of, ", "), of.size() == 1 ? one : many));
  };
  add(Fit::fits, "fits", "fit");
  add(Fit::cannot_tell, "may fit", "may fit");
  add(Fit::over, "is over", "are over");
  return fmt::format("in {}, {}", budget, fmt::join(parts, ", "));
}

/// What can be gained against the first: "jobs saves 12.6 ms against objects", "none can be told apart from objects".
std::string gain_words(const GroupCosts& group, const PlaceCosts& place, const std::vector<std::size_t>& known) {
  if (known.size() < 2 || !place.costs.front().cost) return {};
  const std::string& first = group.labels.front();
  const bool is_any_told =
      std::any_of(known.begin(), known.end(), [&](std::size_t i) { return place.costs[i].is_told_apart; });
  if (!is_any_told)
    return fmt::format("; {} be told apart from {}", known.size() == 2 ? "the other cannot" : "none can", first);
  const auto best = std::find_if(known.begin(), known.end(), [&](std::size_t i) {
    return place.costs[i].is_told_apart && place.costs[i].saves_ms > 0;
  });
  if (best != known.end())
    return fmt::format("; {} saves {} against {}", group.labels[*best], ms_text(place.costs[*best].saves_ms), first);
  if (known.size() == 2)
    return fmt::format("; {} takes {} more than {}", group.labels[known.back()],
                       ms_text(-place.costs[known.back()].saves_ms), first);
  return fmt::format("; none is significantly faster than {}", first);
}

/// "objects 0.953, records 0.406; jobs none": the values of a trait.
std::string trait_words(const GroupCosts& group, const Trait& trait) {
  std::vector<std::string> values, missing;
  for (std::size_t i = 0; i < trait.values.size(); ++i) {
    if (trait.values[i])
      values.push_back(fmt::format("{} {}", group.labels[i], three_digits(*trait.values[i])));
    else if (trait.is_known[i])
      missing.push_back(group.labels[i]);
  }
  return fmt::format("{}{}", fmt::join(values, ", "),
                     missing.empty() ? "" : fmt::format("; none of {}", fmt::join(missing, ", ")));
}

/// Set-ups that are dearer than the first one's: after how many frames they are earned back.
std::vector<std::string> payback_lines(const About& about, const GroupCosts& group) {
  std::vector<std::string> lines;
  const PlaceCosts& place = group.told_place();
  for (std::size_t i = 0; i < place.costs.size(); ++i)
    if (place.costs[i].payback_frames && !about.series[place.costs[i].series].series.is_floor())
      lines.push_back(
          fmt::format("the set-up of {} is earned back after {}", group.labels[i], payback_text(place.costs[i])));
  return lines;
}

/// What ways give up in what is seen.
std::vector<std::string> picture_lines(const GroupCosts& group) {
  std::vector<std::string> lines;
  for (std::size_t i = 0; i < group.pictures.size(); ++i)
    if (const auto& one = group.pictures[i]; one && one->pixels > 0)
      lines.push_back(fmt::format("picture of {}: {} % of its pixels differ from the reference's, by {} % on average",
                                  group.labels[i], three_digits(100 * one->pixels), three_digits(100 * one->mean)));
  return lines;
}

Json cost_row(const About& about, const GroupCosts& group, double x, const SeriesCost& one) {
  Json row = row_of(about, one.series);
  row["conditions"] = group.conditions;
  row[about.axis.name] = place_json(x, about.axis);
  row["ms"] = one.cost->ms;
  row["fit"] = one.fit == Fit::fits ? "fits" : one.fit == Fit::over ? "over" : "cannot tell";
  row["left_ms"] = one.left_ms;
  row["mean_ms"] = one.spread ? Json(one.spread->mean_ms) : Json(nullptr);
  row["typical_ms"] = one.spread ? Json(one.spread->typical_ms) : Json(nullptr);
  row["p99_ms"] = one.spread ? optional_json(one.spread->p99_ms) : Json(nullptr);
  row["share_over"] = one.spread ? Json(one.spread->share_over) : Json(nullptr);
  add_interval(row, one.cost->interval, "low_ms", "high_ms");
  row["saves_ms"] = one.saves_ms;
  row["setup_ms"] = optional_json(one.setup_ms);
  row["payback_frames"] = optional_json(one.payback_frames);
  row["share_of"] = about.label(group.members.front());
  row["share"] = one.share;
  row["told_apart"] = one.is_told_apart;
  add_interval(row, one.share_interval);
  return row;
}

/// Whether the typical frame hides something: frames of several kinds, or many over a budget that it fits.
bool hides_something(const SeriesCost& one, double budget_ms) {
  if (!one.spread) return false;
  const bool are_many_over = one.spread->typical_ms <= budget_ms && one.spread->share_over > many_frames_over;
  return are_many_over || one.spread->mean_ms > uneven_beyond * one.spread->typical_ms;
}

TextTable spread_table(const About& about, const CostAnswer& answer, const GroupCosts& group) {
  TextTable table;
  table.column(about.axis.things, Align::right);
  table.column("variant");
  table.column("mean ms", Align::right);
  table.column("typical ms", Align::right);
  table.column("99 % of frames below", Align::right);
  table.column(fmt::format("frames over {} ms", three_digits(answer.budget_ms)), Align::right);
  for (const PlaceCosts& place : group.places)
    for (std::size_t i = 0; i < place.costs.size(); ++i)
      if (const SeriesCost& one = place.costs[i]; one.cost && hides_something(one, answer.budget_ms))
        table.row({place_text(place.x, about.axis), group.labels[i], three_digits(one.spread->mean_ms),
                   three_digits(one.spread->typical_ms),
                   one.spread->p99_ms ? three_digits(*one.spread->p99_ms) : "not enough frames",
                   percent_text(one.spread->share_over)});
  return table;
}

}  // namespace

TextTable cost_table(const About& about, const CostAnswer& answer, std::size_t group_index) {
  const GroupCosts& group = answer.groups[group_index];
  TextTable table;
  table.column(about.axis.things, Align::right);
  table.column("variant");
  table.column("ms a frame (95 %)");
  table.column(fmt::format("in {} ms", three_digits(answer.budget_ms)));
  table.column(fmt::format("of the time of {}", group.labels.front()));
  table.column("saves ms", Align::right);
  for (const PlaceCosts& place : group.places)
    for (std::size_t i = 0; i < place.costs.size(); ++i)
      if (place.costs[i].cost) add_row(table, about, answer, group_index, place, i);
  return table;
}

std::string cost_sentence(const About& about, const GroupCosts& group, const PlaceCosts& place,
                          const CostAnswer& answer) {
  const std::vector<std::size_t> known = cheapest_first(about, place);
  const std::string at = "At " + named_place(place.x, about.axis);
  if (known.empty()) return at + " nothing was measured.";
  std::vector<std::string> costs;
  for (const std::size_t i : known)
    costs.push_back(
        fmt::format("{} {}{}", group.labels[i], costs.empty() ? "takes " : "",
                    costs.empty() ? ms_text(place.costs[i].cost->ms) : three_digits(place.costs[i].cost->ms)));
  return fmt::format("{}, {}; {}{}.", at, fmt::join(costs, ", "), fits_words(group, place, known, answer),
                     gain_words(group, place, known));
}

std::vector<std::string> trait_lines(const About& about, const GroupCosts& group) {
  std::vector<std::string> lines;
  for (const Trait& trait : group.traits)
    lines.push_back(
        fmt::format("{}{}: {}", trait.name, trait.unit.empty() ? "" : ", " + trait.unit, trait_words(group, trait)));
  if (!lines.empty()) lines.insert(lines.begin(), "What else differs at " + named_place(group.traits_at, about.axis));
  for (const std::string& line : picture_lines(group)) lines.push_back(line);
  for (const std::string& line : payback_lines(about, group)) lines.push_back(line);
  return lines;
}

std::string cost_text(const About& about, const CostAnswer& answer) {
  std::string text;
  for (const GroupCosts& group : answer.groups) {
    if (cheapest_first(about, group.told_place()).empty()) continue;  // said once for the whole study
    text += (group.conditions.empty() ? "" : group.conditions + ": ") +
            cost_sentence(about, group, group.told_place(), answer) + "\n";
  }
  if (!text.empty()) text += "\n";
  for (std::size_t index = 0; index < answer.groups.size(); ++index) {
    const GroupCosts& group = answer.groups[index];
    const TextTable table = cost_table(about, answer, index);
    if (table.empty()) continue;
    text += with_conditions("What a frame costs", group.conditions) + "\n\n" + table.text() + "\n";
    if (const TextTable spread = spread_table(about, answer, group); !spread.empty())
      text += "Frames that the typical one does not describe\n\n" + spread.text() + "\n";
    const std::vector<std::string> lines = trait_lines(about, group);
    for (const std::string& line : lines) text += (&line == &lines.front() ? "" : "  ") + line + "\n";
    if (!lines.empty()) text += "\n";
    text += price_text(about, group.members);
  }
  return text;
}

void add_cost_json(Json& json, const About& about, const CostAnswer& answer) {
  Json& rows = rows_of(json, "costs");
  for (const GroupCosts& group : answer.groups)
    for (const PlaceCosts& place : group.places)
      for (const SeriesCost& one : place.costs)
        if (one.cost) rows.push_back(cost_row(about, group, place.x, one));
  add_price_json(json, about);
  Json& traits = rows_of(json, "traits");
  for (const GroupCosts& group : answer.groups)
    for (const Trait& trait : group.traits)
      for (std::size_t i = 0; i < trait.values.size(); ++i) {
        Json row = row_of(about, group.members[i]);
        row["conditions"] = group.conditions;
        row[about.axis.name] = place_json(group.traits_at, about.axis);
        row["trait"] = trait.name;
        row["unit"] = trait.unit;
        row["value"] = optional_json(trait.values[i]);
        traits.push_back(std::move(row));
      }
}

}  // namespace mileage
