#include "study/csv_reader.h"

#include <sstream>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "types/error.h"

namespace mileage {
namespace {

using testing::ElementsAre;
using testing::Pair;

std::vector<std::pair<CsvRow, int>> rows_of(const std::string& text) {
  std::vector<std::pair<CsvRow, int>> rows;
  std::istringstream stream(text);
  read_csv(stream, "t.csv", [&](const CsvRow& row, int line) { rows.emplace_back(row, line); });
  return rows;
}

TEST(CsvReader, UnderstandsWhatTablesComeWith) {
  EXPECT_THAT(rows_of("\xEF\xBB\xBF"
                      "a,b\r\n# a comment\r\n\r\n\"x, \"\"y\"\"\",2\r\n"),
              ElementsAre(Pair(ElementsAre("a", "b"), 1), Pair(ElementsAre("x, \"y\"", "2"), 4)));
}

TEST(CsvReader, WhatTheCallerThrowsComesThrough) {
  std::istringstream stream("a\n");
  EXPECT_THROW(read_csv(stream, "t.csv", [](const CsvRow&, int) { throw Error({.problem = "no"}); }), Error);
}

TEST(CsvReader, FieldsComeBackAsTheyWere) {
  for (const std::string text : {"plain", "with, comma", "with \"quotes\"", "=1+1", "-x", "'quoted"}) {
    const auto rows = rows_of(csv_field(text) + "\n");
    ASSERT_EQ(rows.size(), 1U) << text;
    EXPECT_EQ(text_of_csv_field(rows[0].first[0]), text);
  }
}

}  // namespace
}  // namespace mileage
