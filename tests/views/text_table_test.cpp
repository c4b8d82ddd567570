#include "views/text_table.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(TextTable, AlignsColumnsAndEndsLinesWithoutBlanks) {
  TextTable table;
  table.column("variant");
  table.column("ms", TextTable::Align::right);
  table.row({"objects", "1.5"});
  table.row({"jobs"});
  EXPECT_EQ(table.text(),
            "  variant   ms\n"
            "  -------  ---\n"
            "  objects  1.5\n"
            "  jobs\n");
}

TEST(TextTable, CountsCharactersNotBytes) { EXPECT_EQ(width_of("\xc2\xb5s"), 2U); }

}  // namespace
}  // namespace mileage
