#include "study/study_file.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <cmath>
#include <set>
#include <string_view>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "study/study_json.h"
#include "system/files.h"
#include "types/error.h"

namespace mileage {
namespace {

/// A day of runs makes some hundred megabytes.
constexpr std::uintmax_t max_bytes = std::uintmax_t{4} << 30U;

struct Line {
  std::string_view text;
  int number;
  bool complete;  // Ended by a line feed.
};

std::vector<Line> lines_of(std::string_view text) {
  std::vector<Line> lines;
  int number = 0;
  while (!text.empty()) {
    const auto end = text.find('\n');
    lines.push_back({text.substr(0, end), ++number, end != std::string_view::npos});
    text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
  }
  std::erase_if(lines, [](const Line& line) { return line.text.find_first_not_of(" \t\r") == std::string_view::npos; });
  return lines;
}

/// Adds file and line to errors.
template <class BreakdownInputs>
auto read_line(const std::string& file, const Line& line, BreakdownInputs read) {
  const Json json = parsed_json(line.text);
  if (json.is_discarded())
    throw Error({.file = file,
                 .line = line.number,
                 .problem = "not a line of JSON",
                 .found = std::string(line.text.substr(0, 60))});
  try {
    return read(json);
  } catch (const Error& error) {
    Fault fault = error.fault();
    fault.file = file;
    fault.line = line.number;
    throw Error(fault);
  }
}

[[noreturn]] void refuse_output(const std::string& name, const std::string& problem) {
  throw Error({.kind = FaultKind::cannot_write, .file = name, .problem = problem});
}

/// JSON has no NaN or infinity; null would make the file unreadable.
std::string not_finite_in(const Json& json, const std::string& field) {
  if (json.is_number_float() && !std::isfinite(json.get<double>())) return field;
  if (json.is_object())
    for (const auto& [name, value] : json.items())
      if (const std::string found = not_finite_in(value, field.empty() ? name : field + "." + name); !found.empty())
        return found;
  if (json.is_array())
    for (const Json& value : json)
      if (const std::string found = not_finite_in(value, field); !found.empty()) return found;
  return {};
}

/// A run duplicated in a file (concatenated or appended backups) would count twice.
class Doubles {
 public:
  bool is_double(const Line& line) {
    if (seen_.insert(std::hash<std::string_view>()(line.text)).second) return false;
    if (doubles_++ == 0) first_line_ = line.number;
    return true;
  }
  void warn(Study& study) const {
    if (doubles_ == 0) return;
    study.warnings.push_back(
        doubles_ == 1 ? fmt::format("{}: one run is in it twice and counts once (line {}).", study.name, first_line_)
                      : fmt::format("{}: {} runs are in it twice and count once (from line {}).", study.name, doubles_,
                                    first_line_));
  }

 private:
  std::set<std::size_t> seen_;
  std::size_t doubles_ = 0;
  int first_line_ = 0;
};

/// Only a running game makes several runs per process; early writers did not store `made_by`.
bool share_a_process(const std::vector<Run>& runs) {
  std::set<std::int64_t> processes;
  return std::any_of(runs.begin(), runs.end(), [&](const Run& run) { return !processes.insert(run.process).second; });
}

}  // namespace

Study read_study(const std::filesystem::path& path) { return parse_study(read_regular_file(path, max_bytes), path); }

Study parse_study(std::string_view text, const std::filesystem::path& path) {
  const std::string file = path.string();
  const std::vector<Line> lines = lines_of(text);
  if (lines.empty()) throw Error({.file = file, .problem = "the file is empty", .accepted = "a study file"});

  if (!lines.front().complete)
    throw Error({.file = file, .line = 1, .problem = "the head of the study is cut off", .accepted = "a study file"});

  Study study;
  study.name = path.filename().string();
  study.head = read_line(file, lines.front(), head_from_json);
  study.runs.reserve(lines.size() - 1);
  Doubles doubles;
  for (std::size_t i = 1; i < lines.size(); ++i) {
    if (!lines[i].complete && parsed_json(lines[i].text).is_discarded()) {
      study.warnings.push_back(
          fmt::format("{}: the last line (line {}) is incomplete and was skipped.", study.name, lines[i].number));
      break;
    }
    if (!doubles.is_double(lines[i])) study.runs.push_back(read_line(file, lines[i], run_from_json));
  }
  doubles.warn(study);
  if (study.head.made_by == MadeBy::program && share_a_process(study.runs)) study.head.made_by = MadeBy::game;
  return study;
}

std::vector<std::string> differences(const Head& in_file, const Head& asked_for) {
  std::vector<std::string> lines;
  const auto compare = [&](const std::string& name, const Json& there, const Json& here) {
    if (there != here)
      lines.push_back(fmt::format("{} is {} in the file, {} now", name, to_line(there), to_line(here)));
  };
  const Json there = to_json(in_file);
  const Json here = to_json(asked_for);
  compare("scenario", there["scenario"]["name"], here["scenario"]["name"]);
  compare("what makes the runs", there["made_by"], here["made_by"]);
  compare("processor", there["machine"]["processor"], here["machine"]["processor"]);
  for (const auto& [field, value] : here["plan"].items()) compare(field, there["plan"].value(field, Json()), value);
  for (const auto& [field, value] : there["plan"].items())
    if (!here["plan"].contains(field)) compare(field, value, Json());
  if (lines.empty())
    compare("the plan with its commands", Json(in_file.plan_fingerprint), Json(asked_for.plan_fingerprint));
  if (lines.empty()) compare("what the scenario offers", there["scenario"], here["scenario"]);
  return lines;
}

StudyWriter::StudyWriter(const std::filesystem::path& path, const Head& head) : name_(path.string()) {
  const std::string line = line_of(to_json(head));
  file_ = Descriptor(::open(path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_APPEND | O_CLOEXEC, 0644));
  if (!file_.is_open() && errno == EEXIST)
    refuse_output(name_,
                  "the file exists and measurements are never overwritten; give another name with -o, or remove it");
  if (!file_.is_open()) refuse_output(name_, std::strerror(errno));
  lock();
  try {
    write_line(line);
  } catch (...) {
    ::unlink(path.c_str());  // Created here, and empty.
    throw;
  }
}

StudyWriter::StudyWriter(const std::filesystem::path& path, Study& study) : name_(path.string()) {
  file_ = Descriptor(::open(path.c_str(), O_RDWR | O_APPEND | O_CLOEXEC | O_NONBLOCK | O_NOCTTY));
  if (!file_.is_open()) refuse_output(name_, std::strerror(errno));
  lock();
  try {
    const std::string text = read_regular_file(path, max_bytes);
    study = parse_study(text, path);
    unfinished_ = text.substr(text.rfind('\n') + 1);
  } catch (const Error&) {
    refuse_output(name_, "the file exists and is not a study that can be continued; give another name with -o");
  }
}

/// A readable last line without line feed is complete; others are cut off.
void StudyWriter::mend_end() {
  if (unfinished_.empty()) return;
  const bool is_whole = !parsed_json(unfinished_).is_discarded();
  const off_t end = ::lseek(file_.number(), 0, SEEK_END);
  const bool is_mended = is_whole ? write_all(file_.number(), "\n")
                                  : ::ftruncate(file_.number(), end - static_cast<off_t>(unfinished_.size())) == 0;
  if (!is_mended) refuse_output(name_, std::strerror(errno));
  unfinished_.clear();
}

void StudyWriter::restart(const Head& head) {
  const std::string line = line_of(to_json(head));
  if (::ftruncate(file_.number(), 0) != 0) refuse_output(name_, std::strerror(errno));
  unfinished_.clear();
  write_line(line);
}

void StudyWriter::lock() const {
  if (::flock(file_.number(), LOCK_EX | LOCK_NB) != 0)
    refuse_output(name_, "another process is measuring into this file");
}

void StudyWriter::append(const Run& run) {
  const std::string line = line_of(to_json(run));
  mend_end();
  write_line(line);
}

std::string StudyWriter::line_of(const Json& json) const {
  if (const std::string field = not_finite_in(json, ""); !field.empty())
    throw Error({.kind = FaultKind::cannot_write,
                 .file = name_,
                 .field = field,
                 .problem = "not a finite number, which no study can hold"});
  return to_line(json);
}

void StudyWriter::write_line(const std::string& line) {
  const off_t before = ::lseek(file_.number(), 0, SEEK_END);
  if (write_all(file_.number(), line + "\n")) return;
  const std::string reason = std::strerror(errno);
  if (::ftruncate(file_.number(), before) == 0)
    refuse_output(name_, reason + "; everything up to the last run is in the file");
  refuse_output(name_, reason + "; the last line may be cut off");
}

}  // namespace mileage
