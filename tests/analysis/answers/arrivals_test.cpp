#include "analysis/answers/arrivals.h"

#include <algorithm>
#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

using made::steep;
using testing::IsEmpty;
using testing::SizeIs;

/// Runs in which entities arrive and add `adds_ms` to the first frame, half of it to the second.
Study study_with_arrivals(double adds_ms, std::int64_t arriving = 500) {
  Study study = made::study_of(made::setting_of({{"objects", steep}}, 0.01));
  for (mileage::Run& run : study.runs) {
    if (run.count <= arriving) continue;
    const double settled_ns = 1e6 * steep(static_cast<double>(run.count));
    run.arrived = arriving;
    run.warmup_ns = {std::llround(settled_ns + 1e6 * adds_ms), std::llround(settled_ns + 5e5 * adds_ms),
                     std::llround(settled_ns)};
  }
  return study;
}

ArrivalsAnswer answer_to(const Study& study, const Questions& questions = {}) {
  return arrivals_answer(AnalysedStudy(study).analysis(), questions);
}

TEST(Arrivals, TheWorstFramesPassTheBudgetBeforeTheSettledOnes) {
  const ArrivalsAnswer answer = answer_to(study_with_arrivals(6));
  ASSERT_THAT(answer.worst, SizeIs(1));
  const WorstFrames& worst = answer.worst[0];
  ASSERT_TRUE(worst.at);
  EXPECT_NEAR(*worst.at, 106'667, 0.1 * 106'667) << "16.67 ms less 6 ms: 106,667 instead of 166,667";
  ASSERT_TRUE(worst.interval.closed());
  EXPECT_LT(*worst.interval.low, 106'667);
  EXPECT_GT(*worst.interval.high, 106'660) << "exact: a straight line";
  ASSERT_THAT(answer.sizes, SizeIs(1));
  EXPECT_EQ(answer.sizes[0].arriving, 500);
  EXPECT_NEAR(answer.sizes[0].adds_ms, 6, 0.2);
  EXPECT_TRUE(answer.sizes[0].adds_interval.closed());
  EXPECT_NEAR(*answer.sizes[0].settles_frames, 2, 0.1);
}

TEST(Arrivals, ThereAreNoneWhereNobodyCame) {
  EXPECT_TRUE(answer_to(made::study_of(made::setting_of({{"objects", steep}}))).empty());
}

TEST(Arrivals, SizesStandApartAndTheHigherSpikeIsOfTheLarger) {
  Study study = study_with_arrivals(2, 500);
  const Study larger = study_with_arrivals(8, 2000);
  for (std::size_t i = 0; i < study.runs.size(); ++i)
    if (study.runs[i].block % 2 == 1) study.runs[i] = larger.runs[i];
  const ArrivalsAnswer answer = answer_to(study);
  ASSERT_THAT(answer.sizes, SizeIs(2));
  EXPECT_EQ(answer.sizes[0].arriving, 500);
  EXPECT_NEAR(answer.sizes[0].adds_ms, 2, 0.3);
  EXPECT_EQ(answer.sizes[1].arriving, 2000);
  EXPECT_NEAR(answer.sizes[1].adds_ms, 8, 0.3);
}

TEST(Arrivals, OneRandomSpikeIsNoCapacityButIsTold) {
  Study study = study_with_arrivals(1);
  mileage::Run& odd = *std::find_if(study.runs.begin(), study.runs.end(),
                                    [](const mileage::Run& run) { return run.arrived > 0 && run.count > 2000; });
  odd.warmup_ns[0] = 60'000'000;
  const WorstFrames worst = answer_to(study).worst.at(0);
  EXPECT_GT(*worst.at, 130'000);
  EXPECT_EQ(worst.first_over, static_cast<double>(odd.count));
}

TEST(Arrivals, WithinOrOverEverywhereIsSaid) {
  Questions questions;
  questions.budgets_ms = {1000, 0.001};
  const ArrivalsAnswer answer = answer_to(study_with_arrivals(2), questions);
  ASSERT_THAT(answer.worst, SizeIs(2));
  EXPECT_FALSE(answer.worst[0].at);
  EXPECT_FALSE(answer.worst[0].over_at_once);
  EXPECT_FALSE(answer.worst[0].first_over);
  EXPECT_FALSE(answer.worst[1].at);
  EXPECT_TRUE(answer.worst[1].over_at_once);
}

TEST(Arrivals, FramesOfAClimbTellOfTheirPeaksAlone) {
  Study study = study_with_arrivals(2);
  for (mileage::Run& run : study.runs)
    if (run.arrived > 0 && run.count < 10'000) {
      run.status = RunStatus::ramp;
      run.samples_ns.clear();
    }
  const AnalysedStudy analysed(study);
  EXPECT_GT(analysed.analysis().curves[0].places()[3], 10'000) << "no points of the curve";
  EXPECT_LT(arrivals_answer(analysed.analysis(), {}).worst[0].measured_from, 10'000);
}

}  // namespace
}  // namespace mileage
