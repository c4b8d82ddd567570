// Options of verbs that answer from studies.
#pragma once

#include <filesystem>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "analysis/analysed_study.h"
#include "analysis/answers/about.h"
#include "analysis/answers/questions.h"
#include "analysis/answers/shared_frame.h"
#include "study/study_json.h"
#include "tool/command_line.h"
#include "views/answer.h"

namespace mileage {

struct AnswerOptions {
  std::vector<std::string> studies;
  std::string budgets;
  std::string reserve;
  std::string at;
  std::string between;
  std::string variants;
  std::vector<std::string> knobs;  ///< "scatter=0,1" each.
  std::string baseline;
  std::string min_saving;
  std::string rest;          ///< Study of another system in the same frame.
  std::string rest_variant;  ///< Its variant.
  std::string rest_at;       ///< Its count.
  std::string memory;
  std::string tick;
  std::string spike;
  std::string over;
  std::string by;
  bool more = false;
  bool json = false;
};

void add_studies(Verb& verb, AnswerOptions& options);
void add_budgets(Verb& verb, AnswerOptions& options);
void add_rest(Verb& verb, AnswerOptions& options);
void add_over(Verb& verb, AnswerOptions& options);
void add_selection(Verb& verb, AnswerOptions& options);
void add_at(Verb& verb, AnswerOptions& options, const char* help);
void add_min_saving(Verb& verb, AnswerOptions& options);
void add_more_and_json(Verb& verb, AnswerOptions& options);
void add_json(Verb& verb, bool& json);

struct RestOfFrame {
  AnalysedStudy analysed;
  OtherAsked asked;
};

/// Empty if not named. Throws Error.
std::shared_ptr<const RestOfFrame> rest_of_frame(const AnswerOptions& options);

struct AskedStudy {
  AnalysedStudy analysed;
  Questions questions;
  About about;

  const Analysis& analysis() const { return analysed.analysis(); }
};

/// `demo`: the study shipped with the program.
std::filesystem::path study_named(const std::string& name);

/// exit_cannot_answer if no place asked for was measured by any study, else exit_answered.
int exit_code_for(const std::vector<AskedStudy>& studies);

/// Throws Error: usage (invalid option, a reserve above the budget), bad input (study). `bounds_suffice`: capped
/// recordings alone suffice.
std::vector<AskedStudy> analyse_studies(const AnswerOptions& options, bool bounds_suffice = false);

/// With cautions, notes and sources.
std::string whole_text(const std::vector<About>& abouts, Answer answer, bool more);
/// As JSON or text.
void print_answer(const AnswerOptions& options, const char* verb, const std::vector<About>& abouts, Answer answer);

/// With places that were not measured. Returns the exit code.
int answer_studies(const AnswerOptions& options, const char* verb,
                   const std::function<Answer(const AskedStudy&)>& answer_of, bool bounds_suffice = false);

/// With the command that measures them; may be empty.
Answer not_measured_view(const AskedStudy& one);

}  // namespace mileage
