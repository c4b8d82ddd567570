#include "measure/recordings/recorded_study.h"

#include <gmock/gmock.h>

#include "types/error.h"
#include "support/reports.h"
#include "support/scripted.h"

namespace mileage {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::SizeIs;

/// Slightly uneven, so that nothing piles up.
Recording recording_of(std::int64_t count, std::vector<std::int64_t> frame_ns, int process = 0) {
  Recording recording;
  recording.file = "night.csv";
  recording.variant = "plain";
  recording.count = count;
  recording.process = process;
  recording.frame_ns = std::move(frame_ns);
  return recording;
}

std::vector<std::int64_t> after(std::vector<std::int64_t> first, const std::vector<std::int64_t>& then) {
  first.insert(first.end(), then.begin(), then.end());
  return first;
}

TEST(RecordedRuns, RunsOfACellAreBlocksWhereNoneAreNamed) {
  const Study study = study_of_recordings(
      {recording_of(10, scripted::uneven_ns(1, 20), 0), recording_of(10, scripted::uneven_ns(1, 20), 1),
       recording_of(20, scripted::uneven_ns(2, 20), 2)},
      {});
  std::vector<int> blocks;
  for (const mileage::Run& run : study.runs) blocks.push_back(run.block);
  EXPECT_THAT(blocks, ElementsAre(0, 1, 0));
  EXPECT_THAT(study.head.plan.counts, ElementsAre(10, 20));
  EXPECT_EQ(study.head.made_by, MadeBy::tables);
  EXPECT_THAT(study.head.notes, IsEmpty());
}

TEST(RecordedRuns, LoadingFramesAtTheStartAreSetApart) {
  const Study study =
      study_of_recordings({recording_of(10, after({90'000'000, 40'000'000}, scripted::uneven_ns(5, 30)))}, {});
  EXPECT_THAT(study.runs.front().warmup_ns, ElementsAre(90'000'000, 40'000'000));
  EXPECT_THAT(study.runs.front().samples_ns, SizeIs(30));
  EXPECT_THAT(study.head.notes, ElementsAre(HasSubstr("night.csv: loading frames at the start were skipped")));
}

TEST(RecordedRuns, SumsAreOfTheFramesThatCount) {
  Recording recording = recording_of(10, after({90'000'000}, scripted::uneven_ns(5, 12)));
  recording.phases_ms["move"] = std::vector<double>(13, 2.0);
  recording.phases_ms["move"][0] = 80;
  EXPECT_DOUBLE_EQ(study_of_recordings({recording}, {}).runs.front().phases_ms.at("move"), 24);
}

TEST(RecordedRuns, FramesAfterAChangeOfTheCountAreSetApartUntilTheySettled) {
  Recording next = recording_of(
      200, after({30'000'000, 25'000'000, 20'000'000, 15'000'000, 12'000'000}, scripted::uneven_ns(10, 40)));
  next.goes_on = true;
  const Study study = study_of_recordings({recording_of(100, scripted::uneven_ns(5, 40)), next}, {});
  EXPECT_THAT(study.runs[0].warmup_ns, IsEmpty());
  EXPECT_EQ(study.runs[1].arrived, 100);
  EXPECT_GE(study.runs[1].warmup_ns.size(), 5U);
  EXPECT_LT(study.runs[1].warmup_ns.size(), 20U);
}

TEST(RecordedRuns, ShortStaysAreArrivals) {
  Recording arrival = recording_of(150, scripted::uneven_ns(7, 3));
  arrival.goes_on = true;
  const Study study = study_of_recordings({recording_of(100, scripted::uneven_ns(5, 40)), arrival}, {});
  ASSERT_THAT(study.runs, SizeIs(2));
  const mileage::Run& run = study.runs[1];
  EXPECT_EQ(run.status, RunStatus::ramp);
  EXPECT_EQ(run.arrived, 50);
  EXPECT_THAT(run.warmup_ns, SizeIs(3));
  EXPECT_THAT(run.samples_ns, IsEmpty()) << "no point of a curve";
  EXPECT_THAT(study.head.plan.counts, ElementsAre(100));
  EXPECT_THAT(study.head.notes, ElementsAre(HasSubstr("show what arrivals cost")));
  arrival.count = 50;
  EXPECT_THAT(study_of_recordings({recording_of(100, scripted::uneven_ns(5, 40)), arrival}, {}).runs, SizeIs(1))
      << "where counts fall nobody arrives";
}

TEST(RecordedRuns, AveragesTellOfNoArrivals) {
  Recording arrival = recording_of(150, scripted::uneven_ns(7, 3));
  Recording stay = recording_of(200, scripted::uneven_ns(10, 40));
  arrival.goes_on = stay.goes_on = true;
  arrival.of_rates = stay.of_rates = true;
  const Study study = study_of_recordings({recording_of(100, scripted::uneven_ns(5, 40)), arrival, stay}, {});
  ASSERT_THAT(study.runs, SizeIs(2)) << "the short stay is skipped";
  EXPECT_EQ(study.runs[1].arrived, 0);
}

TEST(RecordedRuns, CountsThatOnlyClimbInOneRunAreNamed) {
  std::vector<Recording> ramp{recording_of(100, scripted::uneven_ns(5, 40)),
                              recording_of(200, scripted::uneven_ns(9, 40)),
                              recording_of(300, scripted::uneven_ns(14, 40))};
  for (std::size_t i = 1; i < ramp.size(); ++i) ramp[i].goes_on = true;
  EXPECT_THAT(study_of_recordings(ramp, {}).head.notes,
              testing::Contains(HasSubstr("a machine that slows down looks like a curve")));
  std::swap(ramp[1], ramp[2]);
  EXPECT_THAT(study_of_recordings(ramp, {}).head.notes,
              testing::Not(testing::Contains(HasSubstr("cannot be distinguished"))));
}

TEST(RecordedRuns, BoundsAreNoPointsAndAreNamedInEveryAnswer) {
  std::vector<Recording> recordings;
  for (int count = 1000, process = 0; count <= 8000; count *= 2, ++process)
    recordings.push_back(recording_of(
        count, count < 4000 ? std::vector<std::int64_t>(50, 16'666'667) : scripted::uneven_ns(0.006 * count, 50),
        process));
  const Study study = study_of_recordings(recordings, {});
  EXPECT_EQ(study.runs[0].status, RunStatus::bound);
  const Report report = report_of(study);
  EXPECT_THAT(report.growth.series.front().points, SizeIs(2));
  ASSERT_THAT(report.about.bounds, SizeIs(2));
  EXPECT_EQ(report.about.bounds.back().x, 2000);
  EXPECT_THAT(report.about.warnings,
              testing::Contains(HasSubstr("plain is only bounded (at most 16.7 ms at 1000, at most 16.7 ms at 2000)")));
  ASSERT_THAT(report.capacities.bounds, SizeIs(1));
  EXPECT_EQ(report.capacities.bounds[0].at_least, 2000);
  EXPECT_EQ(report.capacities.bounds[0].below, 4000);
}

TEST(RecordedRuns, AllCappedBoundTheCapacityAndNothingElse) {
  const Study study = study_of_recordings({recording_of(10, std::vector<std::int64_t>(50, 16'666'667)),
                                           recording_of(20, std::vector<std::int64_t>(50, 16'666'667), 1)},
                                          {});
  const AnalysedStudy analysed(study, {.bounds_suffice = true});
  Questions questions;
  questions.budgets_ms = {1000.0 / 60, 1000.0 / 60 - 5};
  const CapacityAnswer answer = capacity_answer(analysed.analysis(), questions);
  EXPECT_THAT(answer.capacities, IsEmpty());
  ASSERT_THAT(answer.bounds, SizeIs(1)) << "with a reserve of 5 ms nothing is known";
  EXPECT_EQ(answer.bounds[0].label, "plain");
  EXPECT_EQ(answer.bounds[0].at_least, 20);
  EXPECT_FALSE(answer.bounds[0].below);
}

std::vector<Recording> sheet(std::size_t rows) {
  std::vector<Recording> recordings;
  for (std::size_t row = 0; row < rows; ++row) {
    recordings.push_back(
        recording_of(1000 * static_cast<std::int64_t>(row + 1), {static_cast<std::int64_t>(2'000'000 * (row + 1))}));
    recordings.back().goes_on = row > 0;
  }
  return recordings;
}

TEST(RecordedRuns, ASheetOfAveragesIsAStudyOfOneFigureACell) {
  const Study study = study_of_recordings(sheet(7), {});
  ASSERT_THAT(study.runs, SizeIs(7));
  EXPECT_THAT(study.head.notes, ElementsAre(HasSubstr("night.csv: one number per variant and count")));
  EXPECT_GT(study.runs[0].frames_per_sample, 1) << "averages of many frames: they have no tail";
  const Report report = report_of(study);
  EXPECT_THAT(report.about.warnings, testing::Contains(HasSubstr("intervals assume that runs differ")));
  EXPECT_NEAR(*report.capacities.capacities[0].capacity.at, 8333, 90);
  EXPECT_TRUE(report.capacities.capacities[0].capacity.interval.closed());
}

TEST(RecordedRuns, RowsOfALongClimbAreFramesAndNoSheet) {
  const Study study = study_of_recordings(sheet(1000), {});
  EXPECT_LT(study.runs.size(), 100U) << "told together while the count grows by no more than 5 %";
  EXPECT_EQ(study.runs.back().arrived, 1000);
  EXPECT_TRUE(std::any_of(study.runs.begin(), study.runs.end(), [](const mileage::Run& run) {
    return run.status != RunStatus::ramp && run.arrived > 0;
  })) << "where it climbs throughout that is the curve there is";
  EXPECT_THAT(study.head.notes, testing::Contains(HasSubstr("the count rises throughout")));
}

TEST(RecordedRuns, AllCappedIsRefusedWithTheReason) {
  const Study study = study_of_recordings({recording_of(10, std::vector<std::int64_t>(50, 16'666'667)),
                                           recording_of(20, std::vector<std::int64_t>(50, 16'666'667), 1)},
                                          {});
  try {
    report_of(study);
    FAIL() << "answered";
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), HasSubstr("record uncapped"));
  }
}

TEST(RecordedRuns, RatesCarryNoTail) {
  Recording recording = recording_of(10, scripted::uneven_ns(20, 30));
  recording.of_rates = true;
  const mileage::Run run = study_of_recordings({recording}, {}).runs.front();
  EXPECT_EQ(run.frames_per_sample, 50);
  EXPECT_NEAR(static_cast<double>(run.samples_ns.front()) / run.frames_per_sample,
              static_cast<double>(recording.frame_ns.front()), 1);
}

TEST(RecordedRuns, ReadingsByEyeWidenTheIntervals) {
  const auto width = [](double share) {
    std::vector<Recording> recordings;
    int process = 0;
    for (const int count : {1000, 2000, 3000, 4000, 5000, 6000}) {
      recordings.push_back(recording_of(count, {static_cast<std::int64_t>(0.004e6 * count)}, process++));
      if (share > 0) recordings.back().read_share = share;
    }
    const Report report = report_of(study_of_recordings(recordings, {}));
    const Interval& interval = report.capacities.capacities.front().capacity.interval;
    return std::log(*interval.high / *interval.low) / 2;
  };
  EXPECT_NEAR(width(0.3), std::hypot(width(0), 0.3), 0.05);
}

Study by_runs(int blocks, int runs) {
  std::vector<Recording> recordings;
  for (int block = 0; block < blocks; ++block)
    for (const int count : {1000, 2000, 3000, 4000, 6000}) {
      recordings.push_back(
          recording_of(count, scripted::uneven_ns(0.004 * count * (1 + 0.01 * (block % 3)), 10), block % runs));
      recordings.back().block = block;
    }
  return study_of_recordings(recordings, {});
}

TEST(RecordedRuns, BlocksOfOneRunShareItsLuck) {
  const Report own = report_of(by_runs(6, 6));
  EXPECT_EQ(own.about.processes, 0U);
  EXPECT_EQ(own.about.blocks, 6U);
  const Report three = report_of(by_runs(6, 3));
  EXPECT_EQ(three.about.processes, 3U);
  EXPECT_EQ(three.about.blocks, 6U);
  const Report one = report_of(by_runs(6, 1));
  EXPECT_EQ(one.about.processes, 1U);
  EXPECT_THAT(one.about.warnings, testing::Contains(HasSubstr("one process made these runs")));
  const auto width = [](const Report& report) {
    const Interval interval = report.capacities.capacities.front().capacity.interval;
    return std::log(*interval.high / *interval.low);
  };
  EXPECT_GT(width(one), 2 * width(own));
}

}  // namespace
}  // namespace mileage
