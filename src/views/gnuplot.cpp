#include "views/gnuplot.h"

#include <fcntl.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <sstream>

#include "types/error.h"

extern char** environ;

namespace mileage {
namespace {

[[noreturn]] void refuse(const std::string& problem) {
  throw Error({.kind = FaultKind::cannot_write, .field = "figure", .problem = problem});
}

/// A file in the temporary folder that is removed with this object.
class ScratchFile {
 public:
  ScratchFile() {
    const char* folder = std::getenv("TMPDIR");
    path_ = std::string(folder != nullptr ? folder : "/tmp") + "/mileage-XXXXXX";
    const int descriptor = ::mkstemp(path_.data());
    if (descriptor < 0) refuse(std::string("no temporary file can be made: ") + std::strerror(errno));
    ::close(descriptor);
  }
  ~ScratchFile() { ::unlink(path_.c_str()); }
  ScratchFile(const ScratchFile&) = delete;
  ScratchFile& operator=(const ScratchFile&) = delete;

  const std::string& path() const { return path_; }
  std::string content() const {
    std::ifstream stream(path_, std::ios::binary);
    std::ostringstream text;
    text << stream.rdbuf();
    return std::move(text).str();
  }

 private:
  std::string path_;
};

/// Runs gnuplot on the script file; returns its exit code, or the error number of a start that failed, negated.
int run(const ScratchFile& script, const ScratchFile& output, const ScratchFile& errors) {
  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  posix_spawn_file_actions_addopen(&actions, STDOUT_FILENO, output.path().c_str(), O_WRONLY, 0600);
  posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, errors.path().c_str(), O_WRONLY, 0600);
  std::string program = "gnuplot";
  std::string file = script.path();
  std::array<char*, 3> arguments{program.data(), file.data(), nullptr};
  pid_t pid = -1;
  const int refused = ::posix_spawnp(&pid, program.c_str(), &actions, nullptr, arguments.data(), environ);
  posix_spawn_file_actions_destroy(&actions);
  if (refused != 0) return -refused;
  int status = 0;
  while (::waitpid(pid, &status, 0) < 0 && errno == EINTR) {
  }
  return WIFEXITED(status) ? WEXITSTATUS(status) : 1;
}

/// What gnuplot complains about, without its echo of the script.
std::string complaint(const std::string& errors) {
  std::istringstream lines(errors);
  std::string last;
  for (std::string line; std::getline(lines, line);)
    if (line.find_first_not_of(" \t^") != std::string::npos) last = line;
  return last;
}

}  // namespace

std::string run_gnuplot(const std::string& script) {
  const ScratchFile file, output, errors;
  std::ofstream(file.path()) << script;
  const int code = run(file, output, errors);
  if (code < 0) refuse(std::string("gnuplot, which draws the figures, cannot be started: ") + std::strerror(-code));
  if (code > 0) refuse("gnuplot reports: " + complaint(errors.content()));
  return output.content();
}

std::string gnuplot_text(const std::string& text) {
  std::string quoted = "\"";
  for (const char c : text) {
    if (c == '"' || c == '\\' || c == '`') quoted += '\\';
    quoted += c == '\n' ? ' ' : c;
  }
  return quoted + "\"";
}

}  // namespace mileage
