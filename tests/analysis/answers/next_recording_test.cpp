#include "analysis/answers/next_recording.h"

#include <gmock/gmock.h>

#include "support/made_studies.h"
#include "support/reports.h"

namespace mileage {
namespace {

using testing::HasSubstr;

Study recorded(std::vector<std::int64_t> counts, int blocks = 1) {
  made::Setting setting;
  setting.truths = {{"plain", [](double n) { return 0.5 + 0.004 * n; }}};  // Capacity 4,042 at 60 Hz.
  setting.counts = std::move(counts);
  setting.blocks = blocks;
  setting.run_noise = 0.01;
  Study study = made::study_of(setting);
  study.head.made_by = MadeBy::tables;
  return study;
}

NextRecording next_for(const Study& study) {
  const AnalysedStudy analysed(study);
  const Analysis& analysis = analysed.analysis();
  return next_recording(about(analysis), capacity_answer(analysis, {}),
                        growth_answer(analysis, parts_answer(analysis)));
}

TEST(NextRecording, GoesBeyondWhatHoldsTheBudget) {
  const NextRecording next = next_for(recorded({100, 200, 400}));
  EXPECT_EQ(next.label, "plain");
  EXPECT_EQ(next.count, 800);
}

TEST(NextRecording, GoesToTheCapacityWhereNoCountStandsClose) {
  const NextRecording next = next_for(recorded({250, 500, 1000, 2000, 8000}));
  EXPECT_NEAR(static_cast<double>(next.count), 4000, 300);
  EXPECT_THAT(next.why, HasSubstr("no count is close"));
}

TEST(NextRecording, RepeatsTheCountNextToTheCapacity) {
  const NextRecording next = next_for(recorded({1000, 2000, 4000, 8000}));
  EXPECT_EQ(next.count, 4000);
  EXPECT_THAT(next.why, HasSubstr("the widest interval"));
}

TEST(NextRecording, GoesBelowWhatIsOverAtOnce) { EXPECT_EQ(next_for(recorded({6000, 12'000})).count, 3000); }

TEST(NextRecording, LiftsTheCapFirst) {
  Study study = recorded({1000, 2000, 6000, 12'000});
  for (mileage::Run& run : study.runs)
    if (run.count <= 2000) {
      run.status = RunStatus::bound;
      run.failure = "frames pile up";
    }
  const NextRecording next = next_for(study);
  EXPECT_EQ(next.count, 2000);
  EXPECT_THAT(next.why, HasSubstr("record uncapped"));
}

}  // namespace
}  // namespace mileage
