#include "study/exported_table.h"

#include <fstream>
#include <map>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "study/csv_reader.h"
#include "study/frame_table.h"
#include "study/knobs_cell.h"
#include "study/study_json.h"
#include "study/table_columns.h"
#include "system/files.h"
#include "types/error.h"

namespace mileage {
namespace {

constexpr std::string_view head_comment = "# mileage-study ";
constexpr std::string_view run_comment = "# mileage-run ";

bool has_rows(const Run& run) { return run.block >= 0 && run.status != RunStatus::failed && !run.samples_ns.empty(); }

const char* status_of_rows(const Run& run) { return run.status == RunStatus::disturbed ? "disturbed" : "kept"; }

std::string comments_of(const Study& study) {
  std::string text = std::string(head_comment) + to_line(to_json(study.head)) + "\n";
  for (Run run : study.runs) {
    run.samples_ns.clear();
    run.warmup_ns.clear();
    text += std::string(run_comment) + to_line(to_json(run)) + "\n";
  }
  return text;
}

void append_rows(const Run& run, std::string& csv) {
  const std::string before =
      fmt::format("{},{},{},{},{},{},{},{},{},", csv_field(run.series.variant), csv_field(run.series.build),
                  csv_field(knobs_cell(run.series.knobs)), run.series.cold_bytes, csv_field(run.series.skipped_phase),
                  run.count, run.block, run.order, status_of_rows(run));
  const std::string after = fmt::format(",{},{},{}\n", run.frames_per_sample, run.alive,
                                        run.setup_ms ? fmt::format("{}", *run.setup_ms) : std::string());
  std::size_t frame = 0;
  for (const auto& [is_warmup, samples] : {std::pair{1, &run.warmup_ns}, {0, &run.samples_ns}})
    for (const std::int64_t sample : *samples) {
      // Warm-up frames are single.
      const int frames = is_warmup == 1 ? 1 : run.frames_per_sample;
      csv += before + fmt::format("{},{},{:.15g}", is_warmup, frame++, static_cast<double>(sample) * 1e-6 / frames) +
             after;
    }
}

/// Content of the comments above the header.
struct Told {
  std::optional<Head> head;
  std::vector<Run> runs;
};

Json comment_json(const std::string& line, std::string_view comment) {
  Json json = parsed_json(std::string_view(line).substr(comment.size()));
  if (json.is_discarded())
    throw Error({.problem = "not the comment of an exported study",
                 .found = line,
                 .accepted = "the table as it was exported, or one without these comments"});
  return json;
}

Told read_comments(const std::filesystem::path& table) {
  std::ifstream stream(table, std::ios::binary);
  Told told;
  int number = 0;
  for (std::string line; std::getline(stream, line);) {
    ++number;
    if (number == 1 && line.rfind("\xEF\xBB\xBF", 0) == 0) line.erase(0, 3);
    if (line.empty() || line.front() != '#') break;
    try {
      if (line.rfind(head_comment, 0) == 0) told.head = head_from_json(comment_json(line, head_comment));
      if (line.rfind(run_comment, 0) == 0) told.runs.push_back(run_from_json(comment_json(line, run_comment)));
    } catch (const Error& error) {
      Fault fault = error.fault();
      fault.file = table.string();
      fault.line = number;
      throw Error(fault);
    }
  }
  return told;
}

/// False if the rows belong to another run.
bool take_frames(const Recording& recording, Run& run) {
  const Series series{recording.variant, recording.knobs, recording.cold_bytes, recording.build,
                      recording.skipped_phase};
  if (recording.count != run.count || recording.block != run.block ||
      recording.frames_per_sample != run.frames_per_sample)
    return false;
  if (csv_field(series.variant) != csv_field(run.series.variant) ||
      csv_field(series.build) != csv_field(run.series.build) ||
      knobs_cell(series.knobs) != knobs_cell(run.series.knobs) || series.cold_bytes != run.series.cold_bytes ||
      csv_field(series.skipped_phase) != csv_field(run.series.skipped_phase))
    return false;
  const auto measured = recording.frame_ns.begin() + static_cast<std::ptrdiff_t>(recording.warmup.value_or(0));
  run.warmup_ns.assign(recording.frame_ns.begin(), measured);
  run.samples_ns.assign(measured, recording.frame_ns.end());
  return true;
}

}  // namespace

std::string exported_table(const Study& study) {
  std::string csv = comments_of(study);
  csv += exported_header() + "\n";
  for (const Run& run : study.runs)
    if (has_rows(run)) append_rows(run, csv);
  return csv;
}

std::optional<Study> study_of_exported_table(const std::filesystem::path& table) {
  check_regular_file(table, largest_table_bytes);
  Told told = read_comments(table);
  if (!told.head) return std::nullopt;
  std::map<std::string, const Recording*> by_run;
  const std::vector<Recording> recordings = read_frame_tables({table}, {});
  for (const Recording& recording : recordings)
    if (!by_run.emplace(recording.run, &recording).second) return std::nullopt;

  Study study;
  study.name = table.filename().string();
  study.head = *told.head;
  for (Run& run : told.runs) {
    const auto rows = by_run.find(std::to_string(run.order));
    const bool is_of_a_block = run.block >= 0 && run.status != RunStatus::failed;
    if (rows == by_run.end() && is_of_a_block) continue;
    if (rows != by_run.end() && !take_frames(*rows->second, run)) return std::nullopt;
    if (rows != by_run.end()) by_run.erase(rows);
    study.runs.push_back(std::move(run));
  }
  if (!by_run.empty()) return std::nullopt;  // Rows without a comment.
  return study;
}

}  // namespace mileage
