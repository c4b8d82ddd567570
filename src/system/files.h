// Bounded reading, atomic writing, temporary folders.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <string_view>

namespace mileage {

/// Throws Error (bad input): missing, not regular, above `max_bytes`. Never blocks.
std::string read_regular_file(const std::filesystem::path& path, std::uintmax_t max_bytes);

/// Checks only.
void check_regular_file(const std::filesystem::path& path, std::uintmax_t max_bytes);

enum class IfThere { replace, refuse };

/// Atomic via a temporary file. Throws Error (cannot write), leaving everything unchanged.
void write_whole_file(const std::filesystem::path& path, std::string_view bytes, IfThere if_there);

/// Removed with this object.
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
