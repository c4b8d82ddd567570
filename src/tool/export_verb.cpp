#include <filesystem>
#include <memory>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "analysis/analysed_study.h"
#include "study/exported_table.h"
#include "study/study_file.h"
#include "system/files.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "views/answer_json.h"
#include "views/views.h"

namespace mileage {
namespace {

int export_study(const std::string& path, const std::string& name, bool as_json) {
  const Study study = read_study(study_named(path));
  const AnalysedStudy analysed(study);
  const GrowthAnswer growth = growth_answer(analysed.analysis(), parts_answer(analysed.analysis()));
  const std::filesystem::path base =
      name.empty() ? std::filesystem::path(study.name.substr(0, study.name.find('.'))) : std::filesystem::path(name);
  const std::filesystem::path summaries = base.string() + ".summaries.csv";
  write_whole_file(summaries, points_table(about(analysed.analysis()), growth).csv(), IfThere::refuse);
  try {
    write_whole_file(base.string() + ".frames.csv", exported_table(study), IfThere::refuse);
  } catch (const Error&) {
    std::filesystem::remove(summaries);  // Both or none.
    throw;
  }
  if (as_json) {
    Json json = envelope("export", {});
    json["frames"] = base.filename().string() + ".frames.csv";
    json["summaries"] = base.filename().string() + ".summaries.csv";
    print(json);
  } else {
    print(fmt::format("frames     {0}.frames.csv\nsummaries  {0}.summaries.csv\n", base.string()));
  }
  return exit_answered;
}

}  // namespace

void add_export_verb(CommandLine& line) {
  struct ExportOptions {
    std::string study;
    std::string name;
    bool json = false;
  };
  auto options = std::make_shared<ExportOptions>();
  Verb verb = line.add_verb("export", "The frames and the summaries of a study as CSV",
                            "  mileage export demo/drift.study.jsonl -o drift\n",
                            [options] { return export_study(options->study, options->name, options->json); });
  verb.required_operand("STUDY", options->study, "a study file, or `demo` for the one that comes along");
  verb.option("-o,--output", options->name, "beginning of the names of both files (default: that of the study)");
  verb.comes_back("  frames  drift.frames.csv\n  summaries  drift.summaries.csv\n");
  add_json(verb, options->json);
}

}  // namespace mileage
