#include "views/views.h"

#include <algorithm>
#include <iterator>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/text.h"
#include "views/strip.h"
#include "views/words.h"

namespace mileage {
namespace {

std::string amount_text(const About& about, double amount) {
  return fmt::format("{} {}", three_digits(amount), about.cost_unit);
}

/// Range of savings over the first series.
Entry saving_cell(const About& about, const GroupChoice& group, const ChosenStretch& stretch) {
  if (stretch.use == group.members.front()) return absent();
  if (!stretch.saving) return absent("not measured there");
  return Entry(stretch.saving->to_ms)
      .reads(fmt::format("{} to {} at {}", three_digits(stretch.saving->from_ms),
                         amount_text(about, stretch.saving->to_ms), place_text(stretch.saving->to, about.axis)));
}

std::string reason_text(const About& about, const GroupChoice& group, const ChosenStretch& stretch) {
  if (!stretch.fits) return "over budget, the best measured";
  if (stretch.not_measured) {
    const auto& fails_from = about.series[*stretch.not_measured].fails_from;
    return group.label(*stretch.not_measured) + (fails_from && *fails_from <= stretch.to
                                                     ? " fails from " + place_text(*fails_from, about.axis)
                                                     : " was not measured there");
  }
  if (stretch.alone) return "the only one measured there";
  if (!stretch.matters) return "no difference pays off";
  if (stretch.to_fit) return "simplest variant that fits";
  return stretch.use == group.members.front() ? "no switch pays off" : "simplest variant that pays off";
}

Table choices_table(const About& about, const GroupChoice& group) {
  Table table(about, "choices", group.conditions,
              {{"conditions", "", Format::text, "settings that the variants share"},
               {"from", "from", Format::place, "start of the range", Spread::column},
               {"to", "to", Format::place, "end of the range"},
               {"series", "use", Format::series, "variant to use"},
               {"saves_ms", "saves over " + group.label(group.members.front()), Format::number,
                "ms per frame over the first variant, at saves_at"},
               {"saves_at", "", Format::place, "last place at which both were measured"},
               {"saves_from_ms", "", Format::number, "the same at the start of the range"},
               {"reason", "because", Format::text, "why"},
               {"matters", "", Format::flag, "whether any difference pays off there"},
               {"fits", "", Format::flag, "whether it fits the budget"},
               {"not_measured", "", Format::text, "variant in use below that was not measured there"}});
  double to = group.stretches.empty() ? 0 : group.stretches.front().from;
  for (const ChosenStretch& stretch : group.stretches) {
    if (stretch.from > to)
      table.row({group.conditions, to, stretch.from, absent(), absent(), absent(), absent(), "nothing measured there",
                 absent(), absent(), absent()});
    to = stretch.to;
    table.row({group.conditions,
               {stretch.from, stretch.from_interval},
               stretch.to,
               series_entry(about, stretch.use).reads(group.label(stretch.use)),
               saving_cell(about, group, stretch),
               stretch.saving ? Entry(stretch.saving->to) : absent(),
               stretch.saving ? Entry(stretch.saving->from_ms) : absent(),
               reason_text(about, group, stretch),
               stretch.matters,
               stretch.fits,
               stretch.not_measured ? Entry(about.label(*stretch.not_measured)) : absent()});
  }
  return table;
}

Table everywhere_table(const About& about, const GroupChoice& group) {
  Table table(
      about, "one_for_all", "One variant everywhere",
      {{"conditions", "", Format::text, "settings that the variants share"},
       series_column(),
       {"loses_ms", "loses at most, ms", Format::number, "most that it loses against the best choice, ms per frame"},
       {about.axis.name, "at", Format::place, "where it loses most"},
       {"relative", "relative to the choice there", Format::ratio, "time relative to the choice there"}});
  for (const SingleVariant& one : group.everywhere) {
    const bool loses = one.loses_ms > 0;
    table.row({group.conditions, series_entry(about, one.series).reads(group.label(one.series)),
               loses ? Entry(one.loses_ms) : Entry(one.loses_ms).reads("nothing"), loses ? Entry(one.at) : absent(),
               loses ? Entry(one.takes) : absent()});
  }
  return table.on_request();
}

Table advice_table(const About& about, const GroupChoice& group) {
  Table table(about, "advice", "",
              {{"conditions", "", Format::text, "settings that the variants share"},
               {about.axis.name, "", Format::place, "place asked for"},
               {"series", "", Format::series, "variant to use there"},
               {"matters", "", Format::flag, "whether any difference pays off there"},
               {"fits", "", Format::flag, "whether it fits the budget"},
               {"next", "", Format::text, "variant that pays off above"},
               {"next_from", "", Format::place, "from here on", Spread::inside}});
  for (const Advice& one : group.advice)
    table.row({group.conditions, one.at, series_entry(about, one.use), one.matters, one.fits,
               one.next ? Entry(about.label(*one.next)) : absent(),
               one.next ? Entry(one.next_from, one.next_from_interval) : absent()});
  return table;
}

/// "At 3k lanterns stay with objects (0.144 ms): columns would save 0.11 ms. Switching pays off from 8.96k."
std::string advice_sentence(const About& about, const GroupChoice& group, const Advice& advice) {
  const auto cost_of = [&](std::size_t series) {
    const auto found = std::find_if(advice.costs_ms.begin(), advice.costs_ms.end(),
                                    [&](const auto& one) { return one.first == series; });
    return found == advice.costs_ms.end() ? std::nullopt : std::optional(found->second);
  };
  const std::string& use = group.label(advice.use);
  const auto cost = cost_of(advice.use), first = cost_of(group.members.front());
  const bool stays = advice.use == group.members.front();
  std::string text = fmt::format("At {} {} {}", named_place(advice.at, about.axis), stays ? "stay with" : "use", use);
  if (cost) text += fmt::format(" ({})", amount_text(about, *cost));
  const auto fastest = std::min_element(advice.costs_ms.begin(), advice.costs_ms.end(),
                                        [](const auto& a, const auto& b) { return a.second < b.second; });
  if (!stays && cost && first)
    text +=
        fmt::format(": it saves {} over {}", amount_text(about, *first - *cost), group.label(group.members.front()));
  else if (cost && fastest != advice.costs_ms.end() && fastest->second < *cost)
    text += fmt::format(": {} would save {}", group.label(fastest->first), amount_text(about, *cost - fastest->second));
  text += ".";
  if (!advice.fits) text += " It is over the budget; nothing measured fits.";
  if (advice.next)
    text += fmt::format(" {} pays off from {}.", group.label(*advice.next), place_text(advice.next_from, about.axis));
  else if (!about.only_place)
    text += fmt::format(" No other pays off at any larger {} measured.", about.axis.name);
  return text;
}

std::string cell_text(const GroupChoice& group, double x) {
  const ChosenStretch* here = stretch_at(group, x);
  if (here == nullptr) return "";
  if (!here->matters && here->fits) return "any";
  const std::string among = here->not_measured && !here->alone ? " (no " + group.label(*here->not_measured) + ")" : "";
  return (here->alone ? "only " : "") + group.label(here->use) + among + (here->fits ? "" : " (over)");
}

}  // namespace

std::vector<std::size_t> chosen_series(const GroupChoice& group) {
  std::vector<std::size_t> chosen;
  for (const std::size_t member : group.members)
    if (member == group.members.front() ||
        std::any_of(group.stretches.begin(), group.stretches.end(),
                    [&](const ChosenStretch& stretch) { return stretch.use == member; }))
      chosen.push_back(member);
  return chosen;
}

std::string choice_sentence(const About& about, const ChoiceAnswer& answer, const GroupChoice& group) {
  std::vector<std::string> words;
  bool is_over = false;
  for (auto at = group.stretches.begin(); at != group.stretches.end(); ++at) {
    const ChosenStretch& stretch = *at;
    is_over = !stretch.fits;
    if (is_over) break;
    const bool is_last = std::next(at) == group.stretches.end();
    if (!is_last && std::next(at)->fits && std::next(at)->use == stretch.use) continue;
    const std::string to = words.empty() ? named_place(stretch.to, about.axis) : place_text(stretch.to, about.axis);
    words.push_back(fmt::format("{} up to {}{}", group.label(stretch.use), to,
                                is_last ? fmt::format(", the largest {} measured", about.axis.name) : ""));
  }
  const std::string budget = amount_text(about, answer.budget_ms);
  if (words.empty()) return fmt::format("Nothing measured fits {}.", budget);
  return fmt::format("Use {}.{}", fmt::join(words, ", "),
                     is_over ? fmt::format(" Above that nothing measured fits {}.", budget) : "");
}

Answer choice_view(const About& about, const ChoiceAnswer& answer, const CapacityAnswer& capacities) {
  Answer view;
  std::vector<std::size_t> chosen;
  for (const GroupChoice& group : answer.groups) {
    const std::string conditions = group.conditions.empty() ? "" : group.conditions + ": ";
    for (const Advice& advice : group.advice)
      view.verdict.push_back(conditions + advice_sentence(about, group, advice));
    view.tables.push_back(advice_table(about, group));
    if (about.only_place) continue;
    if (group.advice.empty()) view.verdict.push_back(conditions + choice_sentence(about, answer, group));
    if (!group.conditions.empty()) view.drawing += "  " + group.conditions + "\n";
    view.drawing += terminal_strip(about, group, capacities);
    view.tables.push_back(choices_table(about, group));
    view.tables.push_back(everywhere_table(about, group));
    for (const std::size_t one : chosen_series(group)) chosen.push_back(one);
  }
  if (!view.drawing.empty()) view.drawing += "  " + strip_legend() + "\n";
  view.tables.push_back(effort_table(about, chosen));
  view.note(fmt::format("a switch pays off when it saves more than {} ({} of the budget; --min-saving changes it).",
                        amount_text(about, answer.min_saving_ms),
                        percent_text(answer.min_saving_ms / answer.budget_ms)));
  return view;
}

Answer choice_map_view(const About& about, const ChoiceAnswer& answer, const std::vector<ChoiceMap>& maps) {
  Answer view;
  for (const ChoiceMap& map : maps) {
    Table table(about, "map",
                fmt::format("What to use over {} and {} (any: no difference pays off)", about.axis.things, map.knob),
                {{"knob", "", Format::text, "knob that varies over the rows"},
                 {"conditions", about.axis.things, Format::text, "settings of the row"},
                 {"value", "", Format::text, "value of the knob"},
                 {about.axis.name, about.axis.things, Format::place, "place on the axis"},
                 {"series", "use", Format::series, "variant to use"},
                 {"matters", "", Format::flag, "whether any difference pays off there"},
                 {"fits", "", Format::flag, "whether it fits the budget"}});
    for (const ChoiceMap::Row& one : map.rows) {
      const GroupChoice& group = answer.groups[one.group];
      for (const double x : map.places)
        if (const ChosenStretch* here = stretch_at(group, x))
          table.row({map.knob, one.conditions, text_of(group.shared.knobs.at(map.knob)), x,
                     series_entry(about, here->use).reads(cell_text(group, x)), here->matters, here->fits});
    }
    view.tables.push_back(table.pivoted("conditions", about.axis.name, "series"));
  }
  return view;
}

}  // namespace mileage
