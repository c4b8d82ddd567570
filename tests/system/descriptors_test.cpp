#include "system/descriptors.h"

#include <unistd.h>

#include <cerrno>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Descriptors, CloseThemselves) {
  int number = -1;
  {
    const Channel pipe = make_pipe();
    ASSERT_TRUE(pipe.is_open());
    number = pipe.write.number();
    EXPECT_GE(number, 10);
    EXPECT_TRUE(write_all(number, "lantern"));
    char text[8] = "";
    EXPECT_EQ(::read(pipe.read.number(), text, 7), 7);
    EXPECT_STREQ(text, "lantern");
  }
  EXPECT_FALSE(write_all(number, "x"));
}

TEST(Descriptors, WritingToNobodyFailsAndEndsNothing) {
  Channel pipe = make_pipe();
  pipe.read.close();
  const BrokenPipeGuard guard;
  EXPECT_FALSE(write_all(pipe.write.number(), "anyone?"));
  EXPECT_EQ(errno, EPIPE);
}

}  // namespace
}  // namespace mileage
