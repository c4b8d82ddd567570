#include "mileage/drive.h"

#include <string>

#include <gtest/gtest.h>

namespace {

TEST(DriveHeader, TellsHowLongAFrameWaitedForACore) {
  drive link{};
  link.socket = ::socket(AF_INET, SOCK_STREAM, 0);
  link.frames = 20;
  drive_frame(&link, 5.0);
  EXPECT_EQ(link.waits.used, 0U) << "nobody asked";
  link.is_probed = 1;
  link.frames_to_probe = 100;
  drive_frame(&link, 5.0);
  if (link.waited_ns < 2) GTEST_SKIP() << "this system does not tell, or this thread has never waited";
  // As if the thread had waited ever since it began, and not before this frame.
  link.waited_ns = 1;
  drive_frame(&link, 1e-6);
  EXPECT_EQ(std::string(link.waits.text, link.waits.used), "[3,0.001]") << "no longer than it took";
  drive_close(&link);
  EXPECT_EQ(link.waits_file, 0);
}

}  // namespace
