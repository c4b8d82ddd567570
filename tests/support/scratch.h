#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace mileage::testing_support {

/// Removed with this object.
class ScratchFolder {
 public:
  ScratchFolder();
  ~ScratchFolder();
  ScratchFolder(const ScratchFolder&) = delete;
  ScratchFolder& operator=(const ScratchFolder&) = delete;
  const std::filesystem::path& path() const { return path_; }
  std::filesystem::path operator/(const std::string& name) const { return path_ / name; }

 private:
  std::filesystem::path path_;
};

void write_text(const std::filesystem::path& path, const std::string& text);
std::string read_text(const std::filesystem::path& path);

struct Ran {
  int code = 0;
  std::string out;
  std::string err;
};

Ran run_in(const std::filesystem::path& folder, const std::string& command);

}  // namespace mileage::testing_support
