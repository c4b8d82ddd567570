#include "tool/output.h"

#include <sys/ioctl.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <set>

#include <fmt/format.h>

#include "system/files.h"
#include "tool/marks.h"
#include "types/error.h"
#include "types/text.h"
#include "views/terminal.h"

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

/// Only files of ours are replaced.
void check_replaceable(const std::filesystem::path& path) {
  std::error_code missing;
  if (!std::filesystem::exists(std::filesystem::symlink_status(path, missing))) return;
  if (!std::filesystem::is_regular_file(path, missing)) refuse(path, "this is no regular file; give another name");
  const std::string start = start_of(path);
  if (start.find("mileage-study") != std::string::npos)
    refuse(path, "this is a study, and measurements are never overwritten; give another name");
  if (!has_mark(start)) refuse(path, "the file exists and was not written by mileage; give another name, or remove it");
}

constexpr std::size_t min_columns = 40;
constexpr std::size_t max_columns = 1000;
constexpr std::size_t default_columns = 100;

bool is_set(const char* variable) {
  const char* value = std::getenv(variable);
  return value != nullptr && *value != '\0';
}

Terminal terminal_at_hand() {
  const char* kind = std::getenv("TERM");
  const bool is_able = ::isatty(STDOUT_FILENO) == 1 && kind != nullptr && std::strcmp(kind, "dumb") != 0;
  return {columns_at_hand(), is_able && !is_set("NO_COLOR")};
}

void write_out(const std::string& clean) {
  if (std::fwrite(clean.data(), 1, clean.size(), stdout) == clean.size() && std::fflush(stdout) == 0) return;
  if (errno == EPIPE) throw ClosedPipe{};
  throw Error({.kind = FaultKind::cannot_write, .file = "standard output", .problem = std::strerror(errno)});
}

}  // namespace

/// COLUMNS applies to pipes and files, too; sentences are limited on wide terminals.
std::size_t columns_at_hand() {
  if (is_set("COLUMNS"))
    if (const int columns = std::atoi(std::getenv("COLUMNS")); columns > 0)
      return std::clamp(static_cast<std::size_t>(columns), min_columns, max_columns);
  winsize size{};
  if (::ioctl(STDOUT_FILENO, TIOCGWINSZ, &size) != 0 || size.ws_col == 0) return default_columns;
  return std::clamp(static_cast<std::size_t>(size.ws_col), min_columns, default_columns);
}

void print(const std::string& text) { write_out(shown_on(terminal_at_hand(), printable(text))); }

void print(const Json& json) { write_out(printable(to_text(json))); }

void print_as_it_is(const std::string& text) { write_out(printable(text)); }

void print_message(const std::string& text) { fmt::print(stderr, "mileage: {}\n", printable(text)); }

void write_file(const std::filesystem::path& path, const std::string& bytes) {
  static std::set<std::filesystem::path> written;
  check_replaceable(path);
  if (!written.insert(std::filesystem::weakly_canonical(std::filesystem::absolute(path))).second)
    refuse(path, "two outputs of this command have this name; give each its own");
  write_whole_file(path, with_mark(bytes), IfThere::replace);
}

}  // namespace mileage
