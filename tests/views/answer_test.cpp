#include "views/answer.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::Not;

const About& around_tables() { return made::known_report().about; }

Table costs() {
  Table table(around_tables(), "costs", "Costs",
              {series_column(),
               place_column(around_tables()),
               {"ms", "ms/frame", Format::number, "", Spread::column},
               {"relative", "relative", Format::ratio, "", Spread::inside},
               {"reason", "because", Format::text, ""},
               {"setup_ms", "", Format::number, ""}});
  table.row({series_entry(around_tables(), 0), 50'000.0, {2.5, {2, 3}}, {0.5, {0.4, 0.61}}, absent(), 7.0});
  table.row({series_entry(around_tables(), 1), 100'000.0, {25.0, {}, "one block"}, absent("-"), absent(), absent()});
  return table;
}

TEST(Table, IntervalsHaveAColumnOrStandInBrackets) {
  const Table::Shown shown = costs().shown();
  EXPECT_THAT(shown.headings, ElementsAre("variant", "lanterns", "ms/frame", "95 % interval", "relative"));
  EXPECT_THAT(shown.rows[0], ElementsAre("objects", "50k", "2.50", "2.00 to 3.00", "0.50x (0.40 to 0.61)"));
  EXPECT_THAT(shown.rows[1], ElementsAre("columns", "100k", "25.0", "one block", "-"));
  EXPECT_THAT(shown.to_the_right, ElementsAre(false, true, true, false, true));
}

TEST(Table, CsvHoldsEveryColumnWithTheEndsOfIntervals) {
  EXPECT_EQ(costs().csv(),
            "series,count,ms,ms_low,ms_high,relative,relative_low,relative_high,reason,setup_ms\n"
            "objects,50000,2.5,2,3,0.5,0.4,0.61,,7\ncolumns,100000,25,,,,,,,\n");
}

TEST(Table, WhatIsTooWideIsFoldedBehindTheNamesOfItsRows) {
  const std::string text = costs().text(40);
  EXPECT_THAT(text, HasSubstr("  variant  lanterns  ms/frame\n"));
  EXPECT_THAT(text, HasSubstr("  objects  0.50x (0.40 to 0.61)\n"));
  EXPECT_THAT(costs().text(100), HasSubstr("variant  lanterns  ms/frame  95 % interval "));
}

TEST(Table, PivotedRowsOfOneNameBecomeOneRow) {
  Table table(
      around_tables(), "traits", "",
      {{"trait", "also", Format::text, ""}, {"series", "", Format::text, ""}, {"value", "value", Format::number, ""}});
  table.row({"cores", "objects", 1.0});
  table.row({"cores", "columns", 1.5});
  table.row({"memory", "columns", 40.0});
  const Table::Shown shown = table.pivoted("trait", "series", "value").shown();
  EXPECT_THAT(shown.headings, ElementsAre("also", "objects", "columns"));
  EXPECT_THAT(shown.rows, ElementsAre(ElementsAre("cores", "1.00", "1.50"), ElementsAre("memory", "", "40.0")));
}

TEST(Table, ARowWithoutAnEntryPerColumnIsAMistake) { EXPECT_THROW(costs().row({"objects"}), std::logic_error); }

TEST(Answer, TablesOfSeveralStudiesStandInOne) {
  About about = around_tables();
  about.is_one_of_several = true;
  Answer all;
  for (const char* study : {"mine", "yours"}) {
    about.study = study;
    Answer one;
    one.tables = {Table(about, "costs", "", {{"ms", "ms", Format::number, ""}})};
    one.tables.front().row({1.0});
    all.add(std::move(one));
  }
  ASSERT_EQ(all.tables.size(), 1U);
  EXPECT_THAT(all.tables[0].shown().rows, ElementsAre(ElementsAre("mine", "1.00"), ElementsAre("yours", "1.00")));
}

TEST(Answer, TheVerdictComesFirstThenTablesNotesAndWhatToDo) {
  Answer answer;
  answer.verdict = {"columns is faster."};
  answer.tables = {costs(), costs().on_request()};
  answer.note("the machine was slow.");
  answer.note("only on request.", true);
  answer.next = {"mileage curve x"};
  const std::string text = answer_text(answer);
  EXPECT_THAT(text, testing::StartsWith("columns is faster.\n\nCosts\n\n  variant"));
  EXPECT_THAT(text, testing::EndsWith("\n\nnote: the machine was slow.\n\nNext\n  mileage curve x\n\n"));
  EXPECT_THAT(text, Not(HasSubstr("only on request")));
  const std::string more = answer_text(answer, true);
  EXPECT_THAT(more, HasSubstr("only on request"));
  EXPECT_NE(more.find("Costs"), more.rfind("Costs"));
}

}  // namespace
}  // namespace mileage
