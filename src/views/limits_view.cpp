#include "views/views.h"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/notation.h"
#include "views/words.h"

namespace mileage {
namespace {

std::string resource_name(const About& about, Resource what) {
  switch (what) {
    case Resource::frame_thread:
      return "main thread";
    case Resource::all_cores:
      return fmt::format("all {} cores", about.head.machine.cores);
    case Resource::memory_traffic:
      return "memory traffic";
    case Resource::memory_size:
      return "memory size";
    case Resource::device:
      return "device";
    case Resource::submission:
      return "submission";
    case Resource::waiting:
      return "blocked (lock or imbalance)";
    case Resource::inconclusive:
      return "unclear";
  }
  return "";
}

Table resources_table(const About& about, const LimitsAnswer& answer) {
  Table table(
      about, "resources",
      fmt::format("Capacity by resource in {}, if nothing else took time (no intervals)", ms_text(answer.budget_ms)),
      {series_column(),
       place_column(about),
       {"resource", "resource", Format::text, "what may be used up"},
       {"share", "used", Format::percent, "share of it that a frame uses there"},
       {"alone_at", "capacity", Format::place, "place at which it alone would fill the budget"}});
  for (const SeriesLimit& limit : answer.limits)
    for (const ResourceUse& use : limit.uses)
      table.row({series_entry(about, limit.series), limit.x, resource_name(about, use.what), use.share,
                 use.alone_at ? Entry(use.alone_at) : absent("more")});
  table.pivoted("series", "resource", "alone_at").on_request();
  return table;
}

Table memory_table(const About& about, const LimitsAnswer& answer) {
  Table table(about, "memory_capacities", "",
              {series_column(),
               {"memory_bytes", "", Format::number, "memory limit, bytes"},
               {"capacity", "fits in " + bytes_text(answer.memory_limit_bytes), Format::place,
                "largest number within the memory limit"},
               {"bytes_each", "bytes/" + about.axis.thing, Format::number, "memory per entity, bytes"},
               {"leaks", "", Format::flag, "memory grows from frame to frame"}});
  for (const MemoryCapacity& one : answer.memory)
    table.row({series_entry(about, one.series), answer.memory_limit_bytes,
               one.at ? Entry(one.at) : absent(one.keeps_growing ? "none: its memory keeps growing" : "unknown"),
               one.bytes_each > 0 ? Entry(one.bytes_each) : absent(), one.keeps_growing});
  return table;
}

Table ticks_table(const About& about, const LimitsAnswer& answer) {
  Table table(about, "ticks",
              answer.ticks.empty() ? "" : fmt::format("Fixed tick of {} with catch-up", ms_text(answer.tick_ms)),
              {series_column(),
               {"tick_ms", "", Format::number, "fixed tick, ms"},
               {"spike_ms", "", Format::number, "spike, ms"},
               {"keeps_up", "keeps up to", Format::place, "above it every tick falls further behind", Spread::inside},
               {"spike_recovery", fmt::format("recovers from a {} spike in 1 s up to", ms_text(answer.spike_ms)),
                Format::place, "above it a spike is not made up within a second", Spread::inside}});
  for (const TickLimit& one : answer.ticks)
    table.row({series_entry(about, one.series), answer.tick_ms, answer.spike_ms, capacity_cell(about, one.keeps_up),
               capacity_cell(about, one.spike_recovery)});
  return table;
}

}  // namespace

std::string limited_by(const About& about, const LimitsAnswer& answer, std::size_t series) {
  for (const SeriesLimit& limit : answer.limits)
    if (limit.series == series && !limit.uses.empty()) return resource_name(about, limit.first);
  return {};
}

Answer limits_view(const About& about, const LimitsAnswer& answer) {
  Answer view;
  view.tables = {memory_table(about, answer), ticks_table(about, answer), resources_table(about, answer)};
  for (const SeriesLimit& limit : answer.limits)
    if (!limit.evidence.empty())
      view.note(fmt::format("{} at {}: {}.", about.label(limit.series), place_text(limit.x, about.axis),
                            fmt::join(limit.evidence, "; ")),
                true);
  return view;
}

}  // namespace mileage
