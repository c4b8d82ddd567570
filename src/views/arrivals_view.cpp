#include "views/arrivals_view.h"

#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

std::string settled_cell(const About& about, const CapacityAnswer& capacities, const WorstFrames& worst) {
  for (const SeriesCapacity& one : capacities.capacities)
    if (one.series == worst.series && one.capacity.budget_ms == worst.budget_ms) {
      if (one.capacity.at) return place_text(*one.capacity.at, about.axis);
      return one.capacity.none == NoCapacity::over_at_once ? "over at once"
                                                           : "at least " + place_text(one.holds_at_least, about.axis);
    }
  return "not known";
}

std::string worst_cell(const About& about, const WorstFrames& worst) {
  if (worst.at) return place_text(*worst.at, about.axis);
  return worst.over_at_once ? "below " + place_text(worst.measured_from, about.axis)
                            : "at least " + place_text(worst.measured_to, about.axis);
}

std::string worst_interval_cell(const About& about, const WorstFrames& worst) {
  if (!worst.at) return "";
  return worst.interval.closed()                ? interval_text(worst.interval, about.axis)
         : about.head.made_by == MadeBy::tables ? "none: fewer than three recordings"
                                                : "none: fewer than three blocks";
}

std::string adds_cell(const ArrivalSize& size) {
  const std::string adds = ms_text(size.adds_ms);
  return size.adds_interval.closed() ? adds + " " + range_text(size.adds_interval) : adds;
}

std::string settles_cell(const ArrivalSize& size) {
  if (!size.settles_frames) return "not known";
  if (*size.settles_frames < 1) return "at once";
  return fmt::format("{:.3g} frame{}, {}", *size.settles_frames, *size.settles_frames == 1 ? "" : "s",
                     ms_text(*size.settles_ms));
}

}  // namespace

TextTable worst_frames_table(const About& about, const ArrivalsAnswer& answer, const CapacityAnswer& capacities,
                             double budget_ms) {
  TextTable table;
  table.column("variant");
  table.column("settled frames", Align::right);
  table.column("worst frames", Align::right);
  table.column("95 % interval");
  table.column("first over at", Align::right);
  for (const WorstFrames& worst : answer.worst)
    if (worst.budget_ms == budget_ms)
      table.row({about.label(worst.series), settled_cell(about, capacities, worst), worst_cell(about, worst),
                 worst_interval_cell(about, worst),
                 worst.first_over ? place_text(*worst.first_over, about.axis) : "never"});
  return table;
}

TextTable arrival_sizes_table(const About& about, const ArrivalsAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column("arriving at once", Align::right);
  table.column("to about", Align::right);
  table.column("seen", Align::right);
  table.column("the worst frame takes more");
  table.column("settled after");
  for (const ArrivalSize& size : answer.sizes)
    table.row({about.label(size.series), count_text(static_cast<double>(size.arriving)),
               place_text(size.at, about.axis), fmt::format("{}", size.seen), adds_cell(size), settles_cell(size)});
  return table;
}

std::string arrivals_text(const About& about, const ArrivalsAnswer& answer, const CapacityAnswer& capacities) {
  if (answer.empty()) return {};
  std::string text;
  for (const double budget_ms : capacities.budgets_ms)
    text += fmt::format("Within {}, by settled frames and by the worst ones as {} arrive\n\n{}\n",
                        budget_text(budget_ms, capacities.reserve_ms), about.head.scenario.entities,
                        worst_frames_table(about, answer, capacities, budget_ms).text());
  const TextTable sizes = arrival_sizes_table(about, answer);
  return sizes.empty() ? text : text + sizes.text() + "\n";
}

void add_arrivals_json(Json& json, const About& about, const ArrivalsAnswer& answer) {
  Json& worst_frames = rows_of(json, "worst_frames");
  for (const WorstFrames& worst : answer.worst) {
    Json row = row_of(about, worst.series);
    row["budget_ms"] = worst.budget_ms;
    row[about.axis.name] = place_json(worst.at, about.axis);
    row["low"] = place_json(worst.interval.low, about.axis);
    row["high"] = place_json(worst.interval.high, about.axis);
    row["first_over"] = place_json(worst.first_over, about.axis);
    const bool is_within = !worst.at && !worst.over_at_once;
    row["at_least"] = is_within ? place_json(worst.measured_to, about.axis) : Json(nullptr);
    row["below"] = worst.over_at_once ? place_json(worst.measured_from, about.axis) : Json(nullptr);
    worst_frames.push_back(std::move(row));
  }
  Json& arrivals = rows_of(json, "arrivals");
  for (const ArrivalSize& size : answer.sizes) {
    Json row = row_of(about, size.series);
    row["arriving"] = size.arriving;
    row[about.axis.name] = place_json(size.at, about.axis);
    row["seen"] = size.seen;
    row["adds_ms"] = size.adds_ms;
    add_interval(row, size.adds_interval);
    row["settles_frames"] = optional_json(size.settles_frames);
    row["settles_ms"] = optional_json(size.settles_ms);
    arrivals.push_back(std::move(row));
  }
}

}  // namespace mileage
