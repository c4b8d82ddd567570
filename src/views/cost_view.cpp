#include "views/cost_view.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "views/answer_json.h"
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

void add_row(TextTable& table, const About& about, const PlaceCosts& place, const SeriesCost& one) {
  const SeriesCost& first = place.costs.front();
  const bool is_first = one.series == first.series;
  const bool has_first = first.cost.has_value();
  table.row({place_text(place.x, about.axis), about.label(one.series), with_range(one.cost->ms, one.cost->interval),
             is_first || !has_first ? "" : three_digits(one.saves_ms),
             is_first    ? "1"
             : has_first ? with_range(one.share, one.share_interval)
                         : about.label(first.series) + " was not measured that far",
             one.setup_ms ? three_digits(*one.setup_ms) : "not known", payback_text(one)});
}

Json cost_row(const About& about, const GroupCosts& group, double x, const SeriesCost& one) {
  Json row = row_of(about, one.series);
  row["conditions"] = group.conditions;
  row[about.axis.name] = place_json(x, about.axis);
  row["ms"] = one.cost->ms;
  add_interval(row, one.cost->interval, "low_ms", "high_ms");
  row["saves_ms"] = one.saves_ms;
  row["setup_ms"] = optional_json(one.setup_ms);
  row["payback_frames"] = optional_json(one.payback_frames);
  row["share_of"] = about.label(group.members.front());
  row["share"] = one.share;
  add_interval(row, one.share_interval);
  return row;
}

}  // namespace

TextTable cost_table(const About& about, const GroupCosts& group) {
  TextTable table;
  table.column(about.axis.things, Align::right);
  table.column("variant");
  table.column("ms a frame (95 %)");
  table.column("saves ms", Align::right);
  table.column("takes of the first one's time");
  table.column("set-up ms", Align::right);
  table.column("earned back after");
  for (const PlaceCosts& place : group.places)
    for (const SeriesCost& one : place.costs)
      if (one.cost) add_row(table, about, place, one);
  return table;
}

std::string cost_text(const About& about, const CostAnswer& answer) {
  std::string text;
  for (const GroupCosts& group : answer.groups)
    text += with_conditions("What a frame costs", group.conditions) + "\n\n" + cost_table(about, group).text() + "\n";
  return text;
}

void add_cost_json(Json& json, const About& about, const CostAnswer& answer) {
  Json& rows = rows_of(json, "costs");
  for (const GroupCosts& group : answer.groups)
    for (const PlaceCosts& place : group.places)
      for (const SeriesCost& one : place.costs)
        if (one.cost) rows.push_back(cost_row(about, group, place.x, one));
}

}  // namespace mileage
