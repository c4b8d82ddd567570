#include "tool/answer_options.h"

#include <algorithm>
#include <filesystem>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/answers/groups.h"
#include "measure/runners/program_runner.h"
#include "study/study_file.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "types/error.h"
#include "types/notation.h"
#include "views/views.h"
#include "views/answer_json.h"
#include "views/terminal.h"
#include "views/words.h"

namespace mileage {
namespace {

double less_reserve(double budget_ms, const std::string& reserve) {
  if (reserve.empty()) return budget_ms;
  const double left_ms = budget_ms - parse_duration_s(reserve, "reserve") * 1000;
  if (left_ms <= 0)
    throw Error({.kind = FaultKind::usage,
                 .field = "reserve",
                 .problem = "leaves nothing of the budget",
                 .found = reserve,
                 .accepted = "less than every budget"});
  return left_ms;
}

std::vector<double> budgets_for(const AnswerOptions& options, const Study& study) {
  if (options.budgets.empty()) return {less_reserve(study.head.plan.budget_ms, options.reserve)};
  std::vector<double> budgets;
  for (const std::string& text : split(options.budgets, ','))
    budgets.push_back(less_reserve(parse_budget_ms(text, "budget"), options.reserve));
  return budgets;
}

/// Counts; on other axes any numbers above zero.
std::vector<double> places_of(const AnswerOptions& options) {
  std::vector<double> places;
  if (options.over.empty() || options.over == count_axis) {
    for (const std::int64_t count : parse_counts(options.at, 0, "at")) places.push_back(static_cast<double>(count));
    return places;
  }
  for (const std::string& text : split(options.at, ',')) {
    places.push_back(parse_number(text, "at"));
    if (places.back() <= 0)
      throw Error({.kind = FaultKind::usage, .field = "at", .problem = "not above zero", .found = text});
  }
  return places;
}

Questions questions_for(const AnswerOptions& options, const Study& study) {
  Questions questions;
  questions.budgets_ms = budgets_for(options, study);
  if (!options.reserve.empty()) questions.reserve_ms = parse_duration_s(options.reserve, "reserve") * 1000;
  if (!options.at.empty()) questions.at = places_of(options);
  questions.baseline = options.baseline;
  if (!options.between.empty()) questions.between = split(options.between, ',');
  if (!options.memory.empty()) questions.memory_bytes = parse_bytes(options.memory, "memory");
  if (!options.tick.empty()) questions.tick_ms = parse_budget_ms(options.tick, "tick");
  if (!options.spike.empty()) questions.spike_ms = parse_duration_s(options.spike, "spike") * 1000;
  if (questions.tick_ms > 0 && questions.reserve_ms >= questions.tick_ms)
    throw Error({.kind = FaultKind::usage,
                 .field = "reserve",
                 .problem = "leaves nothing of the tick",
                 .found = options.reserve,
                 .accepted = "less than the tick"});
  if (!options.min_saving.empty()) questions.min_saving_share = parse_share(options.min_saving, "min-saving");
  return questions;
}

}  // namespace

std::filesystem::path study_named(const std::string& name) {
  if (name != "demo" || std::filesystem::is_regular_file(name)) return name;
  const std::filesystem::path beside = own_program().parent_path().parent_path();
  for (const char* place : {"share/mileage/drift.study.jsonl", "demo/drift.study.jsonl"})
    if (std::filesystem::exists(beside / place)) return beside / place;
  return name;
}

void add_studies(Verb& verb, AnswerOptions& options) {
  verb.operands("STUDY", options.studies, "study files (*.study.jsonl), or `demo`");
}

void add_budgets(Verb& verb, AnswerOptions& options) {
  verb.option("--budget", options.budgets, "frame budgets: 60hz, 16.7ms, or a list of them (default: the study's own)");
  verb.option("--reserve", options.reserve, "time that the rest of the frame takes, such as 9ms");
}

void add_rest(Verb& verb, AnswerOptions& options) {
  verb.option("--rest", options.rest, "a study of another system in the same frame, in place of --reserve");
  verb.option("--rest-variant", options.rest_variant, "which of its variants, where it has several");
  verb.option("--rest-at", options.rest_at, "how many it has, such as 20k: its cost there is the reserve");
}

std::shared_ptr<const RestOfFrame> rest_of_frame(const AnswerOptions& options) {
  if (options.rest.empty()) return nullptr;
  if (!options.reserve.empty())
    throw Error({.kind = FaultKind::usage, .field = "rest", .problem = "does not go with --reserve"});
  auto rest = std::make_shared<RestOfFrame>(RestOfFrame{AnalysedStudy(read_study(study_named(options.rest))), {}});
  rest->asked.variant = options.rest_variant;
  if (!options.rest_at.empty()) rest->asked.at = static_cast<double>(parse_count(options.rest_at, "rest-at"));
  return rest;
}

void add_over(Verb& verb, AnswerOptions& options) {
  verb.option("--axis", options.over, "what is on the axis: count, a numeric knob or a counter (default: count)");
}

void add_selection(Verb& verb, AnswerOptions& options) {
  verb.option("--variants", options.variants, "only these variants or builds, such as objects,jobs");
  verb.option("--knob", options.knobs, "only these values of a knob, such as scatter=0 (repeat for more knobs)");
  verb.option("--baseline", options.baseline, "the variant that all are compared with (default: the first)");
}

void add_at(Verb& verb, AnswerOptions& options, const char* help) { verb.option("--at", options.at, help); }

void add_min_saving(Verb& verb, AnswerOptions& options) {
  verb.option("--min-saving", options.min_saving,
              "share of the budget that a switch must save to pay off (default: 2%)");
}

void add_more_and_json(Verb& verb, AnswerOptions& options) {
  verb.flag("--more", options.more, "show machine, method and all details too");
  add_json(verb, options.json);
}

void add_json(Verb& verb, bool& json) { verb.flag("--json", json, "print the answer as JSON"); }

namespace {

CostOf cost_asked_for(const std::string& by) {
  if (by.empty() || by == "frame") return CostOf::frame;
  if (by == "frame-thread") return CostOf::frame_thread;
  if (by == "processor-time") return CostOf::processor;
  if (by == "energy") return CostOf::energy;
  throw Error({.kind = FaultKind::usage,
               .field = "by",
               .problem = "nothing to choose by",
               .found = by,
               .accepted = "frame, frame-thread, processor-time or energy"});
}

}  // namespace

namespace {

EvidenceWanted wanted_by(const AnswerOptions& options, bool bounds_suffice) {
  EvidenceWanted wanted;
  if (!options.over.empty()) wanted.axis = options.over;
  wanted.bounds_suffice = bounds_suffice;
  wanted.cost_of = cost_asked_for(options.by);
  if (!options.variants.empty()) wanted.selection.variants = split(options.variants, ',');
  for (const std::string& text : options.knobs) {
    const auto knob = named_value(text);
    if (!knob)
      throw Error({.kind = FaultKind::usage,
                   .field = "knob",
                   .problem = "not a knob and its values",
                   .found = text,
                   .accepted = "NAME=VALUE or NAME=VALUE,VALUE"});
    wanted.selection.knobs[knob->first] = split(knob->second, ',');
  }
  wanted.selection.baseline = options.baseline;
  return wanted;
}

}  // namespace

Answer not_measured_view(const AskedStudy& one) {
  Answer view;
  const NotMeasured found = places_not_measured(one.analysis(), one.questions);
  if (found.places.empty()) return view;
  const Axis& axis = one.about.axis;
  Table table(one.about, "not_measured", "", {{axis.name, "", Format::place, "place asked for that was not measured"}});
  std::vector<std::string> places;
  for (const double x : found.places) {
    table.row({x});
    places.push_back(place_text(x, axis));
  }
  view.tables.push_back(std::move(table));
  view.note(fmt::format("nothing was measured at {}: {} goes from {} to {}.", fmt::join(places, ", "), axis.name,
                        place_text(found.min, axis), place_text(found.max, axis)));
  view.next.push_back(pasted_command(fmt::format("measure --counts {}", fmt::join(places, ","))));
  return view;
}

namespace {

void add_notes(const std::vector<About>& abouts, Answer& answer) {
  for (const About& about : abouts) {
    for (std::string& caution : cautions(about)) answer.verdict.push_back(std::move(caution));
    for (Note& note : notes_of(about)) answer.notes.push_back(std::move(note));
  }
}

}  // namespace

std::string whole_text(const std::vector<About>& abouts, Answer answer, bool more) {
  add_notes(abouts, answer);
  std::string text = answer_text(answer, more, columns_at_hand());
  for (const About& about : abouts) text += source_text(about, more);
  return text;
}

void print_answer(const AnswerOptions& options, const char* verb, const std::vector<About>& abouts, Answer answer) {
  if (!options.json) return print(whole_text(abouts, std::move(answer), options.more));
  Json json = envelope(verb, abouts);
  add_notes(abouts, answer);
  add_answer_json(json, answer);
  print(json);
}

int answer_studies(const AnswerOptions& options, const char* verb,
                   const std::function<Answer(const AskedStudy&)>& answer_of, bool bounds_suffice) {
  const std::vector<AskedStudy> studies = analyse_studies(options, bounds_suffice);
  std::vector<About> abouts;
  Answer all;
  for (const AskedStudy& one : studies) {
    abouts.push_back(one.about);
    Answer answer = answer_of(one);
    if (studies.size() > 1)
      for (std::string& sentence : answer.verdict) sentence = one.about.study + ": " + sentence;
    all.add(std::move(answer));
    all.add(not_measured_view(one));
  }
  print_answer(options, verb, abouts, std::move(all));
  return exit_code_for(studies);
}

int exit_code_for(const std::vector<AskedStudy>& studies) {
  const auto is_unanswered = [](const AskedStudy& one) {
    return !one.questions.at.empty() &&
           places_not_measured(one.analysis(), one.questions).places.size() == one.questions.at.size();
  };
  return !studies.empty() && std::all_of(studies.begin(), studies.end(), is_unanswered) ? exit_cannot_answer
                                                                                        : exit_answered;
}

namespace {

/// Takes about a second to read.
constexpr std::uintmax_t large_file_bytes = 20'000'000;

void announce_large_file(const std::filesystem::path& path) {
  std::error_code missing;
  const std::uintmax_t bytes = std::filesystem::file_size(path, missing);
  if (!missing && bytes > large_file_bytes)
    print_message(fmt::format("reading {} ({}) ...", path.filename().string(), bytes_text(static_cast<double>(bytes))));
}

}  // namespace

std::vector<AskedStudy> analyse_studies(const AnswerOptions& options, bool bounds_suffice) {
  std::vector<AskedStudy> all;
  for (const std::string& path : options.studies) {
    announce_large_file(study_named(path));
    Study study = read_study(study_named(path));
    Questions questions = questions_for(options, study);
    AnalysedStudy analysed(std::move(study), wanted_by(options, bounds_suffice));
    About around = about(analysed.analysis());
    around.is_one_of_several = options.studies.size() > 1;
    all.push_back({std::move(analysed), std::move(questions), std::move(around)});
  }
  return all;
}

}  // namespace mileage
