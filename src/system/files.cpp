#include "system/files.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <cstring>

#include <fmt/format.h>

#include "system/descriptors.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

[[noreturn]] void refuse_input(const std::filesystem::path& path, const std::string& problem,
                               const std::string& accepted = {}) {
  throw Error({.file = path.string(), .problem = problem, .accepted = accepted});
}

[[noreturn]] void refuse_output(const std::filesystem::path& path, const std::string& problem,
                                const std::string& accepted = {}) {
  throw Error({.kind = FaultKind::cannot_write, .file = path.string(), .problem = problem, .accepted = accepted});
}

/// O_NONBLOCK: opening a pipe would wait for a writer.
Descriptor open_regular(const std::filesystem::path& path, std::uintmax_t max_bytes) {
  Descriptor file(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY));
  if (!file.is_open()) refuse_input(path, std::strerror(errno), "the path of a file");
  struct stat facts {};
  if (::fstat(file.number(), &facts) != 0) refuse_input(path, std::strerror(errno));
  if (S_ISDIR(facts.st_mode)) refuse_input(path, "this is a folder", "a file");
  if (!S_ISREG(facts.st_mode)) refuse_input(path, "this is no regular file", "a regular file, not a device or a pipe");
  if (static_cast<std::uintmax_t>(facts.st_size) > max_bytes)
    refuse_input(path, fmt::format("too large: {}", bytes_text(static_cast<double>(facts.st_size))),
                 fmt::format("at most {}", bytes_text(static_cast<double>(max_bytes))));
  return file;
}

/// Temporary file, removed unless renamed.
class Beside {
 public:
  explicit Beside(const std::filesystem::path& path) : path_(path), name_(path.string() + ".part-XXXXXX") {
    file_ = Descriptor(::mkostemp(name_.data(), O_CLOEXEC));
    if (!file_.is_open()) refuse_output(path_, std::strerror(errno));
  }
  ~Beside() {
    if (!name_.empty()) ::unlink(name_.c_str());
  }
  Beside(const Beside&) = delete;
  Beside& operator=(const Beside&) = delete;

  void write(std::string_view bytes) {
    if (!write_all(file_.number(), bytes) || ::fchmod(file_.number(), 0666 & ~mask()) != 0)
      refuse_output(path_, std::strerror(errno));
    // Some file systems report a full disk here.
    if (::fsync(file_.number()) != 0 && errno != EINVAL && errno != EROFS) refuse_output(path_, std::strerror(errno));
  }
  void take_name(IfThere if_there) {
    if (if_there == IfThere::replace) {
      if (::rename(name_.c_str(), path_.c_str()) != 0) refuse_output(path_, std::strerror(errno));
      name_.clear();
      return;
    }
    if (::link(name_.c_str(), path_.c_str()) == 0) return;
    if (errno == EEXIST) refuse_output(path_, "the file exists and nothing is overwritten", "another name with -o");
    // No hard links.
    if (::access(path_.c_str(), F_OK) == 0)
      refuse_output(path_, "the file exists and nothing is overwritten", "another name with -o");
    if (::rename(name_.c_str(), path_.c_str()) != 0) refuse_output(path_, std::strerror(errno));
    name_.clear();
  }

 private:
  static mode_t mask() {
    const mode_t mask = ::umask(0);
    ::umask(mask);
    return mask;
  }

  const std::filesystem::path& path_;
  std::string name_;
  Descriptor file_;
};

}  // namespace

std::string read_regular_file(const std::filesystem::path& path, std::uintmax_t max_bytes) {
  const Descriptor file = open_regular(path, max_bytes);
  std::string text;
  struct stat facts {};
  if (::fstat(file.number(), &facts) == 0) text.reserve(static_cast<std::size_t>(facts.st_size));
  char buffer[65536];
  while (true) {
    const ssize_t got = ::read(file.number(), buffer, sizeof buffer);
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) refuse_input(path, std::strerror(errno));
    if (got == 0) return text;
    text.append(buffer, static_cast<std::size_t>(got));
    if (text.size() > max_bytes) refuse_input(path, "grows while it is read");
  }
}

void check_regular_file(const std::filesystem::path& path, std::uintmax_t max_bytes) { open_regular(path, max_bytes); }

void write_whole_file(const std::filesystem::path& path, std::string_view bytes, IfThere if_there) {
  Beside beside(path);
  beside.write(bytes);
  beside.take_name(if_there);
}

TemporaryFolder::TemporaryFolder() {
  std::error_code missing;
  const std::filesystem::path below = std::filesystem::temp_directory_path(missing);
  std::string pattern = ((missing ? std::filesystem::path("/tmp") : below) / "mileage-XXXXXX").string();
  if (::mkdtemp(pattern.data()) == nullptr)
    refuse_output(pattern, std::strerror(errno), "a temporary folder that can be written to ($TMPDIR)");
  path_ = pattern;
}

TemporaryFolder::~TemporaryFolder() {
  std::error_code ignored;
  std::filesystem::remove_all(path_, ignored);
}

}  // namespace mileage
