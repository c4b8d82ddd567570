#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

TEST(AboutView, FailuresAreListedButNotWithoutEnd) {
  std::vector<Failure> failures;
  for (int i = 0; i < 20; ++i) failures.push_back({"objects", i < 10 ? 1000.0 : 2000.0, i, "ended by SIGSEGV"});
  for (int i = 0; i < 5; ++i) failures.push_back({"columns", 1000, i, "exit code " + std::to_string(i)});
  const auto lines = failure_lines(failures, {}, 3);
  ASSERT_EQ(lines.size(), 4U);
  EXPECT_EQ(lines[0], "objects at 1k, 2k (20 runs): ended by SIGSEGV");
  EXPECT_EQ(lines[1], "columns at 1k: exit code 0");
  EXPECT_EQ(lines[3], "3 more kinds of failure");
}

TEST(AboutView, TheSourceLineSaysWhatAnswersRestOn) {
  About about = made::known_report().about;
  EXPECT_EQ(source_text(about, false), "made.study.jsonl: 5 blocks, 120 runs (--more)\n");
  EXPECT_THAT(source_text(about, true), HasSubstr("machine slowdown unknown"));
  about.quiet.fast_ns = 15'050;
  about.quiet.slowness = 1.18;
  about.quiet.condemned = 3;
  about.series[0].corrected_by = 0.074;
  about.series[1].corrected_by = 0.095;
  EXPECT_EQ(source_text(about, false),
            "made.study.jsonl: 5 blocks, 120 runs, 3 discarded; machine 18 % slow, corrected (--more)\n");
  EXPECT_EQ(condition_lines(about).at(0),
            "machine slowdown 1.18x (probe at full speed 15.1 us); costs corrected by 7 to 10 %");
}

TEST(AboutView, FailuresAndWarningsAreNotes) {
  About about = made::known_report().about;
  about.warnings = {"the machine ran 1.80x slower than usual"};
  about.failures = {{"objects", 1000, 0, "ended by SIGSEGV"}};
  const std::vector<Note> notes = notes_of(about);
  ASSERT_EQ(notes.size(), 2U);
  EXPECT_EQ(notes[0].kind, Note::Kind::failure);
  EXPECT_EQ(notes[0].text, "objects at 1k: ended by SIGSEGV");
  EXPECT_EQ(notes[1].kind, Note::Kind::note);
}

TEST(AboutView, WhatInvalidatesAnAnswerIsSaidInItsVerdict) {
  About about = made::known_report().about;
  EXPECT_TRUE(cautions(about).empty());
  about.head.scenario.build = {.known = true, .optimized = false};
  Agreement differs;
  differs.series = about.series[1].series;
  differs.verdict = AgreementVerdict::differs;
  about.agreements = {differs};
  EXPECT_THAT(cautions(about),
              testing::ElementsAre(HasSubstr("Built without optimization"), "Excluded for wrong results: columns."));
}

}  // namespace
}  // namespace mileage
