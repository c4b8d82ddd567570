#include "system/child_process.h"

#include <csignal>

#include <gmock/gmock.h>

#include "support/scratch.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing_support::ScratchFolder;

Command shell(const std::string& script) {
  Command command;
  command.words = {"sh", "-c", script};
  return command;
}

ChildReport run(const std::string& script, double limit_s = 20) { return run_child(shell(script), {limit_s, 0}, {}); }

TEST(ChildProcess, TellsHowItEndedAndWhatItSaid) {
  const ChildReport good = run("echo out; echo err >&2");
  EXPECT_TRUE(good.is_well());
  EXPECT_EQ(good.output, "out\n");
  EXPECT_EQ(good.errors, "err\n");
  ASSERT_TRUE(good.used);
  EXPECT_EQ(worded(run("exit 3"), {}), "ended with exit code 3");
  EXPECT_THAT(worded(run("kill -SEGV $$"), {}), HasSubstr("SIGSEGV (Segmentation fault)"));
  Command missing;
  missing.words = {"no-such-program-anywhere"};
  EXPECT_THAT(worded(run_child(missing, {}, {}), {}), HasSubstr("could not be started: No such file"));
}

TEST(ChildProcess, HasOneDeadlineWhateverItDoesWithItsStreams) {
  const ChildReport report = run("trap '' TERM; exec >&- 2>&-; sleep 60; exit 7", 0.5);
  EXPECT_EQ(report.ending, ChildEnding::out_of_time);
  EXPECT_EQ(worded(report, {0.5, 0}), "took longer than its limit of 0.5 s");
}

TEST(ChildProcess, IsNotWellWhenItsKeeperIsEnded) {
  const ChildReport report = run("kill -9 $PPID; sleep 60");
  EXPECT_EQ(report.ending, ChildEnding::by_signal);
  EXPECT_FALSE(report.is_well());
}

TEST(ChildProcess, IsEndedBeyondItsMemory) {
  Command command;
  command.words = {"sh", "-c", "x=aaaaaaaaaaaaaaaa; while :; do x=$x$x; done"};
  EXPECT_EQ(run_child(command, {60, 50e6}, {}).ending, ChildEnding::out_of_memory);
}

TEST(ChildProcess, AnswersARequestOverDescriptorsOfItsOwn) {
  Streams streams;
  streams.request = "what floats?";
  streams.output = false;
  const ChildReport report =
      run_child(shell("read line <&3; echo \"$line lanterns\" >&4; echo noise"), {20, 0}, streams);
  EXPECT_EQ(report.reply, "what floats? lanterns\n");
  EXPECT_EQ(report.output, "");
}

TEST(ChildProcess, WhatEndsBeforeItReadsItsRequestEndsNobodyElse) {
  Streams streams;
  streams.request = std::string(1 << 20, 'x');
  EXPECT_TRUE(run_child(shell("exec true"), {20, 0}, streams).is_well());
}

TEST(ChildProcess, UsesTheProcessorTimeOfAllThatItWaitedFor) {
  const ChildReport report = run("sh -c 'i=0; while [ $i -lt 200000 ]; do i=$((i+1)); done'");
  ASSERT_TRUE(report.used);
  EXPECT_GT(report.used->processor_s, 0.01);
}

TEST(ChildProcess, WithoutDescriptorsLeftIsNotStarted) {
  Command command;
  command.words = {"true"};
  command.directory = "/no/such/folder";
  EXPECT_THAT(worded(run_child(command, {}, {}), {}), HasSubstr("could not be started: No such file"));
}

TEST(ChildProcess, TheLastLinesAreThoseThatSayAnything) {
  EXPECT_EQ(last_lines("one\n\n two\n \t\nthree\n", 2), " two / three");
  EXPECT_EQ(last_lines("", 3), "");
}

}  // namespace
}  // namespace mileage
