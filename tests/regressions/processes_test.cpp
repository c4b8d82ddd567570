#include <csignal>
#include <cstdlib>
#include <fstream>
#include <sstream>
#include <map>
#include <thread>

#include <gmock/gmock.h>

#include "study/study_file.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using namespace std::chrono_literals;
using testing::HasSubstr;
using testing_support::Ran;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

int running_with(const std::string& word) {
  int running = 0;
  for (const auto& entry : std::filesystem::directory_iterator("/proc")) {
    std::ifstream stream(entry.path() / "cmdline", std::ios::binary);
    std::ostringstream line;
    line << stream.rdbuf();
    std::string text = line.str();
    std::replace(text.begin(), text.end(), '\0', ' ');
    running += text.rfind("sleep ", 0) == 0 && text.find(word) != std::string::npos;
  }
  return running;
}

/// Ten seconds at most.
int wait_for_running(const std::string& word, int wanted) {
  for (int i = 0; i < 200 && running_with(word) != wanted; ++i) std::this_thread::sleep_for(50ms);
  return running_with(word);
}

class Processes : public testing::Test {
 protected:
  Processes() { ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1); }
  Ran run(const std::string& arguments) const { return run_in(folder_.path(), "'" MILEAGE_PROGRAM "' " + arguments); }
  void plan(const std::string& script, const std::string& more = "") const {
    write_text(folder_ / "script.sh", script);
    write_text(folder_ / "odd.toml",
               "counts = [100, 200]\nblocks = 1\nno-refine = true\n" + more +
                   "[variant.odd]\nrun = [\"sh\", \"script.sh\", \"{count}\", \"{frames}\", \"{table}\"]\n");
  }
  ScratchFolder folder_;
};

const std::string good_table =
    "awk -v n=$2 'BEGIN { print \"frame_ms\"; for (i = 0; i < n; ++i) print 1 + (i % 4) * 0.01 }' > $3\n";

class EndedBy : public Processes, public testing::WithParamInterface<const char*> {};

TEST_P(EndedBy, ASignalMileageTakesTheRunAlongWithAllItStarted) {
  const std::string seconds = "86123.5" + std::to_string(::getpid() % 1000);
  plan("sleep " + seconds + " &\nsetsid sleep " + seconds + " &\nsleep " + seconds + "\n");
  const std::string signal = GetParam();
  std::thread mileage([&] {
    run_in(folder_.path(), "'" MILEAGE_PROGRAM "' measure odd.toml -o odd.study.jsonl & echo $! > pid; wait $!");
  });
  EXPECT_EQ(wait_for_running(seconds, 3), 3);
  const std::string kill = "kill -" + signal + " $(cat pid)";
  run_in(folder_.path(), signal == "KILL" || signal == "SEGV" ? kill : kill + "; sleep 0.3; " + kill);
  mileage.join();
  EXPECT_EQ(wait_for_running(seconds, 0), 0);
}

INSTANTIATE_TEST_SUITE_P(Signals, EndedBy, testing::Values("TERM", "HUP", "KILL", "SEGV"));

TEST_F(Processes, TermAndHupEndAStudyAsCtrlCDoes) {
  for (const std::string signal : {"TERM", "HUP"}) {
    const Ran ran = run_in(
        folder_.path(),
        "'" MILEAGE_PROGRAM "' measure --scenario drift --variants objects --counts 1k,2k --blocks 500 -o " + signal +
            ".study.jsonl & "
            "pid=$!; for i in $(seq 300); do [ \"$(cat " +
            signal + ".study.jsonl 2>/dev/null | wc -l)\" -gt 8 ] && break; sleep 0.1; done; kill -" + signal +
            " $pid; wait $pid");
    EXPECT_EQ(ran.code, 130) << signal << ran.err;
    EXPECT_THAT(ran.out, HasSubstr("stopped before the plan was done"));
  }
}

TEST_F(Processes, ATimeLimitRunsOnceAndIsItsOwnReason) {
  // Its streams end after most of the limit; only the rest remains.
  plan("trap '' TERM\nsleep 3\nexec >&- 2>&-\nsleep 8\nexit 7\n", "[command]\ntime-limit = \"4s\"\n");
  const Ran ran = run("measure odd.toml --counts 100 -o odd.study.jsonl");
  EXPECT_THAT(ran.err, HasSubstr("sh took longer than its limit of 4 s"));
  for (const mileage::Run& run : read_study(folder_ / "odd.study.jsonl").runs) EXPECT_LT(run.took_s, 6);
}

class StopsWithin : public Processes, public testing::WithParamInterface<const char*> {};

TEST_P(StopsWithin, TwoSecondsOfASignalWhateverThePhase) {
  plan("sleep 100\n", "[command]\ntime-limit = \"100s\"\n");
  const std::string what = GetParam();
  const Ran ran =
      run_in(folder_.path(), "'" MILEAGE_PROGRAM "' " + what +
                                 " -o odd.study.jsonl & pid=$!; sleep 1.5; kill -TERM $pid; "
                                 "for i in $(seq 40); do kill -0 $pid 2>/dev/null || break; sleep 0.1; done; "
                                 "kill -0 $pid 2>/dev/null && echo still there; kill -9 $pid 2>/dev/null; "
                                 "wait $pid; echo code $?");
  EXPECT_THAT(ran.out, HasSubstr("code 130")) << ran.err;
  EXPECT_THAT(ran.out, testing::Not(HasSubstr("still there")));
  if (std::filesystem::exists(folder_ / "odd.study.jsonl"))
    for (const mileage::Run& run : read_study(folder_ / "odd.study.jsonl").runs)
      EXPECT_NE(run.status, RunStatus::failed) << "a run that was stopped did not fail";
}

INSTANTIATE_TEST_SUITE_P(Phases, StopsWithin,
                         testing::Values("measure odd.toml",
                                         "measure --program '" MILEAGE_LOADING_PROGRAM
                                         "' --scenario endless --variants behaves --counts 1,2",
                                         "measure --program '" MILEAGE_LOADING_PROGRAM
                                         "' --scenario loaded --variants hangs --counts 1,2",
                                         "measure --program '" MILEAGE_ODD_PROGRAM "' --variants hangs --counts 1,2"));

TEST_F(Processes, AScenarioThatPreparesForTooLongEndsWithTheTime) {
  const Ran ran = run("measure --program '" MILEAGE_LOADING_PROGRAM
                      "' --scenario endless --variants behaves --counts 1,2 --time 2s -o odd.study.jsonl");
  EXPECT_EQ(ran.code, 5) << ran.err;
  EXPECT_THAT(ran.err, HasSubstr("preparing took longer than its limit of 2 s"));
}

TEST_F(Processes, TheLimitOfMemoryIsThatOfAllThatARunStarts) {
  plan("head -c 200000000 /dev/zero | tail -c 150000000 | sleep 5\n");
  const Ran ran = run("measure odd.toml --counts 100 --memory-limit 100MB -o odd.study.jsonl");
  EXPECT_THAT(ran.err, HasSubstr("used more memory than its limit of 0.1 GB"));
}

TEST_F(Processes, AResumedStudyPlansTheFramesOfACommandAsBefore) {
  plan(good_table);
  const std::string measure = "measure odd.toml --counts 100,200,400 --blocks 6 -o odd.study.jsonl";
  ASSERT_EQ(run(measure).code, 0);
  const Study whole = read_study(folder_ / "odd.study.jsonl");
  std::string text = testing_support::read_text(folder_ / "odd.study.jsonl");
  std::size_t end = 0;
  for (int line = 0; line < 12; ++line) end = text.find('\n', end) + 1;
  write_text(folder_ / "odd.study.jsonl", text.substr(0, end));
  ASSERT_EQ(run(measure).code, 0);
  const Study resumed = read_study(folder_ / "odd.study.jsonl");
  // Disturbed runs are repeated: compare first runs.
  const auto frames_of = [](const Study& study) {
    std::map<std::pair<int, std::int64_t>, std::size_t> frames;
    for (const mileage::Run& run : study.runs)
      if (run.block >= 0) frames.emplace(std::pair{run.block, run.count}, run.samples_ns.size() + run.warmup_ns.size());
    return frames;
  };
  EXPECT_EQ(frames_of(whole).size(), 18U) << "three counts in six blocks";
  EXPECT_EQ(frames_of(resumed), frames_of(whole));
}

TEST_F(Processes, ASecondSignalEndsAStudyAtOnce) {
  plan("sleep 50\n", "[command]\ntime-limit = \"50s\"\n");
  const Ran ran =
      run_in(folder_.path(),
             "'" MILEAGE_PROGRAM
             "' measure odd.toml -o odd.study.jsonl & pid=$!; "
             "for i in $(seq 100); do [ -e odd.study.jsonl ] && break; sleep 0.1; done; sleep 0.5; "
             "kill -INT $pid; sleep 0.3; kill -INT $pid; for i in $(seq 100); do kill -0 $pid 2>/dev/null || break; "
             "sleep 0.1; done; "
             "kill -0 $pid 2>/dev/null && echo still there; kill -9 $pid 2>/dev/null; wait $pid; echo code $?");
  EXPECT_THAT(ran.out, HasSubstr("code 130"));
  EXPECT_THAT(ran.out, testing::Not(HasSubstr("still there")));
}

TEST_F(Processes, WhatARunLeavesIsEndedAndItsVariantIsNamed) {
  const std::string seconds = "86124.5" + std::to_string(::getpid() % 1000);
  plan(good_table + "setsid sleep " + seconds + " &\nsleep " + seconds + " &\n");
  const Ran ran = run("measure odd.toml -o odd.study.jsonl");
  EXPECT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("odd leaves processes running: "));
  EXPECT_EQ(running_with(seconds), 0);
  for (const mileage::Run& run : read_study(folder_ / "odd.study.jsonl").runs) {
    EXPECT_LT(run.took_s, 5) << "a run ends with its process, even if its streams are held open";
    if (run.status != RunStatus::failed) EXPECT_EQ(run.left_behind, 2);
  }
}

TEST_F(Processes, WhatALinkedVariantLeavesIsEndedToo) {
  const Ran ran = run("measure --program '" MILEAGE_ODD_PROGRAM
                      "' --variants leaves-a-child --counts 1,4 --blocks 1 --frames 3 --no-refine -o odd.study.jsonl");
  EXPECT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("leaves-a-child leaves processes running: "));
  EXPECT_EQ(running_with("86125.25"), 0);
  for (const mileage::Run& run : read_study(folder_ / "odd.study.jsonl").runs) EXPECT_LT(run.took_s, 5);
}

}  // namespace
}  // namespace mileage
