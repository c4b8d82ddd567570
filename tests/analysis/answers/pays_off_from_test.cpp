#include "analysis/answers/pays_off_from.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/analysis.h"
#include "analysis/answers/known_truths.h"
#include "analysis/curves/pair.h"

namespace mileage {
namespace {

using made::flat;
using made::steep;

constexpr double min_saving_ms = 1.0 / 3;

struct Worth {
  explicit Worth(const made::Setting& setting)
      : study(made::study_of(setting)), analysis(analyse(study)), pair(analysis.curves[0], analysis.curves[1]) {}
  std::optional<PaysOffFrom> found() const { return pays_off_from(pair, min_saving_ms); }

  Study study;
  Analysis analysis;
  Pair pair;
};

// 0.333 ms are saved from 10,417.
TEST(PaysOffFrom, IsWhereTheSavingPassesTheWorth) {
  const auto found = Worth(made::setting_of({{"objects", steep}, {"columns", flat}}, 0.01)).found();
  ASSERT_TRUE(found);
  EXPECT_NEAR(found->at, 10'417, 500);
  ASSERT_TRUE(found->interval.closed());
  EXPECT_LT(*found->interval.low, 10'417);
  EXPECT_GT(*found->interval.high, 10'417);
  EXPECT_LT(*found->interval.high / *found->interval.low, 1.2);
  EXPECT_NEAR(found->saves_ms, steep(400'000) - flat(400'000), 1);
  EXPECT_NEAR(found->range_ends, 400'000, 1);
}

TEST(PaysOffFrom, AStrayRunAtTheEndTellsNothing) {
  made::Setting setting = made::setting_of({{"objects", steep}, {"columns", steep}}, 0.01);
  Study study = made::study_of(setting);
  const std::int64_t last = setting.counts.back();
  std::erase_if(study.runs, [&](const mileage::Run& run) { return run.count == last && run.block > 0; });
  for (mileage::Run& run : study.runs)
    if (run.count == last && run.series.variant == "columns")
      for (std::int64_t& sample : run.samples_ns) sample = sample * 9 / 10;
  const Analysis analysis = analyse(study);
  EXPECT_FALSE(pays_off_from(Pair(analysis.curves[0], analysis.curves[1]), min_saving_ms));
}

/// Columns are faster above 10,000 only, in close counts with one run each.
TEST(PaysOffFrom, CountsCloseTogetherTellAsOne) {
  made::Setting setting = made::setting_of({{"objects", steep}, {"columns", flat}}, 0.01);
  setting.counts = {100, 1'000, 8'000, 100'000, 103'000, 106'000, 109'000, 112'000};
  Study study = made::study_of(setting);
  std::erase_if(study.runs, [&](const mileage::Run& run) {
    return run.count >= 100'000 && run.count != 100'000 + 3'000 * (run.block % 5);
  });
  const Analysis analysis = analyse(study);
  const auto found = pays_off_from(Pair(analysis.curves[0], analysis.curves[1]), min_saving_ms);
  ASSERT_TRUE(found) << "not told beyond 8,000";
  EXPECT_EQ(found->range_ends, 112'000);
}

TEST(PaysOffFrom, AlwaysExistsWhereOneIsCheaperThroughout) {
  const auto half = [](double n) { return steep(n) / 2; };
  const auto found = Worth(made::setting_of({{"objects", steep}, {"columns", half}}, 0.01)).found();
  ASSERT_TRUE(found) << "no break-even, and yet an answer";
  EXPECT_NEAR(found->at, 6667, 300);
}

TEST(PaysOffFrom, IsNothingTheOtherWayRoundAndWhereNothingIsSaved) {
  EXPECT_FALSE(Worth(made::setting_of({{"columns", flat}, {"objects", steep}}, 0.01)).found());
  EXPECT_FALSE(Worth(made::setting_of({{"objects", steep}, {"same", steep}}, 0)).found());
}

TEST(PaysOffFrom, WhatIsDrownedByNoiseHasNoUpperEnd) {
  const auto nearly = [](double n) { return steep(n) * 0.97; };
  const auto found = Worth(made::setting_of({{"objects", steep}, {"columns", nearly}}, 0.08)).found();
  if (found) {
    EXPECT_FALSE(found->interval.high);
  }
  const auto surely = Worth(made::setting_of({{"objects", steep}, {"columns", nearly}}, 0.001)).found();
  ASSERT_TRUE(surely);
  EXPECT_TRUE(surely->interval.high);
}

TEST(PaysOffFrom, EverywhereIsTheLowerEndOfTheRangeWithAnOpenLowerEnd) {
  const auto dear = [](double n) { return 2 + steep(n); };
  const auto found = Worth(made::setting_of({{"objects", dear}, {"columns", flat}}, 0.01)).found();
  ASSERT_TRUE(found);
  EXPECT_NEAR(found->at, 100, 1);
  EXPECT_FALSE(found->interval.low);
}

}  // namespace
}  // namespace mileage
