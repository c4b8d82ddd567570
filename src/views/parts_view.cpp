#include "views/parts_view.h"

#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "types/text.h"
#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

bool answers_alike(const std::optional<DeviceShare>& one, const std::optional<DeviceShare>& other) {
  if (!one || !other) return !one && !other;
  return one->by_timer == other->by_timer && one->shares_cores == other->shares_cores &&
         (one->shares_cores || one->device_runs_out_first() == other->device_runs_out_first());
}

const char* runs_out_text(const DeviceShare& share) {
  if (share.shares_cores) return "the cores, which both share";
  return share.device_runs_out_first() ? "the device" : "the processor";
}

/// The rows of one cell.
class CellRows {
 public:
  CellRows(TextTable& table, const CellDetail& cell, const About& about)
      : table_(table),
        cell_(cell),
        place_(place_text(cell.x, about.axis)),
        cores_(three_digits(std::max(1, about.head.machine.cores))) {}

  void add_times() {
    add_time(cell_.frames_per_sample > 1 ? fmt::format("wall time (samples of {} frames)", cell_.frames_per_sample)
                                         : "wall time",
             cell_.frame_ms);
    add_known_time("its thread busy", cell_.thread_busy_ms);
    add_known_time(cell_.cores_used() ? fmt::format("all threads: {}", used(*cell_.cores_used())) : "all threads",
                   cell_.processor_ms);
    if (cell_.whole_cores_used)
      table_.row(
          {place_, fmt::format("the whole run, set-up included: {}", used(*cell_.whole_cores_used)), "", "", "", ""});
    for (const auto& [name, ms] : cell_.phases_ms) add_time("phase " + name, ms);
  }
  void add_counters() {
    for (const auto& [name, amount] : cell_.counters)
      table_.row({place_, "counter " + name, three_digits(amount), "", three_digits(amount / cell_.x),
                  three_digits(cell_.per_second(amount))});
  }
  void add_memory() {
    table_.row({place_, "memory beyond the smallest world", "", "",
                cell_.bytes_per_entity ? three_digits(*cell_.bytes_per_entity) + " bytes" : "not known", ""});
    if (cell_.start_ms)
      table_.row({place_,
                  fmt::format("starting the driver, before the world: {}{}", ms_text(*cell_.start_ms),
                              cell_.start_bytes ? ", " + memory_text(*cell_.start_bytes) : ""),
                  "", "", "", ""});
    if (cell_.peak_bytes) table_.row({place_, "memory at most: " + memory_text(*cell_.peak_bytes), "", "", "", ""});
    if (cell_.growth_bytes_per_frame)
      table_.row({place_, "memory keeps growing (a leak?)", three_digits(*cell_.growth_bytes_per_frame) + " bytes", "",
                  "", ""});
  }

 private:
  std::string used(double cores) const { return fmt::format("{} of {} cores used", three_digits(cores), cores_); }
  void add_time(const std::string& part, double ms) {
    table_.row(
        {place_, part, ms_text(ms), three_digits(ms / cell_.frame_ms), three_digits(ms * 1e6 / cell_.x) + " ns", ""});
  }
  void add_known_time(const std::string& part, const std::optional<double>& ms) {
    ms ? add_time(part, *ms) : table_.row({place_, part, "not known", "", "", ""});
  }

  TextTable& table_;
  const CellDetail& cell_;
  std::string place_;
  std::string cores_;
};

/// A row for each stretch of neighbouring cells that answer alike.
void add_device_rows(TextTable& table, const About& about, std::size_t index, const SeriesParts& series) {
  const auto at_both_ends = [](double from_ms, double to_ms) {
    return fmt::format("{} to {}", three_digits(from_ms), ms_text(to_ms));
  };
  for (std::size_t from = 0; from < series.devices.size();) {
    std::size_t end = from + 1;
    while (end < series.devices.size() && answers_alike(series.devices[from], series.devices[end])) ++end;
    if (const auto& first = series.devices[from]) {
      const DeviceShare& last = *series.devices[end - 1];
      table.row({about.label(index), place_text(series.cells[from].x, about.axis),
                 place_text(series.cells[end - 1].x, about.axis), at_both_ends(first->processor_ms, last.processor_ms),
                 at_both_ends(first->device_ms, last.device_ms), first->by_timer ? "its timer" : "waiting for it",
                 runs_out_text(*first)});
    }
    from = end;
  }
}

Json device_json(const DeviceShare& share) {
  Json json;
  json["processor_ms"] = share.processor_ms;
  json["device_ms"] = share.device_ms;
  json["told_by"] = share.by_timer ? "timer" : "fence";
  json["runs_out_first"] = share.shares_cores ? "shared cores" : share.device_runs_out_first() ? "device" : "processor";
  return json;
}

Json cell_json(const CellDetail& cell, const std::optional<DeviceShare>& share, const Axis& axis) {
  std::map<std::string, double> per_second;
  for (const auto& [name, amount] : cell.counters) per_second[name] = cell.per_second(amount);
  Json json;
  json[axis.name] = place_json(cell.x, axis);
  json["frame_ms"] = cell.frame_ms;
  json["thread_busy_ms"] = optional_json(cell.thread_busy_ms);
  json["processor_ms"] = optional_json(cell.processor_ms);
  json["cores_used"] = optional_json(cell.cores_used());
  json["whole_cores_used"] = optional_json(cell.whole_cores_used);
  json["frames_per_sample"] = cell.frames_per_sample;
  json["phases_ms"] = cell.phases_ms;
  json["counters"] = cell.counters;
  json["counters_per_second"] = per_second;
  json["device"] = share ? device_json(*share) : Json(nullptr);
  json["bytes_per_entity"] = optional_json(cell.bytes_per_entity);
  json["start_ms"] = optional_json(cell.start_ms);
  json["start_bytes"] = optional_json(cell.start_bytes);
  json["peak_bytes"] = optional_json(cell.peak_bytes);
  json["growth_bytes_per_frame"] = optional_json(cell.growth_bytes_per_frame);
  return json;
}

}  // namespace

TextTable parts_table(const About& about, const SeriesParts& series) {
  TextTable table;
  table.column(about.axis.things, Align::right);
  table.column("part");
  table.column("a frame", Align::right);
  table.column("share", Align::right);
  table.column(with_article(about.axis.thing), Align::right);
  table.column("a second", Align::right);
  for (const CellDetail& cell : series.cells) {
    CellRows rows(table, cell, about);
    rows.add_times();
    rows.add_counters();
    rows.add_memory();
  }
  return table;
}

TextTable device_table(const About& about, const PartsAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column("from", Align::right);
  table.column("to", Align::right);
  table.column("processor", Align::right);
  table.column("device", Align::right);
  table.column("told by");
  table.column("runs out first");
  for (std::size_t i = 0; i < answer.series.size(); ++i) add_device_rows(table, about, i, answer.series[i]);
  return table;
}

std::string parts_text(const About& about, const PartsAnswer& answer) {
  std::string text;
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    text +=
        about.label(i) + ": where the time of a frame goes\n\n" + parts_table(about, answer.series[i]).text() + "\n";
  return text;
}

std::string device_text(const About& about, const PartsAnswer& answer) {
  const TextTable table = device_table(about, answer);
  return table.empty() ? "" : "Processor and device\n\n" + table.text() + "\n";
}

void add_parts_json(Json& json, const PartsAnswer& answer, const Axis& axis) {
  Json& curves = json["curves"];
  const std::size_t first = curves.size() - answer.series.size();
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    const SeriesParts& series = answer.series[i];
    Json& parts = rows_of(curves[first + i], "parts");
    for (std::size_t cell = 0; cell < series.cells.size(); ++cell)
      parts.push_back(cell_json(series.cells[cell], series.devices[cell], axis));
  }
}

void add_devices_json(Json& json, const About& about, const PartsAnswer& answer) {
  Json& rows = rows_of(json, "devices");
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    const SeriesParts& series = answer.series[i];
    for (std::size_t cell = 0; cell < series.cells.size(); ++cell) {
      if (!series.devices[cell]) continue;
      Json row = row_of(about, i);
      row[about.axis.name] = place_json(series.cells[cell].x, about.axis);
      row.update(device_json(*series.devices[cell]));
      rows.push_back(std::move(row));
    }
  }
}

}  // namespace mileage
