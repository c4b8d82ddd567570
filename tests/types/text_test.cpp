#include "types/text.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Text, WhatControlsATerminalBecomesAQuestionMark) {
  EXPECT_EQ(printable("a\x1b[2Jb\x07"), "a?[2Jb?");
  EXPECT_EQ(printable("caf\xC3\xA9 \xE2\x9C\x93\n\tnext"), "caf\xC3\xA9 \xE2\x9C\x93\n\tnext");
  EXPECT_EQ(printable("\xC2\x9B"
                      "31m"),
            "?31m")
      << "an escape of one character";
  EXPECT_EQ(printable("\xE2\x80\xAE"
                      "abc"),
            "?abc")
      << "turns the direction of writing";
  EXPECT_EQ(printable("\xFF\xC3_\xED\xA0\x80"), "??_???") << "no UTF-8";
  EXPECT_EQ(printable_line("one\r\ntwo\tthree"), "one  two three");
}

TEST(Text, LongTextsAreCutBetweenCharacters) {
  EXPECT_EQ(shortened("short", 10), "short");
  EXPECT_EQ(shortened("ab\xC3\xA9"
                      "defgh",
                      3),
            "ab... (9 bytes)");
}

TEST(Text, PathsAreCutToTheirLastPart) {
  EXPECT_EQ(without_paths("cannot open /home/someone/night/x.cfg: no"), "cannot open x.cfg: no");
  EXPECT_EQ(without_paths("--in=/a/b 'c/d' one / two"), "--in=b 'd' one / two");
}

TEST(Text, WordsAreQuotedForAShellWhereTheyNeedIt) {
  EXPECT_EQ(shell_word("a/b-c_1.toml"), "a/b-c_1.toml");
  EXPECT_EQ(shell_word("my plan.toml"), "'my plan.toml'");
  EXPECT_EQ(shell_word("it's; rm"), "'it'\\''s; rm'");
  EXPECT_EQ(shell_word(""), "''");
}

TEST(Text, OneOfAPlural) {
  EXPECT_EQ(singular("lanterns"), "lantern");
  EXPECT_EQ(singular("boxes"), "box");
  EXPECT_EQ(singular("torches"), "torch");
  EXPECT_EQ(singular("brushes"), "brush");
  EXPECT_EQ(singular("glasses"), "glass");
  EXPECT_EQ(singular("bodies"), "body");
  EXPECT_EQ(singular("ties"), "tie");
  EXPECT_EQ(singular("glass"), "glass");
}

}  // namespace
}  // namespace mileage
