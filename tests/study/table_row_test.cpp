#include "study/table_row.h"

#include <string>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/refusal.h"

namespace mileage {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing_support::refusal;

TableHeader header_of(const CsvRow& columns, const std::map<std::string, std::string>& names = {}) {
  return {"night.csv", columns, names, 1};
}

TEST(TableHeader, FindsColumnsByTheirNamesAndByOthers) {
  const TableHeader header = header_of({"tick", "count", "phase:gather", "phase:", "luck"}, {{"frame_ms", "tick"}});
  EXPECT_TRUE(header.has("frame_ms"));
  EXPECT_FALSE(header.has("tick"));
  EXPECT_FALSE(header.is_read_by_eye());
  ASSERT_EQ(header.of_kind("phase:").size(), 1U);
  EXPECT_EQ(header.of_kind("phase:")[0].name, "gather");
  EXPECT_THAT(header.unread(), ElementsAre("phase:", "luck"));
  EXPECT_TRUE(header_of({"ms"}).has("frame_ms")) << "another name for it";
  EXPECT_TRUE(header_of({"low", "high"}).is_read_by_eye());
}

TEST(TableHeader, RefusesWhatCannotBeRead) {
  EXPECT_THAT(refusal([] { header_of({"frame_ms;count"}); }), HasSubstr("separated by semicolons"));
  EXPECT_THAT(refusal([] { header_of({"frame_ms", "frame_ms"}); }), HasSubstr("two columns of that name"));
  EXPECT_THAT(refusal([] { header_of({"frams_ms", "count"}); }), HasSubstr("--column frame_ms=frams_ms"));
  EXPECT_THAT(refusal([] { header_of({"low"}); }), HasSubstr("no such column"));
}

TEST(TableRow, GivesValuesAsAsked) {
  const TableHeader header = header_of({"frame_ms", "count", "variant", "block", "counter:calls"});
  const CsvRow values{"16.5", "3000", "'=sum", "", "7"};
  const TableRow row(header, values, 12);
  EXPECT_EQ(row.positive("frame_ms", "milliseconds", 100), 16.5);
  EXPECT_EQ(row.count("count"), 3000);
  EXPECT_EQ(row.name("variant", "none"), "=sum");
  EXPECT_FALSE(row.tells("block"));
  EXPECT_FALSE(row.tells("run"));
  EXPECT_EQ(row.text("block", "none"), "none");
  EXPECT_EQ(row.value_of(header.of_kind("counter:")[0]), "7");
}

TEST(TableRow, RefusesWithFileLineAndColumn) {
  const TableHeader header = header_of({"frame_ms", "count", "alive", "block"});
  const CsvRow values{"16,5", "0", "-2.5", "2e9"};
  const TableRow row(header, values, 12);
  const std::string decimal_comma = refusal([&] { row.number("frame_ms"); });
  for (const char* part : {"night.csv", "12", "frame_ms", "16,5", "not a comma"})
    EXPECT_THAT(decimal_comma, HasSubstr(part));
  EXPECT_THAT(refusal([&] { row.count("count"); }), HasSubstr("not a count"));
  EXPECT_THAT(refusal([&] { row.whole("alive"); }), HasSubstr("not a whole number"));
  EXPECT_THAT(refusal([&] { row.not_negative("alive", 10); }), HasSubstr("out of range"));
  EXPECT_THAT(refusal([&] { row.positive("alive", "milliseconds", 10); }), HasSubstr("not the time of a frame"));
  EXPECT_THAT(refusal([&] { row.small_whole("block", 0); }), HasSubstr("out of range"));
  EXPECT_THAT(refusal([&] { row.number("run"); }), HasSubstr("not a number"));
  const CsvRow short_row{"1"};
  EXPECT_THAT(refusal([&] { TableRow(header, short_row, 13); }), HasSubstr("1 values in a table of 4 columns"));
}

}  // namespace
}  // namespace mileage
