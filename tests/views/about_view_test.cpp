#include "views/about_view.h"

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
  EXPECT_EQ(lines[0], "objects at 1k, 2k (20 visits): ended by SIGSEGV");
  EXPECT_EQ(lines[1], "columns at 1k: exit code 0");
  EXPECT_EQ(lines[3], "... and 3 more of other kinds");
}

TEST(AboutView, TheFooterTellsWhatAnswersRestOn) {
  const std::string footer = evidence_footer(made::known_report().about);
  EXPECT_THAT(footer, HasSubstr("made.study.jsonl: 5 blocks, 120 visits"));
  EXPECT_THAT(footer, HasSubstr("no yardstick was taken beside these visits"));
}

TEST(AboutView, TheFooterTellsTheLevelOfTheMachineAndWhatItTookOff) {
  About about = made::known_report().about;
  about.quiet.fast_ns = 15'050;
  about.quiet.slowness = 1.18;
  about.quiet.condemned = 3;
  about.quiet.kept = 97;
  about.series[0].adjusted = Adjusted{0.5, 0.9, 0.074};
  about.series[1].adjusted = Adjusted{0.6, 0.9, 0.095};
  const auto lines = quietness_lines(about);
  ASSERT_EQ(lines.size(), 2U);
  EXPECT_EQ(lines[0],
            "the machine took 1.18 times its fast level (yardstick 15.1 us); costs brought to that level: 7 to 10 % "
            "taken off");
  EXPECT_EQ(lines[1], "3 of 100 visits disturbed, left out or repeated; load not known");
}

TEST(AboutView, WarningsStandBeforeAnyAnswer) {
  About about = made::known_report().about;
  about.warnings = {"this machine as it was"};
  about.failures = {{"objects", 1000, 0, "ended by SIGSEGV"}};
  EXPECT_EQ(preamble(about), "! failed: objects at 1k: ended by SIGSEGV\n! this machine as it was\n\n");
}

}  // namespace
}  // namespace mileage
