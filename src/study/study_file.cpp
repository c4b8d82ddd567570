#include "study/study_file.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <fstream>
#include <sstream>
#include <string_view>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "study/study_json.h"
#include "types/error.h"

namespace mileage {
namespace {

std::string whole_file(const std::filesystem::path& path) {
  const std::string name = path.string();
  if (std::filesystem::is_directory(path)) throw Error({.file = name, .problem = "this is a folder, not a study"});
  std::ifstream stream(path, std::ios::binary);
  if (!stream) throw Error({.file = name, .problem = std::strerror(errno), .accepted = "the path of a study file"});
  std::ostringstream text;
  text << stream.rdbuf();
  return std::move(text).str();
}

struct Line {
  std::string_view text;
  int number;
  bool complete;  // ended by a line feed
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

/// Parses a line and hands it to `read`; adds file and line to what goes wrong.
template <class Read>
auto read_line(const std::string& file, const Line& line, Read read) {
  try {
    return read(Json::parse(line.text));
  } catch (const Json::exception&) {
    throw Error({.file = file, .line = line.number, .problem = "not a line of JSON",
                 .found = std::string(line.text.substr(0, 60))});
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

bool write_all(int descriptor, std::string_view text) {
  while (!text.empty()) {
    const ssize_t written = ::write(descriptor, text.data(), text.size());
    if (written < 0 && errno == EINTR) continue;
    if (written <= 0) return false;
    text.remove_prefix(static_cast<std::size_t>(written));
  }
  return true;
}

}  // namespace

Study read_study(const std::filesystem::path& path) {
  const std::string file = path.string();
  const std::string text = whole_file(path);
  const std::vector<Line> lines = lines_of(text);
  if (lines.empty()) throw Error({.file = file, .problem = "the file is empty", .accepted = "a study file"});

  if (!lines.front().complete)
    throw Error({.file = file, .line = 1, .problem = "the head of the study is cut off", .accepted = "a study file"});

  Study study;
  study.name = path.filename().string();
  study.head = read_line(file, lines.front(), head_from_json);
  study.visits.reserve(lines.size() - 1);
  for (std::size_t i = 1; i < lines.size(); ++i) {
    if (!lines[i].complete && !Json::accept(lines[i].text)) {
      study.warnings.push_back(fmt::format("{}: the last line (line {}) is cut off and left out", study.name, lines[i].number));
      break;
    }
    study.visits.push_back(read_line(file, lines[i], visit_from_json));
  }
  return study;
}

std::vector<std::string> differences(const Head& in_file, const Head& asked_for) {
  std::vector<std::string> lines;
  const auto compare = [&](const std::string& name, const Json& there, const Json& here) {
    if (there != here) lines.push_back(fmt::format("{} is {} in the file, {} now", name, there.dump(), here.dump()));
  };
  const Json there = to_json(in_file);
  const Json here = to_json(asked_for);
  compare("scenario", there["scenario"]["name"], here["scenario"]["name"]);
  compare("processor", there["machine"]["processor"], here["machine"]["processor"]);
  for (const auto& [field, value] : here["plan"].items()) compare(field, there["plan"].value(field, Json()), value);
  if (lines.empty()) compare("the plan with its commands", Json(in_file.plan_print), Json(asked_for.plan_print));
  if (lines.empty()) compare("what the scenario offers", there["scenario"], here["scenario"]);
  return lines;
}

StudyWriter::StudyWriter(const std::filesystem::path& path, const Head& head) : name_(path.string()) {
  descriptor_ = ::open(path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_APPEND | O_CLOEXEC, 0644);
  if (descriptor_ < 0 && errno == EEXIST)
    refuse_output(name_, "the file exists and nothing measured is overwritten; give another name with -o, or remove it");
  if (descriptor_ < 0) refuse_output(name_, std::strerror(errno));
  lock();
  try {
    write_line(to_line(to_json(head)));
  } catch (...) {
    ::close(descriptor_);
    throw;
  }
}

StudyWriter::StudyWriter(const std::filesystem::path& path) : name_(path.string()) {
  descriptor_ = ::open(path.c_str(), O_RDWR | O_APPEND | O_CLOEXEC);
  if (descriptor_ < 0) refuse_output(name_, std::strerror(errno));
  lock();
  const std::string text = whole_file(path);
  const auto complete = static_cast<off_t>(text.rfind('\n') + 1);
  if (complete < static_cast<off_t>(text.size()) && ::ftruncate(descriptor_, complete) != 0) {
    ::close(descriptor_);
    refuse_output(name_, std::strerror(errno));
  }
}

void StudyWriter::lock() {
  if (::flock(descriptor_, LOCK_EX | LOCK_NB) == 0) return;
  ::close(descriptor_);
  refuse_output(name_, "another process is measuring into this file");
}

StudyWriter::~StudyWriter() { ::close(descriptor_); }

void StudyWriter::append(const Visit& visit) { write_line(to_line(to_json(visit))); }

void StudyWriter::write_line(const std::string& line) {
  const off_t before = ::lseek(descriptor_, 0, SEEK_END);
  if (write_all(descriptor_, line + "\n")) return;
  const std::string reason = std::strerror(errno);
  if (::ftruncate(descriptor_, before) == 0) refuse_output(name_, reason + "; everything up to the last visit is in the file");
  refuse_output(name_, reason + "; the last line may be cut off");
}

}  // namespace mileage
