#include "study/frame_table.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

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
  Study read(const std::string& text, const TableFormat& format = {}) const {
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

TEST_F(FrameTable, ReadsVisitsWithAllTheirColumns) {
  const Study study = read(
      "variant,count,visit,block,frame,alive,setup_ms,frame_ms,phase:move,counter:updates,outcome:height,remark\n"
      "plain,100,1,0,0,100,5.5,1.25,1,100,2,first\n"
      "plain,100,1,0,1,99,5.5,1.5,1.25,100,3,\n"
      "plain,100,2,1,0,100,5,2,1,100,2,\n");
  ASSERT_EQ(study.visits.size(), 2U);
  const Visit& visit = study.visits[0];
  EXPECT_EQ(visit.series.variant, "plain");
  EXPECT_THAT(visit.samples_ns, ElementsAre(1'250'000, 1'500'000));
  EXPECT_EQ(visit.alive, 99);
  EXPECT_EQ(visit.setup_ms, 5.5);
  EXPECT_EQ(visit.phases_ms.at("move"), 2.25);
  EXPECT_EQ(visit.counters.at("updates"), 200);
  EXPECT_EQ(visit.outcome.quantities().front().value, 3);
  EXPECT_EQ(study.visits[1].block, 1);
  EXPECT_TRUE(study.head.imported);
  EXPECT_THAT(study.head.plan.counts, ElementsAre(100));
}

TEST_F(FrameTable, VisitsOfACellAreBlocksWhereNoneAreNamed) {
  const Study study = read("variant,count,visit,frame_ms\na,10,x,1\na,10,y,1\nb,10,x,1\na,20,x,1\n");
  std::vector<int> blocks;
  for (const Visit& visit : study.visits) blocks.push_back(visit.block);
  EXPECT_THAT(blocks, ElementsAre(0, 1, 0, 0));
}

TEST_F(FrameTable, TakesVariantAndCountForAWholeFileAndOtherColumnNames) {
  TableFormat format;
  format.count = 300;
  format.column_names = {{"frame_ms", "Frame Time"}};
  const Study study = read("Frame Time\n1\n2\n", format);
  EXPECT_EQ(study.visits.front().series.variant, "night");
  EXPECT_EQ(study.visits.front().count, 300);
  EXPECT_EQ(study.visits.front().samples_ns.size(), 2U);
}

TEST_F(FrameTable, SeveralFilesAreSeveralRecordings) {
  write_text(folder_ / "a.csv", "frame_ms\n1\n");
  write_text(folder_ / "b.csv", "frame_ms\n2\n3\n");
  TableFormat format;
  format.count = 300;
  format.variant = "plain";
  const Study study = read_frame_tables({folder_ / "a.csv", folder_ / "b.csv"}, format);
  ASSERT_EQ(study.visits.size(), 2U);
  EXPECT_EQ(study.visits[1].block, 1);
}

TEST_F(FrameTable, UnderstandsWhatTablesComeWith) {
  const Study study = read("\xEF\xBB\xBF# made at night\r\nvariant,count,frame_ms\r\n\r\n\"plain, \"\"old\"\"\",10,1.5\r\n# more\r\nx,10,2\r\n");
  ASSERT_EQ(study.visits.size(), 2U);
  EXPECT_EQ(study.visits[0].series.variant, "plain, \"old\"");
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

TEST_F(FrameTable, AMillionRowsAreRead) {
  std::string text = "count,visit,frame_ms\n";
  text.reserve(20'000'000);
  for (int row = 0; row < 1'000'000; ++row) text += std::to_string(100 * (1 + row / 100'000)) + "," + std::to_string(row / 20'000) + ",1.5\n";
  const Study study = read(text);
  EXPECT_EQ(study.visits.size(), 50U);
  EXPECT_EQ(study.visits.back().samples_ns.size(), 20'000U);
}

TEST_F(FrameTable, AStudyBecomesATableThatReadsBack) {
  const Study study = read("variant,count,visit,frame_ms\n\"a, b\",10,x,1.25\n\"a, b\",10,x,1.5\n\"a, b\",20,y,3\n");
  const Study back = read(frames_csv(study));
  ASSERT_EQ(back.visits.size(), study.visits.size());
  for (std::size_t i = 0; i < back.visits.size(); ++i) {
    EXPECT_EQ(back.visits[i].series.variant, study.visits[i].series.variant);
    EXPECT_EQ(back.visits[i].samples_ns, study.visits[i].samples_ns);
  }
}

}  // namespace
}  // namespace mileage
