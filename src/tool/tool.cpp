#include "mileage/tool/tool.h"

#include <csignal>
#include <cstdlib>
#include <exception>
#include <filesystem>
#include <new>

#include "measure/runners/program_runner.h"
#include "mileage/measure/serve_runs.h"
#include "system/descriptors.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "types/notation.h"
#include "types/text.h"
#include "views/words.h"

namespace mileage {
namespace {

constexpr const char* purpose =
    "Mileage measures several implementations of one per-frame system and shows which one to ship:\n"
    "time per frame, how many entities fit the budget, and from which count each one pays off.";

constexpr const char* overview =
    "Exit codes: 0 answered, 1 some runs failed, 2 usage, 3 bad input, 4 cannot write,\n"
    "5 nothing measured, 6 internal error, 7 the study cannot answer, 130 interrupted,\n"
    "141 the reader closed the pipe.";

int run(int argc, char** argv, const Catalogue& catalogue) {
  CommandLine line(purpose, overview);
  add_list_verb(line, catalogue);
  add_measure_verb(line, catalogue);
  add_drive_verb(line);
  add_answer_verbs(line);
  add_tune_verb(line, catalogue);
  add_ladder_verb(line, catalogue);
  add_report_verb(line);
  add_import_verb(line);
  add_export_verb(line);
  add_picture_verb(line, catalogue);
  add_machine_verb(line);
  add_demo_verb(line, catalogue);
  return line.run(argc, argv);
}

/// As called, or the bare name if in PATH.
std::string name_to_paste(const char* called) {
  const std::filesystem::path path = called;
  const char* folders = std::getenv("PATH");
  std::error_code missing;
  for (const std::string& folder : split(folders != nullptr ? folders : "", ':'))
    if (std::filesystem::equivalent(std::filesystem::path(folder) / path.filename(), own_program(), missing))
      return path.filename().string();
  return shell_word(path.string());
}

}  // namespace

int run_tool(int argc, char** argv, const Catalogue& catalogue) {
  if (const auto code = serve_runs(argc, argv, catalogue)) return *code;
  set_program_name(name_to_paste(argv[0]));
  open_standard_descriptors();
  std::signal(SIGPIPE, SIG_IGN);  // print() handles it.
  for (const std::string& mistake : catalogue.mistakes()) print_message("catalogue: " + mistake);
  if (!catalogue.mistakes().empty()) return exit_usage;
  try {
    return run(argc, argv, catalogue);
  } catch (const ClosedPipe&) {
    return exit_closed_pipe;
  } catch (const std::bad_alloc&) {
    print_message("there is not enough memory for this");
    return exit_internal;
  } catch (const std::exception& error) {
    print_message(std::string("internal error, a mistake of mileage itself: ") + error.what() +
                  "; what was measured is in its file");
    return exit_internal;
  }
}

}  // namespace mileage
