#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

const About& around_frames() { return made::known_report().about; }

FramesAnswer known_frames() {
  CellFrames cell;
  cell.series = 0;
  cell.x = 100'000;
  cell.runs = 3;
  cell.traced = 1;
  cell.frames = 1200;
  cell.typical_ms = 10;
  cell.spikes = {13, 11, Interval{10, 12}, 2.1, 31, Period{90, 12, 13, 1e-9}, {{"gather", 0.92}, {"", 0.08}}};
  cell.settling = Settling{true, 3, 40, 2, 65, 0};
  cell.settling_law = SettlingLaw{0.5, Interval{0.4, 0.6}};
  cell.share_over = 0.012;
  cell.share_over_interval = {0.01, 0.014};
  cell.longest_run_over = 2;
  cell.worst_ms = 31;
  cell.beginning = {{0, 40, 44}, {1, 25, 30}, {2, 10, 11}};
  cell.sorted_ms = {9, 10, 10, 31};
  CellFrames in_runs;
  in_runs.series = 1;
  in_runs.x = 100;
  in_runs.frames_per_sample = 8;
  return {1000.0 / 60, {cell, in_runs}};
}

TEST(FramesView, TheVerdictSaysHowOftenHowHighAndWhere) {
  FramesAnswer answer = known_frames();
  answer.cells[1].x = answer.cells[0].x;
  answer.cells[1].frames = 700;
  EXPECT_EQ(frames_view(around_frames(), answer).verdict.at(0),
            "At 100k lanterns: objects spikes in 1 of 92 frames (2.10x, every 90.0 frames (12 of 13), in gather 92 %); "
            "columns has no spike in 700 frames.");
  EXPECT_THAT(frames_view(around_frames(), known_frames()).verdict.at(0),
              HasSubstr("At 100 lanterns: frames of columns were timed several at a time"));
  answer.cells[0].asked_at = 120'000;
  EXPECT_THAT(frames_view(around_frames(), answer).verdict.at(0), HasSubstr("(nearest to 120k)"));
}

TEST(FramesView, TablesHoldSpikesBudgetAndWarmUp) {
  const std::string text = answer_text(frames_view(around_frames(), known_frames()));
  for (const char* said : {"1.2 % (1.0 to 1.4)", "arrival", "0.500 (0.400 to 0.600)", "every 90.0 frames"})
    EXPECT_THAT(text, HasSubstr(said));
}

TEST(FramesView, WorkIsListedWorkerByWorker) {
  FramesAnswer answer = known_frames();
  answer.cells[0].work = WorkShare{{0.8, 0.4}, 120, 12, 0.3, 0.1, 0.1, 0.25, 0.2, Interval{0.1, 0.3}};
  const Answer view = frames_view(around_frames(), answer);
  EXPECT_THAT(answer_text(view), HasSubstr("0.800, 0.400"));
  EXPECT_THAT(answer_text(view), HasSubstr("0.200 (0.100 to 0.300)"));
  const Json json = made::json_of(view);
  ASSERT_EQ(json["work"].size(), 1U);
  EXPECT_EQ(json["work"][0]["idle_share"], 0.25);
}

TEST(FramesView, JsonHoldsAllOfIt) {
  const Json json = made::json_of(frames_view(around_frames(), known_frames()));
  EXPECT_EQ(json["frames"][0]["period_frames"], 90);
  EXPECT_NEAR(json["frames"][0]["spikes_per_frame"].get<double>(), 0.011, 1e-12);
  EXPECT_EQ(json["warm_up"][0]["after"], "arrival");
  EXPECT_EQ(json["spike_parts"][0]["phase"], "gather");
  EXPECT_EQ(json["beginning"].size(), 3U);
  EXPECT_EQ(json["sorted_frames"].size(), 4U);
}

}  // namespace
}  // namespace mileage
