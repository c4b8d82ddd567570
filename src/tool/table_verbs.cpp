// import, export: frame tables in, CSV out.
#include <algorithm>
#include <filesystem>
#include <fstream>
#include <memory>
#include <optional>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "analysis/next_recording.h"
#include "measure/recorded_visits.h"
#include "study/csv_reader.h"
#include "study/frame_table.h"
#include "study/study_file.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "types/notation.h"
#include "types/version.h"
#include "views/findings_json.h"
#include "views/tables.h"

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
  std::string scenario = "recording";
  std::string entities = "entities";
  std::string budget = "60hz";
  bool json = false;
};

TableFormat format_of(const ImportOptions& options) {
  TableFormat format;
  for (const std::string& text : options.columns) {
    const auto equals = text.find('=');
    if (equals == std::string::npos || equals == 0 || equals + 1 == text.size())
      throw Error({.kind = FaultKind::usage, .field = "--column", .problem = "not a column with its name", .found = text,
                   .accepted = "OURS=THEIRS, such as frame_ms=FrameTime"});
    format.column_names[text.substr(0, equals)] = text.substr(equals + 1);
  }
  format.variant = options.variant;
  format.variant_from = options.variant_from;
  if (!options.count.empty()) format.count = parse_count(options.count, "--count");
  format.count_from = options.count_from;
  return format;
}

/// The recording that would help most next; none where nothing can be told yet.
std::optional<NextRecording> next_of(const Study& study) {
  try {
    return next_recording(analyse(study, {}));
  } catch (const Error&) {
    return std::nullopt;  // every recording is a bound: the notes say what to do
  }
}

/// "1 visit", "12 visits".
std::string counted(std::size_t number, const char* what) { return fmt::format("{} {}{}", number, what, number == 1 ? "" : "s"); }

std::string first_bound(const Study& study) {
  const auto bound = std::find_if(study.visits.begin(), study.visits.end(), [](const Visit& visit) { return visit.status == VisitStatus::bound; });
  return bound->failure;
}

int import_tables(const ImportOptions& options) {
  const std::vector<std::filesystem::path> files(options.tables.begin(), options.tables.end());
  const RecordedAs as{options.scenario, options.entities, parse_budget_ms(options.budget, "--budget")};
  Study study = study_of_recordings(read_frame_tables(files, format_of(options)), as);
  study.name = files.front().filename().string();
  study.head.program = std::string("mileage ") + version;
  const std::string output = options.output.empty() ? files.front().stem().string() + ".study.jsonl" : options.output;
  {
    StudyWriter writer(output, study.head);
    for (const Visit& visit : study.visits) writer.append(visit);
  }
  std::size_t frames = 0;
  std::size_t bounds = 0;
  for (const Visit& visit : study.visits) {
    frames += visit.samples_ns.size();
    bounds += visit.status == VisitStatus::bound;
  }
  const std::optional<NextRecording> next = next_of(study);
  if (options.json) {
    Json json = envelope("import", {});
    json["study"] = std::filesystem::path(output).filename().string();
    json["frames"] = frames;
    json["visits"] = study.visits.size();
    json["variants"] = study.head.scenario.variants.size();
    json["counts"] = study.head.plan.counts;
    json["visits_bound"] = bounds;
    for (const std::string& note : study.head.notes) json["warnings"].push_back(note);
    json["next_recording"] = next ? Json{{"series", next->label}, {"count", next->count}, {"why", next->why}} : Json(nullptr);
    print(json);
  } else {
    print(fmt::format("{}: {}, {}, {} at {}\n", output, counted(frames, "frame"), counted(study.visits.size(), "visit"),
                      counted(study.head.scenario.variants.size(), "variant"), counted(study.head.plan.counts.size(), "count")));
    for (const std::string& note : study.head.notes) print("! " + note + "\n");
    if (bounds > 0) print(fmt::format("! {} of the visits tell only what a frame costs at most: {}\n", bounds, first_bound(study)));
    if (next)
      print(fmt::format("\nThe recording that would help most next: {} at {} {}, about 20 s, since {}\n", next->label, next->count, options.entities, next->why));
    print(fmt::format("\nGo on with: mileage curve|capacity|breakeven|choose|report {}\n", output));
  }
  return exit_answered;
}

void write_new(const std::filesystem::path& file, const std::string& text) {
  if (std::filesystem::exists(file))
    throw Error({.kind = FaultKind::cannot_write, .file = file.string(), .problem = "the file exists and nothing is overwritten", .accepted = "another name with -o"});
  std::ofstream stream(file, std::ios::binary);
  stream << text;
  stream.close();
  if (!stream) throw Error({.kind = FaultKind::cannot_write, .file = file.string(), .problem = "cannot be written"});
}

int export_study(const std::string& path, const std::string& name, bool as_json) {
  const Study study = read_study(path);
  const Findings findings = analyse(study, {});
  const std::filesystem::path base = name.empty() ? std::filesystem::path(study.name.substr(0, study.name.find('.'))) : std::filesystem::path(name);
  write_new(base.string() + ".summaries.csv", summaries_csv(findings));
  write_new(base.string() + ".frames.csv", frames_csv(study));
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

void add_import_verb(CommandLine& line) {
  auto options = std::make_shared<ImportOptions>();
  Verb verb = line.add_verb("import", "Frame tables from elsewhere (CSV) into a study",
                            "  mileage import recording.csv -o night.study.jsonl\n"
                            "  mileage import old.csv new.csv --column frame_ms=update_ms --count 12k -o night.study.jsonl\n"
                            "  mileage import night-*.csv --count-from 'night-(\\d+)' --variant plain -o night.study.jsonl\n"
                            "  mileage import overlay.csv --column fps=FPS --count-from '(\\d+)' -o night.study.jsonl\n",
                            [options] { return import_tables(*options); });
  verb.operands("TABLE", options->tables, "CSV files with a header; frame_ms must be there, or fps, or low and high");
  verb.option("-o,--output", options->output, "the study file to write (preset: named after the first table)");
  verb.option("--column", options->columns, "another name of a column: frame_ms=update_ms");
  verb.option("--variant", options->variant, "variant of rows without one (preset: the name of the file)");
  verb.option("--variant-from", options->variant_from, "a regular expression whose first group in the name of the file is the variant");
  verb.option("--count", options->count, "count of rows without one");
  verb.option("--count-from", options->count_from, "a regular expression whose first group in the name of the file is the count: 'night-(\\d+)'");
  verb.option("--scenario", options->scenario, "what the scenario is called");
  verb.option("--entities", options->entities, "what is counted, in the plural");
  verb.option("--budget", options->budget, "the frame budget of the study");
  add_json(verb, options->json);
}

void add_export_verb(CommandLine& line) {
  struct ExportOptions {
    std::string study;
    std::string name;
    bool json = false;
  };
  auto options = std::make_shared<ExportOptions>();
  Verb verb = line.add_verb("export", "The frames and the summaries of a study as CSV", "  mileage export demo/drift.study.jsonl -o drift\n",
                            [options] { return export_study(options->study, options->name, options->json); });
  verb.required_operand("STUDY", options->study, "a study file (*.study.jsonl)");
  verb.option("-o,--output", options->name, "beginning of the names of both files (preset: that of the study)");
  add_json(verb, options->json);
}

}  // namespace mileage
