#include "tool/output.h"

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <fstream>

#include <fmt/format.h>

#include "system/files.h"
#include "tool/marks.h"
#include "types/error.h"
#include "types/text.h"

namespace mileage {
namespace {

[[noreturn]] void refuse(const std::filesystem::path& path, const std::string& problem) {
  throw Error({.kind = FaultKind::cannot_write, .file = path.string(), .problem = problem});
}

std::string start_of(const std::filesystem::path& path) {
  std::ifstream stream(path, std::ios::binary);
  std::string start(512, '\0');
  stream.read(start.data(), static_cast<std::streamsize>(start.size()));
  return start;
}

/// Only files of its own are replaced.
void check_replaceable(const std::filesystem::path& path) {
  std::error_code missing;
  if (!std::filesystem::exists(std::filesystem::symlink_status(path, missing))) return;
  if (!std::filesystem::is_regular_file(path, missing)) refuse(path, "this is no regular file; give another name");
  const std::string start = start_of(path);
  if (start.find("mileage-study") != std::string::npos)
    refuse(path, "this is a study, and nothing measured is overwritten; give another name");
  if (!has_mark(start)) refuse(path, "the file exists and was not written by mileage; give another name, or remove it");
}

}  // namespace

void print(const std::string& text) {
  const std::string clean = printable(text);
  if (std::fwrite(clean.data(), 1, clean.size(), stdout) == clean.size() && std::fflush(stdout) == 0) return;
  if (errno == EPIPE) throw ClosedPipe{};
  throw Error({.kind = FaultKind::cannot_write, .file = "standard output", .problem = std::strerror(errno)});
}

void print(const Json& json) { print(to_text(json)); }

void tell(const std::string& text) { fmt::print(stderr, "mileage: {}\n", printable(text)); }

void write_file(const std::filesystem::path& path, const std::string& bytes) {
  check_replaceable(path);
  write_whole_file(path, with_mark(bytes), IfThere::replace);
}

}  // namespace mileage
