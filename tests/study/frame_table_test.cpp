#include "study/frame_table.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "measure/recordings/recorded_study.h"
#include "support/scratch.h"
#include "types/error.h"

namespace mileage {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing_support::ScratchFolder;
using testing_support::write_text;

class FrameTable : public testing::Test {
 protected:
  std::vector<Recording> read(const std::string& text, const TableFormat& format = {}) const {
    write_text(folder_ / "night.csv", text);
    return read_frame_tables({folder_ / "night.csv"}, format);
  }
  std::string refusal(const std::string& text, const TableFormat& format = {}) const {
    try {
      read(text, format);
    } catch (const Error& error) {
      return error.what();
    }
    return "accepted";
  }
  ScratchFolder folder_;
};

TEST_F(FrameTable, ReadsRecordingsWithAllTheirColumns) {
  const auto recordings = read(
      "variant,count,run,block,frame,alive,setup_ms,frame_ms,phase:move,counter:updates,outcome:height,remark\n"
      "plain,100,1,0,0,100,5.5,1.25,1,100,2,first\n"
      "plain,100,1,0,1,99,5.5,1.5,1.25,100,3,\n"
      "plain,100,2,1,0,100,5,2,1,100,2,\n");
  ASSERT_EQ(recordings.size(), 2U);
  const Recording& first = recordings[0];
  EXPECT_EQ(first.file, "night.csv");
  EXPECT_EQ(first.variant, "plain");
  EXPECT_THAT(first.frame_ns, ElementsAre(1'250'000, 1'500'000));
  EXPECT_THAT(first.alive, ElementsAre(100, 99));
  EXPECT_EQ(first.setup_ms, 5.5);
  EXPECT_THAT(first.phases_ms.at("move"), ElementsAre(1, 1.25));
  EXPECT_THAT(first.counters.at("updates"), ElementsAre(100, 100));
  EXPECT_EQ(first.outcome.at("height"), 3);
  EXPECT_EQ(recordings[1].block, 1);
  EXPECT_NE(recordings[1].process, first.process);
}

TEST_F(FrameTable, TellsOfColumnsThatSayNothing) {
  const auto recordings = read("variant,count,frame_ms,remark,mood\nplain,100,1,first,calm\nplain,200,2,,\n");
  EXPECT_THAT(recordings.at(0).unread_columns, ElementsAre("remark", "mood"));
  EXPECT_TRUE(recordings.at(1).unread_columns.empty()) << "once a file";
}

TEST_F(FrameTable, AKnobMayHaveAColumnOfItsOwn) {
  const auto recordings = read("variant,count,knob:reach,knob:kind,ms\nplain,100,0.5,all of them,1\nplain,100,,,2\n");
  ASSERT_EQ(recordings.size(), 2U);
  EXPECT_EQ(std::get<double>(recordings[0].knobs.values().at("reach")), 0.5);
  EXPECT_EQ(std::get<std::string>(recordings[0].knobs.values().at("kind")), "all of them");
  EXPECT_TRUE(recordings[1].knobs.values().empty()) << "blank: it does not touch the row";
}

TEST_F(FrameTable, TakesVariantAndCountForAWholeFileAndOtherColumnNames) {
  TableFormat format;
  format.count = 300;
  format.column_names = {{"frame_ms", "Frame Time"}};
  const auto recordings = read("Frame Time\n1\n2\n", format);
  EXPECT_EQ(recordings.front().variant, "night");
  EXPECT_EQ(recordings.front().count, 300);
  EXPECT_EQ(recordings.front().frame_ns.size(), 2U);
}

TEST_F(FrameTable, TakesVariantAndCountFromTheNamesOfFiles) {
  write_text(folder_ / "linked-3k.csv", "frame_ms\n1\n");
  write_text(folder_ / "columns-500.csv", "frame_ms\n1\n");
  TableFormat format;
  format.count_from = "-([0-9k]+)";
  format.variant_from = "^([a-z]+)-";
  const auto recordings = read_frame_tables({folder_ / "linked-3k.csv", folder_ / "columns-500.csv"}, format);
  ASSERT_EQ(recordings.size(), 2U);
  EXPECT_EQ(recordings[0].variant, "linked");
  EXPECT_EQ(recordings[0].count, 3000);
  EXPECT_EQ(recordings[1].variant, "columns");
  EXPECT_EQ(recordings[1].count, 500);
  EXPECT_THAT(refusal("frame_ms\n1\n", format),
              HasSubstr("night.csv: variant-from: the name of the file holds no such thing"));
  format.variant_from = "(";
  EXPECT_THAT(refusal("frame_ms\n1\n", format), HasSubstr("not a regular expression"));
}

TEST_F(FrameTable, TellsWhenACountFollowsAnotherInTheSameRun) {
  std::string text = "alive,frame_ms\n";
  for (const int count : {100, 200, 100})
    for (int frame = 0; frame < 12; ++frame) text += std::to_string(count) + ",2\n";
  const auto recordings = read(text);
  ASSERT_EQ(recordings.size(), 3U);  // The last is another run of the first count.
  EXPECT_FALSE(recordings[0].goes_on);
  EXPECT_TRUE(recordings[1].goes_on);
  EXPECT_EQ(recordings[2].count, 100);
  EXPECT_EQ(recordings[2].process, recordings[0].process);
}

TEST_F(FrameTable, ABlankAliveIsAsInTheRowBefore) {
  const auto recordings = read("alive,frame_ms\n7,1\n,2\n,3\n9,4\n");
  ASSERT_EQ(recordings.size(), 2U);
  EXPECT_EQ(recordings[0].frame_ns.size(), 3U);
  EXPECT_EQ(recordings[1].count, 9);
  TableFormat format;
  format.count = 7;
  EXPECT_THAT(read("alive,frame_ms\n7,1\n,2\n9,3\n,4\n", format).front().alive,
              ElementsAre(7, 7, 9));  // And the last as before.
}

TEST_F(FrameTable, TurnsFramesPerSecondIntoTimes) {
  TableFormat format;
  format.count = 5;
  format.column_names = {{"fps", "FPS"}};
  const auto recordings = read("FPS\n40\n50\n", format);
  EXPECT_THAT(recordings.front().frame_ns, ElementsAre(25'000'000, 20'000'000));
  EXPECT_TRUE(recordings.front().of_rates);
  EXPECT_THAT(refusal("FPS\n0\n", format), HasSubstr("frames per second above 0"));
}

TEST_F(FrameTable, TakesReadingsByEyeAsWhatLiesBetween) {
  const auto recordings = read("count,low,high\n500,9,16\n");
  EXPECT_THAT(recordings.front().frame_ns, ElementsAre(12'000'000));
  EXPECT_NEAR(*recordings.front().read_share, 0.2877, 1e-4);
  const auto several = read("count,low,high\n500,9,16\n500,8,15\n900,20,30\n");
  ASSERT_EQ(several.size(), 3U);
  EXPECT_NE(several[0].process, several[1].process);
  EXPECT_FALSE(several[2].goes_on);
  EXPECT_THAT(refusal("count,low,high\n500,9,8\n"), HasSubstr("night.csv:2: high: below what was read as low"));
}

TEST_F(FrameTable, UnderstandsWhatTablesComeWith) {
  const auto recordings = read(
      "\xEF\xBB\xBF# made at night\r\nvariant,count,frame_ms\r\n\r\n\"plain, \"\"old\"\"\",10,1.5\r\n# "
      "more\r\nx,10,2\r\n");
  ASSERT_EQ(recordings.size(), 2U);
  EXPECT_EQ(recordings[0].variant, "plain, \"old\"");
}

TEST_F(FrameTable, RefusesWithFileLineAndAdvice) {
  EXPECT_THAT(refusal("variant,count\na,1\n"), HasSubstr("night.csv:1: frame_ms: the table has no such column"));
  EXPECT_THAT(refusal("variant,count,frame ms\na,1,1\n"), HasSubstr("--column frame_ms=frame ms"));
  EXPECT_THAT(refusal("count;frame_ms\n1;16,7\n"), HasSubstr("separated by semicolons"));
  EXPECT_THAT(refusal("count,frame_ms\n1,16,7\n"), HasSubstr("night.csv:2: 3 values in a table of 2 columns"));
  EXPECT_THAT(refusal("count,frame_ms\n1,\"16,7\"\n"), HasSubstr("a point in decimal numbers, not a comma"));
  EXPECT_THAT(refusal("count,frame_ms\n1,1\n1,nan\n"), HasSubstr("night.csv:3: frame_ms: not a number"));
  EXPECT_THAT(refusal("count,frame_ms\n1,0\n"), HasSubstr("milliseconds above 0"));
  EXPECT_THAT(refusal("count,frame_ms\n1,-2\n"), HasSubstr("milliseconds above 0"));
  EXPECT_THAT(refusal("count,frame_ms\n1,\n"), HasSubstr("not a number"));
  EXPECT_THAT(refusal("count,frame_ms\n1.5,1\n"), HasSubstr("not a whole number"));
  EXPECT_THAT(refusal("count,frame_ms\n0,1\n"), HasSubstr("not a count"));
  EXPECT_THAT(refusal("frame_ms\n1\n"), HasSubstr("does not say how many are alive"));
  EXPECT_THAT(refusal("count,frame_ms\n"), HasSubstr("no frames in it"));
  EXPECT_THAT(refusal(""), HasSubstr("no frames in it"));
  EXPECT_THAT(refusal("count,frame_ms\n1,\"2\n"), HasSubstr("not closed"));
  EXPECT_THROW(read_frame_tables({folder_ / "none.csv"}, {}), Error);
}

TEST_F(FrameTable, ManyRowsAreRead) {
  std::string text = "count,run,frame_ms\n";
  text.reserve(4'000'000);
  for (int row = 0; row < 200'000; ++row)
    text += std::to_string(100 * (1 + row / 20'000)) + "," + std::to_string(row / 4'000) + ",1.5\n";
  const auto recordings = read(text);
  EXPECT_EQ(recordings.size(), 50U);
  EXPECT_EQ(recordings.back().frame_ns.size(), 4'000U);
}

TEST_F(FrameTable, TellsSeriesStatusAndWarmUpWhereItHasColumnsForThem) {
  const auto recordings = read(
      "variant,build,knobs,cold_bytes,count,run,status,warmup,frame_ms,frames_per_sample\n"
      "plain,after,scatter=1 way=far%20off,8e6,100,1,repeated,1,3,4\n"
      "plain,after,scatter=1 way=far%20off,8e6,100,1,repeated,0,2,4\n"
      "plain,after,scatter=0 way=near,8e6,100,1,kept,0,2,4\n");
  ASSERT_EQ(recordings.size(), 2U);
  const Recording& first = recordings.front();
  EXPECT_EQ(first.build, "after");
  EXPECT_EQ(first.knobs.number("scatter"), 1);
  EXPECT_EQ(first.knobs.text("way"), "far off");
  EXPECT_EQ(first.cold_bytes, 8e6);
  EXPECT_EQ(first.status, RunStatus::disturbed);
  EXPECT_EQ(first.warmup, 1U);
  EXPECT_THAT(first.frame_ns,
              ElementsAre(3'000'000, 8'000'000));  // Samples of four frames, after a single warm-up frame.
}

}  // namespace
}  // namespace mileage
