#include "views/views.h"

#include <algorithm>
#include <map>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/statistics/constants.h"
#include "views/words.h"

namespace mileage {
namespace {

const char* fit_name(Fit fit) { return fit == Fit::fits ? "fits" : fit == Fit::over ? "over" : "unclear"; }

Entry budget_cell(const SeriesCost& one) {
  const std::string left = ms_text(one.left_ms);
  return Entry(one.left_ms)
      .reads(one.fit == Fit::inconclusive ? "may exceed it"
             : one.fit == Fit::over       ? "over by " + ms_text(-one.left_ms)
                                          : left);
}

Entry relative_cell(const SeriesCost& one, const PlaceCosts& place) {
  const SeriesCost& baseline = place.costs.front();
  if (one.series == baseline.series) return Entry(1.0).reads("1");
  return baseline.cost ? Entry{one.share, one.share_interval} : absent();
}

Entry saving_cell(const SeriesCost& one, const PlaceCosts& place) {
  if (one.series == place.costs.front().series || !place.costs.front().cost) return absent();
  return one.is_significant ? Entry(one.saves_ms) : Entry(one.saves_ms).reads("-");
}

/// In an earlier group: conditions do not affect it.
bool is_shown_before(const CostAnswer& answer, std::size_t group, std::size_t series) {
  return std::any_of(answer.groups.begin(), answer.groups.begin() + static_cast<std::ptrdiff_t>(group),
                     [&](const GroupCosts& earlier) {
                       return std::find(earlier.members.begin(), earlier.members.end(), series) !=
                              earlier.members.end();
                     });
}

/// Known costs, fastest first, without floors.
std::vector<std::size_t> fastest_first(const About& about, const PlaceCosts& place) {
  std::vector<std::size_t> known;
  for (std::size_t i = 0; i < place.costs.size(); ++i)
    if (place.costs[i].cost && !about.series[place.costs[i].series].series.is_floor()) known.push_back(i);
  std::stable_sort(known.begin(), known.end(),
                   [&](std::size_t a, std::size_t b) { return place.costs[a].cost->ms < place.costs[b].cost->ms; });
  return known;
}

/// "All fit 16.7 ms.", "jobs fits 16.7 ms; columns may exceed it; objects is over by 3.3 ms."
std::string fit_sentence(const GroupCosts& group, const PlaceCosts& place, const std::vector<std::size_t>& known,
                         const CostAnswer& answer) {
  const std::string budget =
      answer.reserve_ms > 0 ? budget_text(answer.budget_ms, answer.reserve_ms) : ms_text(answer.budget_ms);
  std::map<Fit, std::vector<std::size_t>> of;
  for (const std::size_t i : known) of[place.costs[i].fit].push_back(i);
  const auto names = [&](const std::vector<std::size_t>& which) {
    std::vector<std::string> labels;
    for (const std::size_t i : which) labels.push_back(group.labels[i]);
    return which.size() == known.size() && known.size() > 1 ? std::string(known.size() == 2 ? "Both" : "All")
                                                            : and_list(labels);
  };
  std::vector<std::string> parts;
  const auto is_one = [&](Fit fit) { return of[fit].size() == 1; };
  if (!of[Fit::fits].empty())
    parts.push_back(fmt::format("{} fit{} {}", names(of[Fit::fits]), is_one(Fit::fits) ? "s" : "", budget));
  if (!of[Fit::inconclusive].empty())
    parts.push_back(fmt::format("{} may exceed {}", names(of[Fit::inconclusive]), parts.empty() ? budget : "it"));
  if (!of[Fit::over].empty())
    parts.push_back(fmt::format("{} {} over {}by {}{}", names(of[Fit::over]), is_one(Fit::over) ? "is" : "are",
                                parts.empty() ? budget + " " : "", is_one(Fit::over) ? "" : "at least ",
                                ms_text(-place.costs[of[Fit::over].front()].left_ms)));
  return fmt::format("{}.", fmt::join(parts, "; "));
}

/// Empty where the table shows all savings.
std::string gain_sentence(const GroupCosts& group, const PlaceCosts& place, const std::vector<std::size_t>& known) {
  if (known.size() < 2 || !place.costs.front().cost) return {};
  const std::string& first = group.labels.front();
  const auto is_faster = [&](std::size_t i) { return place.costs[i].is_significant && place.costs[i].saves_ms > 0; };
  const auto best = std::find_if(known.begin(), known.end(), is_faster);
  if (best != known.end())
    return fmt::format(" {} saves {} over {}.", group.labels[*best], ms_text(place.costs[*best].saves_ms), first);
  const bool is_any_slower =
      std::any_of(known.begin(), known.end(), [&](std::size_t i) { return place.costs[i].is_significant; });
  return is_any_slower ? fmt::format(" Nothing is significantly faster than {}.", first)
                       : fmt::format(" No significant difference from {}.", first);
}

/// Several kinds of frames, or many over budget.
bool hides_something(const SeriesCost& one, double budget_ms) {
  if (!one.spread) return false;
  const bool are_many_over = one.spread->typical_ms <= budget_ms && one.spread->share_over > many_frames_over;
  return are_many_over || one.spread->mean_ms > uneven_beyond * one.spread->typical_ms;
}

Table costs_table(const About& about, const CostAnswer& answer, std::size_t index, const std::string& title) {
  const GroupCosts& group = answer.groups[index];
  Table table(about, "costs", title,
              {{"conditions", "", Format::text, "settings that the variants of the table share"},
               place_column(about),
               series_column(),
               {"ms", about.cost_unit + std::string("/frame"), Format::number, "typical frame, ms", Spread::column},
               {"budget_left_ms", "budget left", Format::number, "budget less the cost, ms"},
               {"relative", "relative to " + group.labels.front(), Format::ratio, "time relative to the first variant",
                Spread::inside},
               {"saves_ms", "saves ms", Format::number, "time saved per frame against the first variant, ms"},
               {"fit", "", Format::text, "fits, over or unclear"},
               {"significant", "", Format::flag, "whether the saving is, corrected for all listed"},
               {"setup_ms", "", Format::number, "set-up, ms"},
               {"payback_frames", "", Format::number, "frames until a slower set-up is earned back"}});
  for (const PlaceCosts& place : group.places)
    for (std::size_t i = 0; i < place.costs.size(); ++i) {
      const SeriesCost& one = place.costs[i];
      if (!one.cost) continue;
      Entry series = series_entry(about, one.series).reads(group.labels[i]);
      Entry ms(one.cost->ms, one.cost->interval);
      if (i > 0 && is_shown_before(answer, index, one.series)) ms = std::move(ms).reads("as above");
      table.row({group.conditions, place.x, std::move(series), std::move(ms), budget_cell(one),
                 relative_cell(one, place), saving_cell(one, place), fit_name(one.fit), one.is_significant,
                 one.setup_ms, one.payback_frames});
    }
  return table;
}

Table spread_table(const About& about, const CostAnswer& answer, const GroupCosts& group) {
  Table table(about, "frame_spread", "Frames that the typical one does not describe",
              {place_column(about),
               series_column(),
               {"mean_ms", "mean ms", Format::number, "total time / frames, ms"},
               {"typical_ms", "typical ms", Format::number, "typical frame, ms"},
               {"p99_ms", "99 % of frames below", Format::number, "99 % of frames stay below it, ms"},
               {"share_over", fmt::format("over {}", ms_text(answer.budget_ms)), Format::percent,
                "share of frames over the budget"}});
  for (const PlaceCosts& place : group.places)
    for (const SeriesCost& one : place.costs)
      if (one.cost && hides_something(one, answer.budget_ms))
        table.row({place.x, series_entry(about, one.series), one.spread->mean_ms, one.spread->typical_ms,
                   one.spread->p99_ms ? Entry(one.spread->p99_ms) : absent("not enough frames"),
                   one.spread->share_over});
  return table;
}

Table traits_table(const About& about, const GroupCosts& group) {
  Table table(
      about, "traits", "",
      {{"conditions", "", Format::text, "settings that the variants of the table share"},
       {about.axis.name, "", Format::place, "place on the axis"},
       {"trait", "also, at " + named_place(group.traits_at, about.axis), Format::text, "what differs besides time"},
       {"unit", "", Format::text, "its unit"},
       {"series", "", Format::text, "variant, with the settings in which it differs"},
       {"value", "value", Format::number, "value per frame, or as the unit says"}});
  for (const Trait& trait : group.traits)
    for (std::size_t i = 0; i < trait.values.size(); ++i) {
      const std::string name = trait.unit.empty() ? trait.name : trait.name + ", " + trait.unit;
      Entry value = trait.values[i] ? Entry(trait.values[i]) : absent(trait.is_known[i] ? "none" : "");
      table.row({group.conditions, group.traits_at, Entry(trait.name).reads(name), trait.unit,
                 Entry(about.label(group.members[i])).reads(group.labels[i]), std::move(value)});
    }
  table.pivoted("trait", "series", "value");
  return table;
}

/// Slower set-up, worse pictures.
void note_prices(const About& about, const GroupCosts& group, Answer& view) {
  constexpr double frames_per_second = 60;
  for (std::size_t i = 0; i < group.pictures.size(); ++i)
    if (const auto& one = group.pictures[i]; one && one->pixels > 0)
      view.note(fmt::format("{}: {} of its pixels differ from the reference, by {} on average.", group.labels[i],
                            percent_text(one->pixels), percent_text(one->mean)));
  const PlaceCosts& place = group.known_place();
  for (std::size_t i = 0; i < place.costs.size(); ++i)
    if (const auto& frames = place.costs[i].payback_frames;
        frames && !about.series[place.costs[i].series].series.is_floor())
      view.note(fmt::format("{}: its slower set-up is earned back after {:.0f} frame{} ({} s at 60 Hz).",
                            group.labels[i], *frames, *frames == 1 ? "" : "s",
                            three_digits(*frames / frames_per_second)));
}

}  // namespace

std::string cost_sentence(const About& about, const GroupCosts& group, const PlaceCosts& place,
                          const CostAnswer& answer) {
  const std::vector<std::size_t> known = fastest_first(about, place);
  const std::string at = "At " + named_place(place.x, about.axis);
  if (known.empty()) return at + " nothing was measured.";
  std::vector<std::string> costs;
  for (const std::size_t i : known)
    costs.push_back(fmt::format("{} {}{}", group.labels[i], three_digits(place.costs[i].cost->ms),
                                costs.empty() ? std::string(" ") + about.cost_unit : ""));
  return fmt::format("{}: {}. {}{}", at, listed(costs), fit_sentence(group, place, known, answer),
                     gain_sentence(group, place, known));
}

Answer cost_view(const About& about, const CostAnswer& answer) {
  Answer view;
  const bool is_grouped = answer.groups.size() > 1;
  for (std::size_t index = 0; index < answer.groups.size(); ++index) {
    const GroupCosts& group = answer.groups[index];
    if (!fastest_first(about, group.known_place()).empty())
      view.verdict.push_back((group.conditions.empty() ? "" : group.conditions + ": ") +
                             cost_sentence(about, group, group.known_place(), answer));
    view.tables.push_back(costs_table(about, answer, index, is_grouped ? group.conditions : ""));
    view.tables.push_back(spread_table(about, answer, group));
    view.tables.push_back(traits_table(about, group));
    note_prices(about, group, view);
  }
  view.tables.push_back(effort_table(about).on_request());
  return view;
}

}  // namespace mileage
