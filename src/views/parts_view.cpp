#include "views/views.h"

#include <fmt/format.h>

#include "views/words.h"

namespace mileage {
namespace {

const char* limited_by(const DeviceShare& share) {
  if (share.shares_cores) return "cores, which both share";
  return share.device_runs_out_first() ? "device" : "processor";
}

class CellRows {
 public:
  CellRows(Table& table, Entry series, const CellDetail& cell)
      : table_(table), series_(std::move(series)), cell_(cell) {}

  void add_times() {
    add_time(cell_.frames_per_sample > 1 ? fmt::format("frame (mean of {})", cell_.frames_per_sample) : "frame",
             cell_.frame_ms);
    add_time("main thread", cell_.thread_busy_ms);
    add_time("all threads", cell_.processor_ms);
    add_amount("cores used", cell_.cores_used(), "");
    add_amount("cores used, set-up included", cell_.whole_cores_used, "");
    for (const auto& [name, ms] : cell_.phases_ms) add_time("phase " + name, ms);
  }
  void add_counters() {
    for (const auto& [name, amount] : cell_.counters)
      table_.row(
          {series_, cell_.x, "counter " + name, amount, "", absent(), amount / cell_.x, cell_.per_second(amount)});
  }
  void add_memory() {
    if (cell_.bytes_per_entity)
      table_.row({series_, cell_.x, "memory", *cell_.bytes_per_entity * cell_.x, "bytes", absent(),
                  *cell_.bytes_per_entity, absent()});
    add_amount("memory, peak", cell_.peak_bytes, "bytes");
    add_amount("memory growth per frame (leak?)", cell_.growth_bytes_per_frame, "bytes");
    add_amount("driver start", cell_.start_ms, "ms");
    add_amount("driver memory", cell_.start_bytes, "bytes");
  }

 private:
  void add_time(const std::string& part, const std::optional<double>& ms) {
    if (ms) table_.row({series_, cell_.x, part, *ms, "ms", *ms / cell_.frame_ms, *ms * ns_in_ms / cell_.x, absent()});
  }
  void add_amount(const std::string& part, const std::optional<double>& amount, const char* unit) {
    if (amount) table_.row({series_, cell_.x, part, *amount, unit, absent(), absent(), absent()});
  }

  static constexpr double ns_in_ms = 1e6;
  Table& table_;
  Entry series_;
  const CellDetail& cell_;
};

}  // namespace

Answer parts_view(const About& about, const PartsAnswer& answer) {
  Answer view;
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    Table table(about, "parts", about.label(i) + ": where the time of a frame goes",
                {hidden_series_column(),
                 place_column(about),
                 {"part", "part", Format::text, "thread, phase, counter or memory"},
                 {"amount", "per frame", Format::number, "amount per frame"},
                 {"unit", "unit", Format::text, "unit of the amount"},
                 {"share", "share", Format::percent, "share of the frame's time"},
                 {"each", "per " + about.axis.thing, Format::number, "per entity: ns of times, else the amount"},
                 {"per_second", "per second", Format::number, "at the rate of frames run back to back"}});
    for (const CellDetail& cell : answer.series[i].cells) {
      CellRows rows(table, series_entry(about, i), cell);
      rows.add_times();
      rows.add_counters();
      rows.add_memory();
    }
    view.tables.push_back(std::move(table));
  }
  return view;
}

Answer devices_view(const About& about, const PartsAnswer& answer) {
  Answer view;
  Table table(about, "devices", "Processor and device",
              {series_column(),
               place_column(about),
               {"processor_ms", "processor ms", Format::number, "processor time of the main thread per frame, ms"},
               {"device_ms", "device ms", Format::number, "device time per frame, ms"},
               {"measured_by", "measured by", Format::text, "timer of the device, or waiting for its fence"},
               {"limited_by", "ends the frame", Format::text, "which of the two takes longer"}});
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    const SeriesParts& series = answer.series[i];
    for (std::size_t cell = 0; cell < series.cells.size(); ++cell)
      if (const auto& share = series.devices[cell])
        table.row({series_entry(about, i), series.cells[cell].x, share->processor_ms, share->device_ms,
                   share->by_timer ? "timer" : "fence", limited_by(*share)});
  }
  view.tables.push_back(std::move(table));
  return view;
}

}  // namespace mileage
