// Files: read within a limit, written whole or not at all, and folders for a while.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <string_view>

namespace mileage {

/// All bytes of a regular file. Throws Error (bad input) for one that is missing, that is no regular file (a folder, a
/// device, a pipe, a loop of links), or that is larger than `max_bytes`. Never waits for another process.
std::string read_regular_file(const std::filesystem::path& path, std::uintmax_t max_bytes);

/// The same checks without reading.
void check_regular_file(const std::filesystem::path& path, std::uintmax_t max_bytes);

/// What becomes of a file of that name that is there already.
enum class IfThere { replace, refuse };

/// Writes a file whole or not at all: into a file of its own beside it, which then takes its name. Throws Error (cannot
/// write); then nothing is left behind and what was there is as it was.
void write_whole_file(const std::filesystem::path& path, std::string_view bytes, IfThere if_there);

/// A folder for files of a while, gone with this object.
class TemporaryFolder {
 public:
  /// Throws Error (cannot write).
  TemporaryFolder();
  ~TemporaryFolder();
  TemporaryFolder(const TemporaryFolder&) = delete;
  TemporaryFolder& operator=(const TemporaryFolder&) = delete;
  const std::filesystem::path& path() const { return path_; }

 private:
  std::filesystem::path path_;
};

}  // namespace mileage
