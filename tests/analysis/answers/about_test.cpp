#include "analysis/answers/about.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

TEST(About, NamesWhatTheAnswersRestOn) {
  Knobs calm, stormy;
  calm.set("wind", 0.0);
  stormy.set("wind", 9.0);
  Study study = made::study_of(made::setting_of(
      {{"objects", made::steep, calm}, {"objects", made::steep, stormy}, {"columns", made::flat, calm}}));
  study.runs.back().status = RunStatus::failed;
  study.runs.back().failure = "ended by SIGSEGV";
  const About told = about(AnalysedStudy(study).analysis());
  EXPECT_EQ(told.study, "made.study.jsonl");
  EXPECT_EQ(told.blocks, 6U);
  EXPECT_EQ(told.runs, study.runs.size() - 6) << "nothing at the count at which columns failed";
  EXPECT_EQ(told.series[2].fails_from, study.runs.back().count);
  EXPECT_EQ(told.failures.size(), 1U);
  ASSERT_EQ(told.series.size(), 3U);
  EXPECT_EQ(told.label(1), "objects wind=9");
  EXPECT_EQ(told.series[1].rank, told.series[0].rank) << "one colour,";
  EXPECT_EQ(told.series[1].of_variant, 1) << "another dash";
  EXPECT_EQ(told.axis.name, count_axis);
  EXPECT_FALSE(told.is_one_of_several);
}

}  // namespace
}  // namespace mileage
