#include "views/frames_view.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

/// Parts of spikes that are worded have at least this share.
constexpr double share_of_spikes_told = 0.1;
/// Workers that a row lists.
constexpr std::size_t workers_told = 6;

std::string percent(double share) { return three_digits(100 * share) + " %"; }

std::string percent_range(double share, const Interval& interval) {
  if (!interval.closed()) return percent(share);
  return fmt::format("{} ({} to {})", percent(share), three_digits(100 * *interval.low),
                     three_digits(100 * *interval.high));
}

std::string part_name(const SpikePart& part) { return part.phase.empty() ? "no phase" : "phase " + part.phase; }

/// "92 % in phase gather, 8 % in no phase".
std::string parts_words(const Spikes& spikes) {
  std::string words;
  for (const SpikePart& part : spikes.parts)
    if (part.share >= share_of_spikes_told)
      words += fmt::format("{}{} in {}", words.empty() ? "" : ", ", percent(part.share), part_name(part));
  return words;
}

std::string period_words(const Spikes& spikes) {
  if (spikes.seen == 0) return "";
  if (!spikes.period) return "at no steady distance";
  return fmt::format("every {} frames ({} of {} due)", three_digits(spikes.period->every), spikes.period->hits,
                     spikes.period->due);
}

std::string settled_words(const Settling& settling) {
  if (settling.frames < 1) return "at once";
  return fmt::format("{:.3g} frame{}, {}", settling.frames, settling.frames == 1 ? "" : "s",
                     ms_text(settling.takes_ms));
}

std::string law_words(const CellFrames& cell) {
  if (!cell.settling_law) return "";
  return fmt::format("arriving ^ {}", with_range(cell.settling_law->exponent, cell.settling_law->interval));
}

bool has_frames(const CellFrames& cell) { return cell.frames > 0; }

Json cell_row(const About& about, const CellFrames& cell, double budget_ms) {
  Json row = row_of(about, cell.series);
  row[about.axis.name] = place_json(cell.x, about.axis);
  row["visits"] = cell.visits;
  row["traced"] = cell.traced;
  row["frames"] = cell.frames;
  row["frames_per_sample"] = cell.frames_per_sample;
  row["typical_ms"] = cell.typical_ms;
  row["worst_ms"] = cell.worst_ms;
  row["budget_ms"] = budget_ms;
  row["share_over"] = cell.share_over;
  add_interval(row, cell.share_over_interval, "share_over_low", "share_over_high");
  row["longest_run_over"] = cell.longest_run_over;
  row["spikes_in_1000"] = cell.spikes.a_thousand_frames;
  add_interval(row, cell.spikes.rate_interval, "spikes_low", "spikes_high");
  row["spike_times_around"] = cell.spikes.times_around;
  row["spike_worst_ms"] = cell.spikes.worst_ms;
  row["every_frames"] = cell.spikes.period ? Json(cell.spikes.period->every) : Json(nullptr);
  row["period_hits"] = cell.spikes.period ? Json(cell.spikes.period->hits) : Json(nullptr);
  row["period_due"] = cell.spikes.period ? Json(cell.spikes.period->due) : Json(nullptr);
  row["parts"] = Json::array();
  for (const SpikePart& part : cell.spikes.parts)
    row["parts"].push_back({{"phase", part.phase}, {"share", part.share}});
  return row;
}

void add_work(Json& row, const CellFrames& cell) {
  row["work"] = nullptr;
  if (!cell.work) return;
  const WorkShare& work = *cell.work;
  row["work"] = {{"busy_ms", work.busy_ms},
                 {"entities", work.entities},
                 {"batches", work.batches},
                 {"largest_ms", work.largest_ms},
                 {"before_ms", optional_json(work.before_ms)},
                 {"after_ms", optional_json(work.after_ms)},
                 {"idle_share", optional_json(work.idle_share)},
                 {"balance_saves_ms", optional_json(work.balance_saves_ms)}};
  add_interval(row["work"], work.balance_interval, "balance_low_ms", "balance_high_ms");
}

void add_settling(Json& row, const CellFrames& cell) {
  row["settling"] = nullptr;
  if (const auto& one = cell.settling)
    row["settling"] = {{"after", one->after_arrival ? "arrival" : "set-up"},
                       {"seen", one->seen},
                       {"from_ms", one->from_ms},
                       {"frames", one->frames},
                       {"takes_ms", one->takes_ms},
                       {"never", one->never}};
  row["settling_exponent"] = cell.settling_law ? Json(cell.settling_law->exponent) : Json(nullptr);
  row["beginning"] = Json::array();
  for (const FrameAfter& frame : cell.beginning)
    row["beginning"].push_back({{"typical_ms", frame.typical_ms}, {"worst_ms", frame.worst_ms}});
  row["sorted_ms"] = cell.sorted_ms;
}

}  // namespace

/// Log ratio of recorded to corrected times from which a reader asks why they differ.
const double corrected_told_from = std::log(1.1);

std::string frames_sentence(const About& about, const CellFrames& cell) {
  const bool is_elsewhere = cell.asked_at && *cell.asked_at != cell.x;
  const std::string who =
      fmt::format("{} at {}{}", about.label(cell.series), named_place(cell.x, about.axis),
                  is_elsewhere ? fmt::format(" (measured nearest to {})", place_text(*cell.asked_at, about.axis)) : "");
  if (!has_frames(cell))
    return fmt::format("{}: frames are timed {} at once, so that none stands alone: measure with --trace 3.", who,
                       cell.frames_per_sample);
  const Spikes& spikes = cell.spikes;
  if (spikes.seen == 0)
    return fmt::format("{}: no spike in {} frames of {}.", who, cell.frames, ms_text(cell.typical_ms));
  std::string text =
      fmt::format("{}: {} of 1,000 frames spike, to {} times the frames around them, {}", who,
                  three_digits(spikes.a_thousand_frames), three_digits(spikes.times_around), period_words(spikes));
  if (const std::string parts = parts_words(spikes); !parts.empty()) text += "; of what they take more, " + parts;
  return text + ".";
}

TextTable spikes_table(const About& about, const FramesAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column(about.axis.things, Align::right);
  table.column("frames", Align::right);
  table.column("typical ms", Align::right);
  table.column("spikes in 1,000 (95 %)");
  table.column("times around", Align::right);
  table.column("worst ms", Align::right);
  table.column("they come");
  for (const CellFrames& cell : answer.cells)
    if (has_frames(cell))
      table.row({about.label(cell.series), place_text(cell.x, about.axis), fmt::format("{}", cell.frames),
                 three_digits(cell.typical_ms), with_range(cell.spikes.a_thousand_frames, cell.spikes.rate_interval),
                 cell.spikes.seen > 0 ? three_digits(cell.spikes.times_around) : "",
                 cell.spikes.seen > 0 ? three_digits(cell.spikes.worst_ms) : "", period_words(cell.spikes)});
  return table;
}

TextTable over_table(const About& about, const FramesAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column(fmt::format("frames over {} ms (95 %)", three_digits(answer.budget_ms)));
  table.column("longest run", Align::right);
  table.column("worst frame ms", Align::right);
  for (const CellFrames& cell : answer.cells)
    if (has_frames(cell))
      table.row({about.label(cell.series), percent_range(cell.share_over, cell.share_over_interval),
                 fmt::format("{}", cell.longest_run_over), three_digits(cell.worst_ms)});
  return table;
}

TextTable settling_table(const About& about, const FramesAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column("after");
  table.column("seen", Align::right);
  table.column("first frames up to ms", Align::right);
  table.column("settled after");
  table.column("frames grow with");
  for (const CellFrames& cell : answer.cells)
    if (cell.settling)
      table.row({about.label(cell.series), cell.settling->after_arrival ? "an arrival" : "set-up",
                 fmt::format("{}", cell.settling->seen), three_digits(cell.settling->from_ms),
                 settled_words(*cell.settling), law_words(cell)});
  return table;
}

TextTable work_table(const About& about, const FramesAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column("busy ms by worker");
  table.column("batches", Align::right);
  table.column("largest ms", Align::right);
  table.column("before the first", Align::right);
  table.column("after the last", Align::right);
  table.column("idle between", Align::right);
  table.column("perfect balance saves ms (95 %)");
  const auto optional_cell = [](const std::optional<double>& ms) { return ms ? three_digits(*ms) : ""; };
  for (const CellFrames& cell : answer.cells) {
    if (!cell.work) continue;
    const WorkShare& work = *cell.work;
    std::string busy;
    for (std::size_t i = 0; i < work.busy_ms.size() && i < workers_told; ++i)
      busy += (i == 0 ? "" : ", ") + three_digits(work.busy_ms[i]);
    if (work.busy_ms.size() > workers_told)
      busy += fmt::format(" ... {} ({} workers)", three_digits(work.busy_ms.back()), work.busy_ms.size());
    table.row({about.label(cell.series), busy, three_digits(work.batches), three_digits(work.largest_ms),
               optional_cell(work.before_ms), optional_cell(work.after_ms),
               work.idle_share ? percent(*work.idle_share) : "",
               work.balance_saves_ms ? with_range(*work.balance_saves_ms, work.balance_interval)
                                     : "not known: frames in runs"});
  }
  return table;
}

std::string frames_text(const About& about, const FramesAnswer& answer) {
  std::string text;
  for (const CellFrames& cell : answer.cells) text += frames_sentence(about, cell) + "\n";
  const auto add = [&](const char* title, const TextTable& table) {
    if (!table.empty()) text += fmt::format("\n{}\n\n{}", title, table.text());
  };
  add("Spikes: frames that take half more than those around them", spikes_table(about, answer));
  add("Over the budget, by wall time", over_table(about, answer));
  add("How frames begin", settling_table(about, answer));
  add("Work by worker, a frame", work_table(about, answer));
  for (const CellFrames& cell : answer.cells)
    if (has_frames(cell) && cell.cost_ms && std::fabs(std::log(cell.typical_ms / *cell.cost_ms)) > corrected_told_from)
      text += fmt::format(
          "\nFrames of {} are shown as recorded, {} typically; corrected for the machine, a frame costs "
          "{}.\n",
          about.label(cell.series), ms_text(cell.typical_ms), ms_text(*cell.cost_ms));
  const bool is_any_traced =
      std::any_of(answer.cells.begin(), answer.cells.end(), [](const CellFrames& cell) { return cell.traced > 0; });
  if (!is_any_traced)
    text += "\nWhich phase spikes sit in is kept by visits of --trace 3, and by tables with phases.\n";
  return text + "\n";
}

void add_frames_json(Json& json, const About& about, const FramesAnswer& answer) {
  Json& rows = rows_of(json, "frames");
  for (const CellFrames& cell : answer.cells) {
    Json row = cell_row(about, cell, answer.budget_ms);
    add_settling(row, cell);
    add_work(row, cell);
    rows.push_back(std::move(row));
  }
}

}  // namespace mileage
