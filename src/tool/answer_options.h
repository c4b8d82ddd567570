// What the verbs that answer from studies share.
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
  std::string rest;          ///< A study of another system in the same frame,
  std::string rest_variant;  ///< its variant,
  std::string rest_at;       ///< and how many it has.
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
/// --rest, --rest-variant, --rest-at.
void add_rest(Verb& verb, AnswerOptions& options);
void add_over(Verb& verb, AnswerOptions& options);
/// --variants, --knob, --baseline.
void add_selection(Verb& verb, AnswerOptions& options);
void add_at(Verb& verb, AnswerOptions& options, const char* help);
void add_min_saving(Verb& verb, AnswerOptions& options);
/// --more and --json.
void add_more_and_json(Verb& verb, AnswerOptions& options);
void add_json(Verb& verb, bool& json);

/// Another system that takes its part of the same frame.
struct RestOfFrame {
  AnalysedStudy analysed;
  OtherAsked asked;
};

/// The other system; nothing where none was named. Throws Error as its options and its study read.
std::shared_ptr<const RestOfFrame> rest_of_frame(const AnswerOptions& options);

/// A study that was read and analysed, and what is asked of it.
struct AskedStudy {
  AnalysedStudy analysed;
  Questions questions;
  About about;

  const Analysis& analysis() const { return analysed.analysis(); }
};

/// The file of a study: `demo` is the one that comes with the program, installed or in the tree that it was built in.
std::filesystem::path study_named(const std::string& name);

/// exit_cannot_answer where none of the studies measured any of the places asked for, else exit_answered.
int exit_code_for(const std::vector<AskedStudy>& studies);

/// Reads and analyses the studies. Throws Error: usage for an option that does not read (a reserve that leaves nothing
/// of a budget among them), bad input for a study. With
/// `bounds_suffice` a study of capped recordings alone is one too.
std::vector<AskedStudy> analyse_studies(const AnswerOptions& options, bool bounds_suffice = false);

/// An answer from these studies as text, with cautions, notes and sources.
std::string whole_text(const std::vector<About>& abouts, Answer answer, bool more);
/// Prints an answer from these studies: as JSON, or as text with cautions, notes and sources.
void print_answer(const AnswerOptions& options, const char* verb, const std::vector<About>& abouts, Answer answer);

/// Answers study by study and prints all together, with the places asked for that were not measured. Returns the exit
/// code.
int answer_studies(const AnswerOptions& options, const char* verb,
                   const std::function<Answer(const AskedStudy&)>& answer_of, bool bounds_suffice = false);

/// Places asked for that a study did not measure, and the command that measures them; nothing where there are none.
Answer not_measured_view(const AskedStudy& one);

}  // namespace mileage
