#include "support/scratch.h"

#include <stdlib.h>
#include <sys/wait.h>

#include <fstream>
#include <sstream>
#include <stdexcept>

namespace mileage::testing_support {

ScratchFolder::ScratchFolder() {
  std::string name = (std::filesystem::temp_directory_path() / "mileage-test-XXXXXX").string();
  if (::mkdtemp(name.data()) == nullptr) throw std::runtime_error("no scratch folder");
  path_ = name;
}

ScratchFolder::~ScratchFolder() {
  std::error_code ignored;
  std::filesystem::remove_all(path_, ignored);
}

void write_text(const std::filesystem::path& path, const std::string& text) {
  std::ofstream(path, std::ios::binary) << text;
}

std::string read_text(const std::filesystem::path& path) {
  std::ifstream stream(path, std::ios::binary);
  std::ostringstream text;
  text << stream.rdbuf();
  return text.str();
}

Ran run_in(const std::filesystem::path& folder, const std::string& command) {
  ::setenv("COLUMNS", "1000", 0);  // Tests compare words, not line breaks.
  const ScratchFolder scratch;
  const std::string out = (scratch / "out").string();
  const std::string err = (scratch / "err").string();
  // The tool is in PATH, as when installed.
  const std::string line = "PATH='" MILEAGE_PROGRAM_FOLDER "':$PATH; cd '" + folder.string() + "' && ( " + command +
                           " ) >'" + out + "' 2>'" + err + "' </dev/null";
  const int status = std::system(line.c_str());
  return {WIFEXITED(status) ? WEXITSTATUS(status) : -1, read_text(out), read_text(err)};
}

}  // namespace mileage::testing_support
