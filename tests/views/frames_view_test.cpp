#include "views/frames_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "types/error.h"
#include "views/frames_figure.h"
#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

const About& around_frames() { return made::known_report().about; }

FramesAnswer known_frames() {
  CellFrames cell;
  cell.series = 0;
  cell.x = 100'000;
  cell.visits = 3;
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

TEST(FramesView, TheSentenceSaysHowOftenHowHighAndWhere) {
  const FramesAnswer answer = known_frames();
  EXPECT_EQ(frames_sentence(around_frames(), answer.cells[0]),
            "objects at 100k lanterns: 11.0 of 1,000 frames spike, to 2.10 times the frames around them, every 90.0 "
            "frames (12 of 13 due); of what they take more, 92.0 % in phase gather.");
  EXPECT_THAT(frames_sentence(around_frames(), answer.cells[1]), HasSubstr("timed 8 at once"));
  CellFrames elsewhere = answer.cells[0];
  elsewhere.asked_at = 120'000;
  EXPECT_THAT(frames_sentence(around_frames(), elsewhere), HasSubstr("(measured nearest to 120k)"));
}

TEST(FramesView, TablesHoldSpikesBudgetAndSettling) {
  const std::string text = frames_text(around_frames(), known_frames());
  for (const char* said :
       {"11.0 (10.0 to 12.0)", "1.20 % (1.00 to 1.40)", "2 frames, 65.0 ms", "an arrival", "arriving ^ 0.500"})
    EXPECT_THAT(text, HasSubstr(said));
}

TEST(FramesView, WorkStandsWorkerByWorker) {
  FramesAnswer answer = known_frames();
  answer.cells[0].work = WorkShare{{0.8, 0.4}, 120, 12, 0.3, 0.1, 0.1, 0.25, 0.2, Interval{0.1, 0.3}};
  EXPECT_THAT(frames_text(around_frames(), answer), HasSubstr("0.800, 0.400"));
  EXPECT_THAT(frames_text(around_frames(), answer), HasSubstr("0.200 (0.100 to 0.300)"));
  Json json;
  add_frames_json(json, around_frames(), answer);
  EXPECT_EQ(json["frames"][0]["work"]["idle_share"], 0.25);
  EXPECT_TRUE(json["frames"][1]["work"].is_null());
}

TEST(FramesView, JsonHoldsAllOfIt) {
  Json json;
  add_frames_json(json, around_frames(), known_frames());
  EXPECT_EQ(json["frames"][0]["every_frames"], 90);
  EXPECT_EQ(json["frames"][0]["settling"]["after"], "arrival");
  EXPECT_EQ(json["frames"][0]["parts"][0]["phase"], "gather");
  EXPECT_TRUE(json["frames"][1]["settling"].is_null());
}

}  // namespace
}  // namespace mileage
