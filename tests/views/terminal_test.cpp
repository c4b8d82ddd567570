#include "views/terminal.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

std::string narrow(const std::string& text) { return shown_on({40, false}, text); }

TEST(Terminal, TextThatFitsStaysAsItIs) {
  const std::string text = "one sentence\n\n  a  b\n  -  -\n  1  2\n\nanother\n";
  EXPECT_EQ(narrow(text), text);
  EXPECT_EQ(shown_on({100, false}, ""), "");
}

TEST(Terminal, SentencesAreWrappedUnderTheirIndent) {
  EXPECT_EQ(narrow("In 16.7 ms, jobs holds 3.19M lanterns, columns 1.64M.\n"),
            "In 16.7 ms, jobs holds 3.19M lanterns,\n  columns 1.64M.\n");
  EXPECT_EQ(narrow("  jobs: 0.842 of the slope above 17.3k, as much as L2 holds\n"),
            "  jobs: 0.842 of the slope above 17.3k,\n    as much as L2 holds\n");
}

TEST(Terminal, AMeaningBehindAGapIsWrappedBelowItself) {
  EXPECT_EQ(narrow("  --cold TEXT   walk so much other memory between frames\n"),
            "  --cold TEXT   walk so much other\n"
            "                memory between frames\n");
}

TEST(Terminal, APercentSignStaysWithItsNumber) {
  EXPECT_EQ(narrow("of every point, as it is, is within 21.75 % of it\n"),
            "of every point, as it is, is within\n  21.75 % of it\n");
}

TEST(Terminal, WordsWiderThanTheTerminalStandAlone) {
  const std::string word(60, 'x');
  EXPECT_EQ(narrow("a " + word + " b"), "a\n  " + word + "\n  b");
}

TEST(Terminal, CommandsStayWholeToBeCopied) {
  const std::string command = "Next\n  ./flock measure --scenario drift --counts 1k..64k -o drift.study.jsonl\n";
  EXPECT_EQ(narrow(command), command);
}

TEST(Terminal, TablesWrapInTheirLastColumn) {
  EXPECT_EQ(narrow("  use      because\n"
                   "  -------  ----------------------------------\n"
                   "  columns  saves enough, and no simpler one does\n"
                   "\n"
                   "the end\n"),
            "  use      because\n"
            "  -------  -----------------------------\n"
            "  columns  saves enough, and no simpler\n"
            "           one does\n"
            "\n"
            "the end\n");
}

TEST(Terminal, TablesWithoutRoomForTheirLastColumnStay) {
  const std::string table =
      "  variant  capacity  interval         read\n"
      "  -------  --------  ---------------  ----------\n"
      "  columns     1.64M  (1.61M to 1.66M)  around it\n";
  EXPECT_EQ(narrow(table), table);
}

TEST(Terminal, WidthIsCountedInCharacters) {
  const std::string text = "\xC3\xA4\xC3\xB6\xC3\xBC " + std::string(36, 'x') + "\n";  // 40 characters, 43 bytes.
  EXPECT_EQ(narrow(text), text);
}

TEST(Terminal, ColourRepeatsWhatTheWordsSay) {
  const std::string text =
      "jobs fits\nUse jobs.\n\nfailed: a\n\n  variant  in 16.7 ms\n  -------  ----------\n  objects  over by 3.2  1\n";
  const std::string coloured = shown_on({100, true}, text);
  EXPECT_EQ(coloured,
            "\033[1mjobs fits\033[0m\n\033[1mUse jobs.\033[0m\n\n\033[38;5;172mfailed: a\033[0m\n\n"
            "\033[2m  variant  in 16.7 ms\033[0m\n\033[2m  -------  ----------\033[0m\n"
            "  objects  \033[38;5;172mover by 3.2\033[0m  1\n");
}

TEST(Terminal, AWrappedLineKeepsItsColour) {
  EXPECT_EQ(shown_on({20, true}, "jobs holds the most\n\nwarning: only two blocks\n"),
            "\033[1mjobs holds the most\033[0m\n\n"
            "\033[38;5;172mwarning: only two\033[0m\n\033[38;5;172m  blocks\033[0m\n");
}

}  // namespace
}  // namespace mileage
