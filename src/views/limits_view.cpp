#include "views/limits_view.h"

#include <algorithm>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "types/notation.h"
#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

/// In the order of their columns.
constexpr Resource resources[] = {Resource::frame_thread, Resource::all_cores,  Resource::memory_traffic,
                                  Resource::memory_size,  Resource::submission, Resource::device};

const ResourceUse* use_of(const SeriesLimit& limit, Resource what) {
  const auto found =
      std::find_if(limit.uses.begin(), limit.uses.end(), [&](const ResourceUse& use) { return use.what == what; });
  return found == limit.uses.end() ? nullptr : &*found;
}

bool is_known_of_any(const LimitsAnswer& answer, Resource what) {
  return std::any_of(answer.limits.begin(), answer.limits.end(),
                     [&](const SeriesLimit& limit) { return use_of(limit, what) != nullptr; });
}

std::string alone_cell(const About& about, const ResourceUse* use) {
  if (use == nullptr) return "";
  return use->alone_at ? place_text(*use->alone_at, about.axis) : "farther";
}

std::string capacity_or_reason(const About& about, const Capacity& capacity) {
  if (capacity.at)
    return place_text(*capacity.at, about.axis) +
           (capacity.interval.closed() ? " " + interval_text(capacity.interval, about.axis) : "");
  return capacity.none == NoCapacity::over_at_once ? "nowhere" : "as far as measured";
}

TextTable memory_table(const About& about, const LimitsAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column(fmt::format("fits in {}", bytes_text(answer.memory_limit_bytes)), Align::right);
  table.column("bytes each", Align::right);
  for (const MemoryCapacity& one : answer.memory)
    table.row({about.label(one.series),
               one.at              ? place_text(*one.at, about.axis)
               : one.keeps_growing ? "none: its memory keeps growing"
                                   : "not known",
               one.bytes_each > 0 ? three_digits(one.bytes_each) : ""});
  return table;
}

TextTable ticks_table(const About& about, const LimitsAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column("keeps up to");
  table.column(fmt::format("makes a spike of {} good within 1 s up to", ms_text(answer.spike_ms)));
  for (const TickLimit& one : answer.ticks)
    table.row(
        {about.label(one.series), capacity_or_reason(about, one.keeps_up), capacity_or_reason(about, one.makes_good)});
  return table;
}

Json capacity_json(const About& about, const Capacity& capacity) {
  Json row;
  row[about.axis.name] = place_json(capacity.at, about.axis);
  row["low"] = place_json(capacity.interval.low, about.axis);
  row["high"] = place_json(capacity.interval.high, about.axis);
  return row;
}

}  // namespace

const char* resource_name(Resource what) {
  switch (what) {
    case Resource::frame_thread:
      return "the frame's thread";
    case Resource::all_cores:
      return "all cores";
    case Resource::memory_traffic:
      return "memory traffic";
    case Resource::memory_size:
      return "memory size";
    case Resource::device:
      return "the device";
    case Resource::submission:
      return "submission";
    case Resource::waiting:
      return "waiting: a lock, or uneven work";
    case Resource::cannot_tell:
      return "cannot tell";
  }
  return "";
}

TextTable limits_table(const About& about, const LimitsAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column("ended by");
  for (const Resource what : resources)
    if (is_known_of_any(answer, what)) table.column(resource_name(what), Align::right);
  for (const SeriesLimit& limit : answer.limits) {
    std::vector<std::string> row{about.label(limit.series), resource_name(limit.first)};
    for (const Resource what : resources)
      if (is_known_of_any(answer, what)) row.push_back(alone_cell(about, use_of(limit, what)));
    table.row(std::move(row));
  }
  return table;
}

std::string limits_text(const About& about, const LimitsAnswer& answer) {
  std::string text;
  const bool is_any_known = std::any_of(answer.limits.begin(), answer.limits.end(),
                                        [](const SeriesLimit& limit) { return !limit.uses.empty(); });
  if (is_any_known) {
    text += fmt::format(
        "What runs out first, and how far each would go alone in {} ms (by the shares at one place: no "
        "intervals)\n\n{}\n",
        three_digits(answer.budget_ms), limits_table(about, answer).text());
    for (const SeriesLimit& limit : answer.limits)
      if (!limit.evidence.empty())
        text += fmt::format("{} at {}: {}.\n", about.label(limit.series), place_text(limit.x, about.axis),
                            fmt::join(limit.evidence, "; "));
    text += "\n";
  }
  if (!answer.memory.empty()) text += memory_table(about, answer).text() + "\n";
  if (!answer.ticks.empty())
    text += fmt::format("A fixed tick of {}, with catch-up\n\n{}\n", ms_text(answer.tick_ms),
                        ticks_table(about, answer).text());
  return text;
}

void add_limits_json(Json& json, const About& about, const LimitsAnswer& answer) {
  Json& rows = rows_of(json, "limits");
  for (const SeriesLimit& limit : answer.limits) {
    Json row = row_of(about, limit.series);
    row[about.axis.name] = place_json(limit.x, about.axis);
    row["budget_ms"] = answer.budget_ms;
    row["ended_by"] = resource_name(limit.first);
    row["evidence"] = limit.evidence;
    row["uses"] = Json::array();
    for (const ResourceUse& use : limit.uses)
      row["uses"].push_back({{"resource", resource_name(use.what)},
                             {"share", use.share},
                             {"alone_at", place_json(use.alone_at, about.axis)}});
    rows.push_back(std::move(row));
  }
  for (const MemoryCapacity& one : answer.memory) {
    Json row = row_of(about, one.series);
    row["memory_bytes"] = answer.memory_limit_bytes;
    row[about.axis.name] = place_json(one.at, about.axis);
    row["bytes_each"] = one.bytes_each;
    row["keeps_growing"] = one.keeps_growing;
    rows_of(json, "memory_capacities").push_back(std::move(row));
  }
  for (const TickLimit& one : answer.ticks) {
    Json row = row_of(about, one.series);
    row["tick_ms"] = answer.tick_ms;
    row["spike_ms"] = answer.spike_ms;
    row["keeps_up"] = capacity_json(about, one.keeps_up);
    row["makes_good"] = capacity_json(about, one.makes_good);
    rows_of(json, "ticks").push_back(std::move(row));
  }
}

}  // namespace mileage
