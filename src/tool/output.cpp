#include "tool/output.h"

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <fstream>

#include <spdlog/sinks/stdout_sinks.h>
#include <spdlog/spdlog.h>

#include "types/error.h"

namespace mileage {
namespace {

spdlog::logger& messages() {
  static const auto logger = [] {
    auto made = spdlog::stderr_logger_st("mileage");
    made->set_pattern("mileage: %v");
    return made;
  }();
  return *logger;
}

[[noreturn]] void refuse(const std::filesystem::path& path, const std::string& problem) {
  throw Error({.kind = FaultKind::cannot_write, .file = path.string(), .problem = problem});
}

bool is_study(const std::filesystem::path& path) {
  std::ifstream stream(path, std::ios::binary);
  std::string start(32, '\0');
  stream.read(start.data(), static_cast<std::streamsize>(start.size()));
  return start.find("mileage-study") != std::string::npos;
}

}  // namespace

void print(const std::string& text) {
  std::fwrite(text.data(), 1, text.size(), stdout);
  std::fflush(stdout);
}

void print(const Json& json) { print(to_text(json)); }

void warn(const std::string& text) { messages().warn(text); }

void complain(const std::string& text) { messages().error(text); }

void write_file(const std::filesystem::path& path, const std::string& bytes) {
  if (is_study(path)) refuse(path, "this is a study, and nothing measured is overwritten; give another name");
  const std::filesystem::path beside = path.string() + ".part";
  {
    std::ofstream stream(beside, std::ios::binary | std::ios::trunc);
    stream.write(bytes.data(), static_cast<std::streamsize>(bytes.size()));
    stream.close();
    if (!stream) {
      const std::string reason = std::strerror(errno);
      std::error_code ignored;
      std::filesystem::remove(beside, ignored);
      refuse(path, reason);
    }
  }
  std::error_code failed;
  std::filesystem::rename(beside, path, failed);
  if (!failed) return;
  std::filesystem::remove(beside);
  refuse(path, failed.message());
}

}  // namespace mileage
