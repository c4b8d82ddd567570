// Every verb over any file: documented exit codes, valid --json. First byte: verb and kind of file; second: options;
// the rest is the file.
#include <fcntl.h>
#include <sys/mman.h>
#include <unistd.h>

#include <cstdio>
#include <filesystem>
#include <fstream>
#include <vector>

#include <nlohmann/json.hpp>

#include "fuzz_target.h"
#include "mileage/tool/tool.h"
#include "mileage/types/catalogue.h"

#include "tool/exit_codes.h"

namespace {

using namespace mileage;

const std::vector<std::vector<std::string>> answers{
    {"cost"},     {"cost", "--between", "a,b"},
    {"curve"},    {"curve", "--parts"},
    {"capacity"}, {"breakeven"},
    {"choose"},   {"frames"},
    {"tune"},     {"ladder"},
    {"export"},   {"report"},
};

/// In memory, removed at exit.
const std::filesystem::path& folder() {
  struct Folder {
    std::filesystem::path path;
    Folder() {
      std::string name = "/dev/shm/mileage-fuzz-XXXXXX";
      fuzz::must(::mkdtemp(name.data()) != nullptr, "a folder for files can be made");
      path = name;
    }
    ~Folder() { std::filesystem::remove_all(path); }
  };
  static const Folder made;
  return made.path;
}

/// The tool writes no name twice per process.
std::string new_output() {
  static int made = 0;
  const std::filesystem::path outputs = folder() / "outputs";
  std::filesystem::remove_all(outputs);
  std::filesystem::create_directory(outputs);
  return (outputs / std::to_string(made++)).string() + ".html";
}

class Output {
 public:
  Output() : memory_(::memfd_create("output", 0)), before_(::dup(STDOUT_FILENO)) {
    std::fflush(stdout);
    ::dup2(memory_, STDOUT_FILENO);
  }
  ~Output() {
    ::dup2(before_, STDOUT_FILENO);
    ::close(before_);
    ::close(memory_);
  }
  Output(const Output&) = delete;
  Output& operator=(const Output&) = delete;
  std::string text() const {
    std::fflush(stdout);
    std::string read(static_cast<std::size_t>(::lseek(memory_, 0, SEEK_END)), '\0');
    read.resize(static_cast<std::size_t>(std::max<ssize_t>(0, ::pread(memory_, read.data(), read.size(), 0))));
    return read;
  }

 private:
  int memory_;
  int before_;
};

struct Run {
  int code = 0;
  std::string printed;
};

Run run(std::vector<std::string> arguments) {
  arguments.insert(arguments.begin(), "mileage");
  std::vector<char*> pointers;
  for (std::string& argument : arguments) pointers.push_back(argument.data());
  pointers.push_back(nullptr);
  const Output output;
  const int code = run_tool(static_cast<int>(arguments.size()), pointers.data(), Catalogue{});
  return {code, output.text()};
}

std::string written(const char* name, const std::string& text) {
  const std::string path = (folder() / name).string();
  std::ofstream(path, std::ios::binary | std::ios::trunc) << text;
  return path;
}

void answer(std::vector<std::string> arguments, const std::string& study, unsigned options) {
  const bool is_file = arguments.front() == "report" || arguments.front() == "export";
  const bool is_json = !is_file && (options & 1) != 0;
  arguments.push_back(study);
  if (is_json) arguments.push_back("--json");
  if (is_file) arguments.insert(arguments.end(), {"-o", new_output()});
  if (!is_file && (options & 2)) arguments.insert(arguments.end(), {"--at", "3k"});
  const Run made = run(arguments);
  fuzz::must(made.code != exit_internal, "a file leads to an answer or to an error about the file");
  if (is_json && made.code == exit_answered) fuzz::must(nlohmann::json::accept(made.printed), "--json prints JSON");
}

/// Runs nothing: a plan may name any command.
void plan(const std::string& text) {
  if (text.find("program") != std::string::npos) return;
  const Run made = run({"measure", written("night.toml", text), "--dry-run", "--json"});
  fuzz::must(made.code != exit_internal, "a plan leads to a plan or to an error about it");
}

}  // namespace

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size < 2) return 0;
  const std::string text = fuzz::text_of(data + 2, size - 2);
  const std::vector<std::string>& verb = answers[data[0] % answers.size()];
  switch (data[0] / answers.size() % 3) {
    case 0:
      answer(verb, written("a.study.jsonl", text), data[1]);
      break;
    case 1: {
      const std::string study = (folder() / "b.study.jsonl").string();
      std::filesystem::remove(study);
      if (run({"import", written("night-100.csv", text), "-o", study}).code == exit_answered)
        answer(verb, study, data[1]);
      break;
    }
    default:
      plan(text);
  }
  return 0;
}
