#include "mileage/framelog.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <fstream>
#include <string>
#include <thread>
#include <vector>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "study/frame_table.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using testing_support::read_text;
using testing_support::run_in;
using testing_support::ScratchFolder;

std::vector<Recording> tables_of(const std::filesystem::path& file) {
  TableFormat format;
  format.count = 40;
  return read_frame_tables({file}, format);
}

class Framelog : public testing::Test {
 protected:
  int run(const std::string& arguments) const {
    return run_in(folder_.path(), "'" MILEAGE_LANTERN_LOG "' " + arguments).code;
  }
  ScratchFolder folder_;
};

TEST_F(Framelog, ACProgramLeavesATableThatReads) {
  ASSERT_EQ(run("night.csv 6000"), 0);  // More than two buffers.
  const auto recordings = tables_of(folder_ / "night.csv");
  ASSERT_EQ(recordings.size(), 1U);
  const Recording& one = recordings.front();
  EXPECT_EQ(one.frame_ns.size(), 6000U);
  EXPECT_EQ(one.alive.front(), 40);
  EXPECT_EQ(one.alive.back(), 40 + 5999);
  EXPECT_GT(one.setup_ms.value_or(0), 0);
  EXPECT_EQ(one.counters.at("updates, \"all\"").back(), 3);
  EXPECT_EQ(one.outcome.at("mean glow"), -0.25);
  for (std::size_t i = 0; i < one.frame_ns.size(); ++i)
    ASSERT_LE(one.phases_ms.at("carry")[i] * 1e6, static_cast<double>(one.frame_ns[i])) << i;
}

TEST_F(Framelog, ShortFramesAfterLongOnesHaveNotWaited) {
  const std::string file = (folder_ / "short.csv").string();
  ::setenv("MILEAGE_YARDSTICK", "1", 1);
  {
    FrameLog log(file.c_str());
    log.alive(40);
    for (int i = 0; i < 4000; ++i) {
      const auto frame = log.frame();
      if (i < 20) std::this_thread::sleep_for(std::chrono::microseconds(300));
    }
  }
  ::unsetenv("MILEAGE_YARDSTICK");
  const auto recordings = tables_of(file);  // Refuses waiting longer than the frame.
  ASSERT_EQ(recordings.size(), 1U);
  EXPECT_EQ(recordings.front().frame_ns.size(), 4000U);
}

TEST_F(Framelog, EveryFrameIsARowInItsOrder) {
  ASSERT_EQ(run("night.csv 4000"), 0);
  std::ifstream stream(folder_ / "night.csv");
  std::string line;
  std::getline(stream, line);
  EXPECT_EQ(line, "frame_ms,alive,setup_ms,\"phase:carry\",\"counter:updates, \"\"all\"\"\",\"outcome:mean glow\"");
  int frame = 0;
  for (; std::getline(stream, line); ++frame) {
    const auto alive = line.substr(line.find(',') + 1);
    ASSERT_EQ(alive.substr(0, alive.find(',')), std::to_string(40 + frame)) << line;
  }
  EXPECT_EQ(frame, 4000);
}

TEST_F(Framelog, WhereItIsAskedToItTimesFixedWorkBetweenFrames) {
  ASSERT_EQ(run_in(folder_.path(), "MILEAGE_YARDSTICK=1 '" MILEAGE_LANTERN_LOG "' night.csv 20000").code, 0);
  const auto recordings = tables_of(folder_ / "night.csv");
  ASSERT_EQ(recordings.size(), 1U);
  const Recording& one = recordings.front();
  ASSERT_EQ(one.yardstick_us.size(), 20'000U);
  EXPECT_GT(one.yardstick_us.front(), 0) << "after the first frame";
  const auto probes = std::count_if(one.yardstick_us.begin(), one.yardstick_us.end(), [](double us) { return us > 0; });
  EXPECT_LT(probes, 2000) << "frames of a microsecond are probed once in a millisecond";
  EXPECT_EQ(one.alive.back(), 40 + 19'999);
  EXPECT_EQ(one.counters.at("updates, \"all\"").back(), 3);
  EXPECT_EQ(one.outcome.at("mean glow"), -0.25);
  EXPECT_GT(one.phases_ms.at("carry").back(), 0);
}

TEST_F(Framelog, LongFramesAreProbedOnceForEachOfTheirMilliseconds) {
  ::setenv("MILEAGE_YARDSTICK", "1", 1);
  framelog log;
  ASSERT_EQ(framelog_open(&log, (folder_ / "long.csv").c_str(), 0), 0);
  ::unsetenv("MILEAGE_YARDSTICK");
  const int calls = framelog_counter(&log, "calls");
  for (int frame = 0; frame < 3; ++frame) {
    framelog_begin(&log);
    framelog_add(&log, calls, 7);
    log.begun_ns -= 400'000'000;  // As if it had taken 400 ms.
    framelog_end(&log);
    EXPECT_EQ(log.frames_to_probe, 1U);
  }
  ASSERT_EQ(framelog_close(&log), 0);
  const Recording one = tables_of(folder_ / "long.csv").front();
  for (int frame = 0; frame < 3; ++frame) {
    EXPECT_GT(one.yardstick_us[frame], 0);
    EXPECT_EQ(one.counters.at("calls")[frame], 7);
  }
}

TEST_F(Framelog, TellsWhatLongFramesWaitedForACore) {
  ::setenv("MILEAGE_YARDSTICK", "1", 1);
  framelog log;
  ASSERT_EQ(framelog_open(&log, (folder_ / "busy.csv").c_str(), 0), 0);
  ::unsetenv("MILEAGE_YARDSTICK");
  std::atomic<bool> is_done{false};
  std::vector<std::thread> others;
  for (unsigned i = 0; i < 2 * std::thread::hardware_concurrency(); ++i)
    others.emplace_back([&] {
      while (!is_done) {}
    });
  for (int frame = 0; frame < 8; ++frame) {
    framelog_begin(&log);
    const auto end = std::chrono::steady_clock::now() + std::chrono::milliseconds(20);
    while (std::chrono::steady_clock::now() < end) {}
    framelog_end(&log);
  }
  is_done = true;
  for (std::thread& other : others) other.join();
  if (framelog_waited_(&log) == 0) GTEST_SKIP() << "this system does not tell";
  ASSERT_EQ(framelog_close(&log), 0);
  const Recording one = tables_of(folder_ / "busy.csv").front();
  ASSERT_EQ(one.waited_us.size(), 8U);
  EXPECT_EQ(one.waited_us[0], 0) << "before the first frame nobody knows that frames are long";
  double waited_us = 0;
  for (const double us : one.waited_us) waited_us += us;
  EXPECT_GT(waited_us, 5000) << "three threads for each core";
}

TEST_F(Framelog, NumbersAreWrittenToTheLastDigit) {
  char text[64];
  for (const std::uint64_t value : {0ULL, 9ULL, 10ULL, 99ULL, 100ULL, 999ULL, 9999ULL, 10'000ULL, 123'456ULL,
                                    999'999ULL, 1'000'000ULL, 99'999'999ULL, 100'000'000ULL, 123'456'789'012ULL})
    EXPECT_EQ(std::string(text, framelog_whole_(text, value)), std::to_string(value));
  EXPECT_EQ(std::string(text, framelog_ms_(text, 16'666'667)), "16.666667");
  EXPECT_EQ(std::string(text, framelog_ms_(text, 1'000'001)), "1.000001");
  EXPECT_EQ(std::string(text, framelog_ms_(text, 42)), "0.000042");
  EXPECT_EQ(std::string(text, framelog_number_(text, -0.25)), "-0.25");
  EXPECT_EQ(std::string(text, framelog_number_(text, 1e18)), "1e+18");
}

TEST_F(Framelog, WithoutAPathNothingIsRecorded) {
  EXPECT_EQ(run("- 50"), 0);
  EXPECT_TRUE(std::filesystem::is_empty(folder_.path()));
}

TEST_F(Framelog, WhatCannotBeWrittenIsTold) {
  EXPECT_EQ(run("no/such/folder.csv 50"), 2);
  EXPECT_EQ(run("/dev/full 50"), 3);
  EXPECT_EQ(run("/dev/full 2000"), 3);
}

void record_and_crash(const std::filesystem::path& file, int frames, std::chrono::milliseconds wait) {
  FrameLog log(file.c_str());
  const auto record = [&](int more) {
    for (int frame = 0; frame < more; ++frame) {
      const auto timed = log.frame();
      log.alive(40);
    }
  };
  record(frames);
  std::this_thread::sleep_for(wait);
  record(2);
  std::signal(SIGSEGV, SIG_DFL);
  std::raise(SIGSEGV);
}

TEST_F(Framelog, ACrashLosesOnlyTheBuffer) {
  const std::filesystem::path file = folder_ / "night.csv";
  constexpr int frames = 20'000;
  EXPECT_EXIT(record_and_crash(file, frames, {}), testing::KilledBySignal(SIGSEGV), "");
  const std::size_t rows = tables_of(file).front().frame_ns.size();
  EXPECT_LT(rows, frames + 2U);
  EXPECT_GE(rows, frames - framelog_buffer / (2 * sizeof(framelog_figure)));
  EXPECT_EQ(read_text(file).back(), '\n') << "rows are written whole";
}

TEST_F(Framelog, WhatIsASecondOldIsInTheFile) {
  const std::filesystem::path file = folder_ / "night.csv";
  EXPECT_EXIT(record_and_crash(file, 10, std::chrono::milliseconds(1010)), testing::KilledBySignal(SIGSEGV), "");
  EXPECT_EQ(tables_of(file).front().frame_ns.size(), 10U);
}

TEST_F(Framelog, HoldsAsManyColumnsAsItMay) {
  const std::filesystem::path file = folder_ / "night.csv";
  constexpr int frames = 2'000;  // Several buffers.
  FrameLog log(file.c_str(), frames);
  std::vector<int> phases, counters, outcomes;
  for (int i = 0; i < framelog_max_columns; ++i) {
    counters.push_back(log.counter(("counter " + std::to_string(i)).c_str()));  // Before the phases: order is free.
    phases.push_back(log.phase(("phase " + std::to_string(i)).c_str()));
    outcomes.push_back(log.outcome(("outcome " + std::to_string(i)).c_str()));
  }
  EXPECT_EQ(log.phase("one more"), -1);
  for (int frame_number = 0; !log.done(); ++frame_number) {
    const auto frame = log.frame();
    for (const int phase : phases) const auto in = log.in_phase(phase);
    for (const int counter : counters) log.add(counter, frame_number + 0.5 * counter);
    log.alive(frame_number);
    for (const int outcome : outcomes) log.state(outcome, outcome);
  }
  ASSERT_TRUE(log.close());
  std::ifstream table(file);
  std::string line, last;
  int rows = -1;  // Header.
  int without_outcomes = 0;
  for (; std::getline(table, line); ++rows) {
    last = line;
    without_outcomes += line.substr(line.size() - framelog_max_columns) == std::string(framelog_max_columns, ',');
  }
  EXPECT_EQ(rows, frames);
  EXPECT_EQ(without_outcomes, frames - 1);
  std::string added;
  for (int i = 0; i < framelog_max_columns; ++i) added += "," + std::to_string(1999 + i / 2) + (i % 2 == 1 ? ".5" : "");
  std::string stated;
  for (int i = 0; i < framelog_max_columns; ++i) stated += "," + std::to_string(i);
  EXPECT_THAT(last, testing::EndsWith(added + stated));
  EXPECT_THAT(last, testing::HasSubstr(",1999,,"));
}

TEST_F(Framelog, CppEndsFramesAndPhasesWithTheirScope) {
  const std::filesystem::path file = folder_ / "night.csv";
  {
    FrameLog log(file.c_str(), 3);
    ASSERT_TRUE(log.is_open());
    const int carry = log.phase("carry");
    const int glow = log.outcome("glow");
    while (!log.done()) {
      const auto frame = log.frame();
      const auto phase = log.in_phase(carry);
    }
    log.state(glow, 2.5);
  }
  const auto recordings = tables_of(file);
  EXPECT_EQ(recordings.front().frame_ns.size(), 3U);
  EXPECT_EQ(recordings.front().phases_ms.count("carry"), 1U);
  EXPECT_EQ(recordings.front().outcome.at("glow"), 2.5);
}

TEST_F(Framelog, TooManyNamesAreRefusedAndDoNothing) {
  FrameLog log((folder_ / "night.csv").c_str(), 1);
  for (int i = 0; i < framelog_max_columns; ++i) EXPECT_EQ(log.counter(("counter " + std::to_string(i)).c_str()), i);
  const int refused = log.counter("one more");
  EXPECT_EQ(refused, -1);
  EXPECT_EQ(log.phase(std::string(framelog_max_name, 'x').c_str()), -1);
  {
    const auto frame = log.frame();
    log.add(refused, 5);
    const auto phase = log.in_phase(-1);
  }
  EXPECT_TRUE(log.close());
}

}  // namespace
}  // namespace mileage
