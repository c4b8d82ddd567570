#include "mileage/drive.h"

#include <sched.h>

#include <chrono>
#include <string>
#include <thread>

#include <gtest/gtest.h>

namespace {

void keep_to_one_core() {
  cpu_set_t mine, one;
  CPU_ZERO(&one);
  ASSERT_EQ(::sched_getaffinity(0, sizeof mine, &mine), 0);
  int core = 0;
  while (!CPU_ISSET(core, &mine)) ++core;
  CPU_SET(core, &one);
  ASSERT_EQ(::sched_setaffinity(0, sizeof one, &one), 0);
}

void keep_busy(std::chrono::milliseconds time) {
  for (const auto end = std::chrono::steady_clock::now() + time; std::chrono::steady_clock::now() < end;) {}
}

/// Two busy threads on one core.
void wait_for_a_core() {
  keep_to_one_core();
  std::thread other([] { keep_busy(std::chrono::milliseconds(50)); });  // On the same core.
  keep_busy(std::chrono::milliseconds(50));
  other.join();
}

TEST(DriveHeader, TellsHowLongAFrameWaitedForACore) {
  drive link{};
  link.socket = ::socket(AF_INET, SOCK_STREAM, 0);
  link.frames = 20;
  drive_frame(&link, 5.0);
  EXPECT_EQ(link.waits.used, 0U) << "nobody asked";
  link.is_probed = 1;
  link.frames_to_probe = 100;
  wait_for_a_core();
  drive_frame(&link, 5.0);
  if (link.waited_ns == 0) GTEST_SKIP() << "this system does not tell";
  // As if the thread had always waited, except before this frame.
  link.waited_ns = 1;
  drive_frame(&link, 1e-6);
  EXPECT_EQ(std::string(link.waits.text, link.waits.used), "[3,0.001]") << "no longer than it took";
  drive_close(&link);
  EXPECT_EQ(link.waits_file, 0);
}

}  // namespace
