#include <algorithm>
#include <filesystem>
#include <memory>
#include <optional>
#include <set>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "analysis/analysed_study.h"
#include "analysis/answers/cost.h"
#include "analysis/answers/next_recording.h"
#include "analysis/answers/questions.h"
#include "analysis/evidence/labels.h"
#include "measure/recordings/recorded_study.h"
#include "study/exported_table.h"
#include "study/frame_table.h"
#include "study/study_file.h"
#include "system/files.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/measuring.h"
#include "tool/answer_options.h"
#include "tool/output.h"
#include "tool/study_answers.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "types/notation.h"
#include "types/text.h"
#include "types/version.h"
#include "views/answer_json.h"

namespace mileage {
namespace {

struct ImportOptions {
  std::vector<std::string> tables;
  std::string output;
  std::vector<std::string> columns;
  std::string variant;
  std::string variant_from;
  std::string count;
  std::string count_from;
  std::string scenario;
  std::string entities;
  std::string budget;
  bool json = false;
};

TableFormat format_of(const ImportOptions& options) {
  TableFormat format;
  for (const std::string& text : options.columns) {
    const auto names = named_value(text);
    if (!names)
      throw Error({.kind = FaultKind::usage,
                   .field = "column",
                   .problem = "not a column with its name",
                   .found = text,
                   .accepted = "OURS=THEIRS, such as frame_ms=tick_ms"});
    format.column_names[names->first] = names->second;
  }
  format.variant = options.variant;
  format.variant_from = options.variant_from;
  if (!options.count.empty()) format.count = parse_count(options.count, "count");
  format.count_from = options.count_from;
  return format;
}

/// None if nothing is known yet.
std::optional<NextRecording> next_of(const Study& study) {
  try {
    const AnalysedStudy analysed(study);
    const Analysis& analysis = analysed.analysis();
    return next_recording(about(analysis), capacity_answer(analysis, {}),
                          growth_answer(analysis, parts_answer(analysis)));
  } catch (const Error&) {
    return std::nullopt;  // Only bounds: the notes explain.
  }
}

/// "1 run", "12 runs".
std::string counted(std::size_t number, const char* what) {
  return fmt::format("{} {}{}", number, what, number == 1 ? "" : "s");
}

std::string first_bound(const Study& study) {
  const auto bound =
      std::find_if(study.runs.begin(), study.runs.end(), [](const Run& run) { return run.status == RunStatus::bound; });
  return bound->failure;
}

/// Options for tables that were not exported.
bool is_told_how_to_read(const ImportOptions& options) {
  return !options.columns.empty() || !options.variant.empty() || !options.variant_from.empty() ||
         !options.count.empty() || !options.count_from.empty() || !options.scenario.empty();
}

/// Exported tables become their study again.
Study study_of_tables(const ImportOptions& options) {
  const std::vector<std::filesystem::path> files(options.tables.begin(), options.tables.end());
  std::optional<Study> study;
  if (files.size() == 1 && !is_told_how_to_read(options)) study = study_of_exported_table(files.front());
  RecordedAs as;
  if (!options.scenario.empty()) as.scenario = options.scenario;
  if (!options.entities.empty()) as.entities = options.entities;
  if (!options.budget.empty()) as.budget_ms = parse_budget_ms(options.budget, "budget");
  if (!study) study = study_of_recordings(read_frame_tables(files, format_of(options)), as);
  if (!options.entities.empty()) study->head.scenario.entities = options.entities;
  if (!options.budget.empty()) study->head.plan.budget_ms = as.budget_ms;
  if (study->head.program.empty()) study->head.program = std::string("mileage ") + version;
  study->name = files.front().filename().string();
  return std::move(*study);
}

/// "night.frames.csv" becomes "night.study.jsonl".
std::string study_name(const std::string& table) {
  std::string name = std::filesystem::path(table).stem().string();
  const std::string frames = ".frames";
  if (name.size() > frames.size() && name.compare(name.size() - frames.size(), frames.size(), frames) == 0)
    name.erase(name.size() - frames.size());
  return name + ".study.jsonl";
}

void write_study(const std::filesystem::path& file, const Study& study) {
  const TemporaryFolder folder;
  const std::filesystem::path beside = folder.path() / "whole.study.jsonl";
  {
    StudyWriter writer(beside, study.head);
    for (const Run& run : study.runs) writer.append(run);
  }
  write_whole_file(file, read_regular_file(beside, std::uintmax_t{4} << 30U), IfThere::refuse);
}

/// Nothing if they show nothing; the notes explain.
std::pair<Answer, std::vector<About>> first_view(Study study, const std::string& output) {
  study.name = std::filesystem::path(output).filename().string();
  try {
    const AnalysedStudy analysed(study, {.bounds_suffice = true});
    const About around = about(analysed.analysis());
    return {first_answer(around, analysed.analysis()), {around}};
  } catch (const Error&) {
    return {};
  }
}

int import_tables(const ImportOptions& options) {
  const Study study = study_of_tables(options);
  const std::string output = options.output.empty() ? study_name(options.tables.front()) : options.output;
  write_study(output, study);
  std::size_t frames = 0;
  std::size_t bounds = 0;
  bool are_frames = false;
  for (const Run& run : study.runs) {
    frames += run.samples_ns.size();
    are_frames = are_frames || run.frames_per_sample == 1;
    bounds += run.status == RunStatus::bound;
  }
  std::set<std::string> variants;
  for (const Run& run : study.runs)
    if (run.block >= 0) variants.insert(run.series.variant);
  const std::optional<NextRecording> next = study.head.made_by == MadeBy::tables ? next_of(study) : std::nullopt;
  if (options.json) {
    Json json = envelope("import", {});
    json["study"] = std::filesystem::path(output).filename().string();
    json["frames"] = frames;
    json["runs"] = study.runs.size();
    json["variants"] = variants.size();
    json["counts"] = study.head.plan.counts;
    json["runs_bound"] = bounds;
    for (const std::string& note : study.head.notes) json["warnings"].push_back(note);
    json["next_recording"] =
        next ? Json{{"series", next->label}, {"count", next->count}, {"why", next->why}} : Json(nullptr);
    print(json);
  } else {
    auto [view, abouts] = first_view(study, output);
    view.note(fmt::format("imported {}, {}, {} at {}.", counted(frames, are_frames ? "frame" : "average"),
                          counted(study.runs.size(), "run"), counted(variants.size(), "variant"),
                          counted(study.head.plan.counts.size(), "count")));
    if (abouts.empty())
      for (const std::string& note : study.head.notes) view.note(note);
    if (bounds > 0)
      view.note(fmt::format("{} only bound what a frame costs: {}.", counted(bounds, "run"), first_bound(study)));
    if (next)
      view.note(fmt::format("most useful next recording: {} at {} {}, about 20 s, since {}.", next->label, next->count,
                            study.head.scenario.entities, next->why));
    view.files.push_back(output);
    if (!abouts.empty()) view.next = next_commands(abouts.front(), output);
    print_answer({}, "import", abouts, std::move(view));
  }
  return exit_answered;
}

}  // namespace

void add_import_verb(CommandLine& line) {
  auto options = std::make_shared<ImportOptions>();
  Verb verb =
      line.add_verb("import", "Frame tables from elsewhere (CSV) into a study",
                    "  mileage import recording.csv -o night.study.jsonl\n"
                    "  mileage import theirs.csv --column frame_ms=tick_ms --count 12k -o night.study.jsonl\n"
                    "  mileage import night-*.csv --count-from 'night-(\\d+)' --variant plain -o night.study.jsonl\n"
                    "  mileage import theirs.csv --column fps=rate --count-from '(\\d+)' -o night.study.jsonl\n",
                    [options] { return import_tables(*options); });
  verb.operands("TABLE", options->tables, "CSV files with a header; frame_ms must be there, or fps, or low and high");
  verb.option("-o,--output", options->output, "the study file to write (default: named after the first table)");
  verb.option("--column", options->columns, "another name of a column: frame_ms=tick_ms");
  verb.option("--variant", options->variant, "variant of rows without one (default: the name of the file)");
  verb.option("--variant-from", options->variant_from,
              "a regular expression whose first group in the name of the file is the variant");
  verb.option("--count", options->count, "count of rows without one");
  verb.option("--count-from", options->count_from,
              "a regular expression whose first group in the name of the file is the count: 'night-(\\d+)'");
  verb.option("--scenario", options->scenario, "what the scenario is called (default: recording)");
  verb.option("--entities", options->entities, "what is counted, in the plural (default: entities)");
  verb.option("--budget", options->budget, "the frame budget of the study (default: 60hz)");
  verb.comes_back("  At 60 Hz (16.7 ms): columns 64.5k lanterns, linked 10.3k.\n");
  add_json(verb, options->json);
}

}  // namespace mileage
