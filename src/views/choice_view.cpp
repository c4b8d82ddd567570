#include "views/choice_view.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "views/answer_json.h"
#include "views/price_view.h"
#include "views/strip.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

std::string cost_text(const About& about, double cost) {
  return fmt::format("{} {}", three_digits(cost), about.cost_unit);
}

/// What a stretch saves against the first series, as far as that was measured.
std::string saving_text(const About& about, const GroupChoice& group, const ChosenStretch& stretch) {
  if (stretch.use == group.members.front()) return "";
  if (!stretch.saving) return "not measured there";
  return fmt::format("{} to {} {} at {}", three_digits(stretch.saving->from_ms), three_digits(stretch.saving->to_ms),
                     about.cost_unit, place_text(stretch.saving->to, about.axis));
}

/// Nothing where no other series was in use before.
std::string border_text(const About& about, const ChosenStretch& stretch) {
  const Interval& interval = stretch.from_interval;
  return interval.low || interval.high ? interval_text(interval, about.axis) : "";
}

std::string because_text(const About& about, const GroupChoice& group, const ChosenStretch& stretch) {
  if (!stretch.fits) return "over budget, the best measured";
  if (stretch.not_measured) {
    const auto& fails_from = about.series[*stretch.not_measured].fails_from;
    return group.label(*stretch.not_measured) + (fails_from && *fails_from <= stretch.to
                                                     ? " fails from " + place_text(*fails_from, about.axis) + " on"
                                                     : " was not measured there");
  }
  if (stretch.alone) return "the only one measured there";
  if (!stretch.matters) return "no difference is worth it";
  if (stretch.to_fit) return "fits, and simpler ones that do as well do not";
  return stretch.use == group.members.front() ? "none of the others saves enough" : "the simplest that saves enough";
}

/// By places: whole ones where places are, all digits otherwise.
Json savings_json(const About& about, const ChosenStretch& stretch) {
  Json json = Json::object();
  for (const auto& [x, ms] : stretch.saves_ms_at) json[fmt::format("{}", about.axis.is_whole ? std::round(x) : x)] = ms;
  return json;
}

Json choice_row(const About& about, const GroupChoice& group, const ChosenStretch& stretch) {
  Json row = row_of(about, stretch.use);
  row["conditions"] = group.conditions;
  row["from"] = place_json(stretch.from, about.axis);
  row["from_low"] = place_json(stretch.from_interval.low, about.axis);
  row["from_high"] = place_json(stretch.from_interval.high, about.axis);
  row["to"] = place_json(stretch.to, about.axis);
  row["matters"] = stretch.matters;
  row["fits"] = stretch.fits;
  row["not_measured"] = stretch.not_measured ? Json(about.label(*stretch.not_measured)) : Json(nullptr);
  row["unit"] = about.cost_unit;
  row["saves_ms_at"] = savings_json(about, stretch);
  return row;
}

Json advice_row(const About& about, const GroupChoice& group, const Advice& advice) {
  Json row = row_of(about, advice.use);
  row["conditions"] = group.conditions;
  row[about.axis.name] = place_json(advice.at, about.axis);
  row["matters"] = advice.matters;
  row["fits"] = advice.fits;
  row["next"] = advice.next ? Json(about.label(*advice.next)) : Json(nullptr);
  row["next_from"] = advice.next ? place_json(advice.next_from, about.axis) : Json(nullptr);
  row["next_from_low"] = place_json(advice.next_from_interval.low, about.axis);
  row["next_from_high"] = place_json(advice.next_from_interval.high, about.axis);
  return row;
}

Json everywhere_row(const About& about, const GroupChoice& group, const Everywhere& one) {
  Json row = row_of(about, one.series);
  row["conditions"] = group.conditions;
  row["loses_ms"] = one.loses_ms;
  row[about.axis.name] = place_json(one.at, about.axis);
  row["takes"] = one.takes;
  return row;
}

std::string next_interval_text(const About& about, const Advice& advice) {
  const Interval& interval = advice.next_from_interval;
  return interval.low || interval.high ? " " + interval_text(interval, about.axis) : "";
}

}  // namespace

TextTable choice_table(const About& about, const GroupChoice& group) {
  TextTable table;
  table.column("from", Align::right);
  table.column("95 % interval");
  table.column("to", Align::right);
  table.column("use");
  table.column("saves against " + group.label(group.members.front()));
  table.column("because");
  double to = group.stretches.empty() ? 0 : group.stretches.front().from;
  for (const ChosenStretch& stretch : group.stretches) {
    if (stretch.from > to)
      table.row(
          {place_text(to, about.axis), "", place_text(stretch.from, about.axis), "", "", "nothing measured there"});
    to = stretch.to;
    table.row({place_text(stretch.from, about.axis), border_text(about, stretch), place_text(stretch.to, about.axis),
               group.label(stretch.use), saving_text(about, group, stretch), because_text(about, group, stretch)});
  }
  return table;
}

TextTable everywhere_table(const About& about, const GroupChoice& group) {
  TextTable table;
  table.column("used everywhere");
  table.column("loses at most", Align::right);
  table.column("at", Align::right);
  table.column("times the cost of the choice there", Align::right);
  for (const Everywhere& one : group.everywhere) {
    if (one.loses_ms <= 0)
      table.row({group.label(one.series), "nothing", "", ""});
    else
      table.row({group.label(one.series), cost_text(about, one.loses_ms), place_text(one.at, about.axis),
                 three_digits(one.takes)});
  }
  return table;
}

std::string advice_sentence(const About& about, const GroupChoice& group, const Advice& advice) {
  std::string costs;
  for (const auto& [series, ms] : advice.costs_ms)
    costs += fmt::format("{}{} {}", costs.empty() ? "" : ", ", group.label(series), cost_text(about, ms));
  const std::string verdict = !advice.matters                       ? "no change is worth it"
                              : advice.use == group.members.front() ? "stay with " + group.label(advice.use)
                                                                    : group.label(advice.use) + " is worth it";
  const std::string later = !advice.next
                                ? about.only_place ? "" : " as far as measured"
                                : fmt::format("; from {}{} on, {} is", place_text(advice.next_from, about.axis),
                                              next_interval_text(about, advice), group.label(*advice.next));
  const std::string fits = advice.fits ? "" : " (over the budget, the best that was measured)";
  return fmt::format("At {}: {}.\n  So {}{}{}.", named_place(advice.at, about.axis), costs, verdict, fits, later);
}

std::vector<std::size_t> chosen_series(const GroupChoice& group) {
  std::vector<std::size_t> chosen;
  for (const std::size_t member : group.members)
    if (member == group.members.front() ||
        std::any_of(group.stretches.begin(), group.stretches.end(),
                    [&](const ChosenStretch& stretch) { return stretch.use == member; }))
      chosen.push_back(member);
  return chosen;
}

std::string worth_text(const About& about, const ChoiceAnswer& answer) {
  return fmt::format("Staying with the simplest variant until a later one saves more than {} ({} % of the budget).",
                     cost_text(about, answer.worth_ms), three_digits(100 * answer.worth_ms / answer.budget_ms));
}

std::string choice_text(const About& about, const ChoiceAnswer& answer, const CapacityAnswer& capacities, bool more) {
  std::string text;
  for (const GroupChoice& group : answer.groups)
    for (const Advice& advice : group.advice)
      text += (group.conditions.empty() ? "" : group.conditions + ": ") + advice_sentence(about, group, advice) + "\n";
  if (!text.empty()) text += "\n";
  text += worth_text(about, answer) + "\n\n";
  if (about.only_place) return text;
  std::vector<std::size_t> priced;
  for (const GroupChoice& group : answer.groups) {
    text += with_conditions("Which variant to use where", group.conditions) + "\n\n";
    for (const std::size_t chosen : chosen_series(group)) priced.push_back(chosen);
    text += choice_table(about, group).text() + "\n";
    if (more) text += everywhere_table(about, group).text() + "\n" + terminal_strip(about, group, capacities) + "\n";
  }
  return text + price_text(about, priced) + (more ? "  " + strip_legend() + "\n\n" : "");
}

std::string strips_text(const About& about, const ChoiceAnswer& answer, const CapacityAnswer& capacities) {
  std::string text = "Which variant to use where\n  " + worth_text(about, answer) + "\n  " + strip_legend() + "\n\n";
  for (const GroupChoice& group : answer.groups) {
    if (!group.conditions.empty()) text += "  " + group.conditions + "\n";
    text += terminal_strip(about, group, capacities) + "\n";
  }
  return text;
}

void add_choice_json(Json& json, const About& about, const ChoiceAnswer& answer) {
  for (const char* part : {"choices", "at", "everywhere"}) rows_of(json, part);
  for (const GroupChoice& group : answer.groups) {
    for (const ChosenStretch& stretch : group.stretches) json["choices"].push_back(choice_row(about, group, stretch));
    for (const Advice& advice : group.advice) json["at"].push_back(advice_row(about, group, advice));
    for (const Everywhere& one : group.everywhere) json["everywhere"].push_back(everywhere_row(about, group, one));
  }
  add_price_json(json, about);
}

}  // namespace mileage
