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
constexpr std::string_view visit_comment = "# mileage-visit ";

bool has_rows(const Visit& visit) {
  return visit.block >= 0 && visit.status != VisitStatus::failed && !visit.samples_ns.empty();
}

const char* status_of_rows(const Visit& visit) { return visit.status == VisitStatus::disturbed ? "disturbed" : "kept"; }

std::string comments_of(const Study& study) {
  std::string text = std::string(head_comment) + to_line(to_json(study.head)) + "\n";
  for (Visit visit : study.visits) {
    visit.samples_ns.clear();
    visit.warmup_ns.clear();
    text += std::string(visit_comment) + to_line(to_json(visit)) + "\n";
  }
  return text;
}

void append_rows(const Visit& visit, std::string& csv) {
  const std::string before =
      fmt::format("{},{},{},{},{},{},{},{},{},", csv_field(visit.series.variant), csv_field(visit.series.build),
                  csv_field(knobs_cell(visit.series.knobs)), visit.series.cold_bytes, csv_field(visit.series.without),
                  visit.count, visit.block, visit.order, status_of_rows(visit));
  const std::string after = fmt::format(",{},{},{}\n", visit.frames_per_sample, visit.alive,
                                        visit.setup_ms ? fmt::format("{}", *visit.setup_ms) : std::string());
  std::size_t frame = 0;
  for (const auto& [is_warmup, samples] : {std::pair{1, &visit.warmup_ns}, {0, &visit.samples_ns}})
    for (const std::int64_t sample : *samples) {
      // Warm-up frames are always single ones.
      const int frames = is_warmup == 1 ? 1 : visit.frames_per_sample;
      csv += before + fmt::format("{},{},{:.15g}", is_warmup, frame++, static_cast<double>(sample) * 1e-6 / frames) +
             after;
    }
}

/// What the comments above the header tell.
struct Told {
  std::optional<Head> head;
  std::vector<Visit> visits;
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
      if (line.rfind(visit_comment, 0) == 0) told.visits.push_back(visit_from_json(comment_json(line, visit_comment)));
    } catch (const Error& error) {
      Fault fault = error.fault();
      fault.file = table.string();
      fault.line = number;
      throw Error(fault);
    }
  }
  return told;
}

/// The frames of a visit, from the rows that name it; false where they are those of another one.
bool take_frames(const Recording& recording, Visit& visit) {
  const Series series{recording.variant, recording.knobs, recording.cold_bytes, recording.build, recording.without};
  if (recording.count != visit.count || recording.block != visit.block ||
      recording.frames_per_sample != visit.frames_per_sample)
    return false;
  if (csv_field(series.variant) != csv_field(visit.series.variant) ||
      csv_field(series.build) != csv_field(visit.series.build) ||
      knobs_cell(series.knobs) != knobs_cell(visit.series.knobs) || series.cold_bytes != visit.series.cold_bytes ||
      csv_field(series.without) != csv_field(visit.series.without))
    return false;
  const auto measured = recording.frame_ns.begin() + static_cast<std::ptrdiff_t>(recording.warmup.value_or(0));
  visit.warmup_ns.assign(recording.frame_ns.begin(), measured);
  visit.samples_ns.assign(measured, recording.frame_ns.end());
  return true;
}

}  // namespace

std::string exported_table(const Study& study) {
  std::string csv = comments_of(study);
  csv += exported_header() + "\n";
  for (const Visit& visit : study.visits)
    if (has_rows(visit)) append_rows(visit, csv);
  return csv;
}

std::optional<Study> study_of_exported_table(const std::filesystem::path& table) {
  check_regular_file(table, largest_table_bytes);
  Told told = read_comments(table);
  if (!told.head) return std::nullopt;
  std::map<std::string, const Recording*> by_visit;
  const std::vector<Recording> recordings = read_frame_tables({table}, {});
  for (const Recording& recording : recordings)
    if (!by_visit.emplace(recording.visit, &recording).second) return std::nullopt;

  Study study;
  study.name = table.filename().string();
  study.head = *told.head;
  for (Visit& visit : told.visits) {
    const auto rows = by_visit.find(std::to_string(visit.order));
    const bool is_of_a_block = visit.block >= 0 && visit.status != VisitStatus::failed;
    if (rows == by_visit.end() && is_of_a_block) continue;
    if (rows != by_visit.end() && !take_frames(*rows->second, visit)) return std::nullopt;
    if (rows != by_visit.end()) by_visit.erase(rows);
    study.visits.push_back(std::move(visit));
  }
  if (!by_visit.empty()) return std::nullopt;  // rows that no comment knows
  return study;
}

}  // namespace mileage
