#include <cmath>
#include <random>

#include <gmock/gmock.h>

#include "analysis/evidence/judged_run.h"
#include "measure/recordings/recorded_study.h"
#include "study/frame_table.h"
#include "study/study_file.h"
#include "support/scratch.h"
#include "support/reports.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing_support::Ran;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

struct BadTable {
  const char* name;
  const char* text;
  const char* said;
};
void PrintTo(const BadTable& bad, std::ostream* out) { *out << bad.name; }

class BadTables : public testing::TestWithParam<BadTable> {};

TEST_P(BadTables, AreRefusedInTheirPlace) {
  const ScratchFolder folder;
  write_text(folder / "t.csv", GetParam().text);
  const Ran ran = run_in(folder.path(), "'" MILEAGE_PROGRAM "' import t.csv -o t.study.jsonl");
  EXPECT_EQ(ran.code, 3);
  EXPECT_THAT(ran.err, HasSubstr(GetParam().said));
  EXPECT_FALSE(std::filesystem::exists(folder / "t.study.jsonl"));
}

INSTANTIATE_TEST_SUITE_P(
    Tables, BadTables,
    testing::Values(
        BadTable{"double_column", "count,frame_ms,frame_ms\n1,2,3\n", "t.csv:1: frame_ms: two columns of that name"},
        BadTable{"tiny_fps", "count,fps\n1,1e-300\n", "t.csv:2: fps: not the rate of frames; found \"1e-300\""},
        BadTable{"negative_phase", "count,frame_ms,phase:move\n1,2,-3\n",
                 "t.csv:2: phase:move: below zero; found \"-3\""},
        BadTable{"negative_setup", "count,frame_ms,setup_ms\n1,2,-3\n",
                 "t.csv:2: setup_ms: out of range; found \"-3\""},
        BadTable{"negative_alive", "count,frame_ms,alive\n1,2,-3\n", "t.csv:2: alive: below zero; found \"-3\""},
        BadTable{"waited_longer", "count,frame_ms,waited_us\n1,2,2500\n",
                 "t.csv:2: waited_us: a frame cannot wait longer than it takes; found \"2500\""},
        BadTable{"zero", "count,frame_ms\n1,0\n1,2\n", "t.csv: frame_ms: not the time of a frame; found \"0\""},
        BadTable{"huge_block", "count,frame_ms,block\n1,2,99999999999\n", "t.csv:2: block: out of range"},
        BadTable{"overflowing_counter", "count,frame_ms,counter:calls\n1,2,1e308\n1,2,1e308\n1,2,1e308\n",
                 "t.csv: counter:calls: not a number"}));

struct Left {
  const char* script;
  const char* said;
};
void PrintTo(const Left& left, std::ostream* out) { *out << left.script; }
class LeftByCommands : public testing::TestWithParam<Left> {};

TEST_P(LeftByCommands, CostTheirRunAlone) {
  const ScratchFolder folder;
  write_text(folder / "odd.toml",
             std::string("counts = [100]\nblocks = 3\nno-refine = true\n[command]\ntime-limit = \"5s\"\n"
                         "[variant.odd]\nrun = [\"sh\", \"-c\", \"") +
                 GetParam().script +
                 " # {table}\"]\n"
                 "[variant.good]\nrun = [\"awk\", \"BEGIN { print \\\"frame_ms\\\"; for (i = 0; i < {frames}; ++i) "
                 "print 1 + (i % 4) / 100 }\"]\n");
  const Ran ran = run_in(folder.path(), "timeout 100 '" MILEAGE_PROGRAM "' measure odd.toml -o odd.study.jsonl");
  EXPECT_EQ(ran.code, 1) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr(GetParam().said));
  EXPECT_THAT(ran.out, testing::ContainsRegex("[1-9] runs?"));
}

INSTANTIATE_TEST_SUITE_P(Things, LeftByCommands,
                         testing::Values(Left{"mkfifo {table}", "this is no regular file"},
                                         Left{"ln -s /dev/zero {table}", "this is no regular file"},
                                         Left{"ln -s {table} {table}", "symbolic links"},
                                         Left{"truncate -s 100G {table}", "too large: 107GB; accepted: at most 67.1MB"},
                                         Left{"mkdir {table}", "this is a folder"}));

TEST(Caps, FramesThatHappenToTakeADisplaysPeriodAreNotThrownAway) {
  // Crosses 16.67 ms with frames even to 0.3 %.
  std::mt19937_64 random(7);
  std::normal_distribution<double> jitter(0, 0.003);
  std::vector<Recording> recordings;
  int process = 0;
  for (const double ms : {4.0, 8.0, 1000.0 / 60, 33.0, 70.0}) {
    Recording recording;
    recording.file = "night.csv";
    recording.variant = "plain";
    recording.count = std::llround(1000 * ms);
    recording.process = process++;
    for (int frame = 0; frame < 100; ++frame)
      recording.frame_ns.push_back(std::llround(ms * 1e6 * (1 + jitter(random))));
    recordings.push_back(recording);
  }
  const Study study = study_of_recordings(recordings, {});
  for (const mileage::Run& run : study.runs) EXPECT_EQ(run.status, RunStatus::kept) << run.count;
  EXPECT_EQ(report_of(study).growth.series.front().points.size(), 5U);
  EXPECT_THAT(study.head.notes, testing::Not(testing::Contains(HasSubstr("pile up"))));
}

TEST(Caps, NoiseMakesNone) {
  // Near a display's period, with 1 to 5 % noise.
  std::mt19937_64 random(11);
  for (const double noise : {0.01, 0.02, 0.05}) {
    std::vector<Recording> recordings;
    int process = 0;
    for (const double period_ms : {1000.0 / 165, 1000.0 / 120, 1000.0 / 75, 1000.0 / 30})
      for (const double off : {0.999, 1.0, 1.002}) {
        std::normal_distribution<double> jitter(0, noise);
        Recording recording;
        recording.file = "night.csv";
        recording.variant = "plain";
        recording.count = std::llround(1e6 * off * period_ms);
        recording.process = process++;
        for (int frame = 0; frame < 200; ++frame)
          recording.frame_ns.push_back(std::llround(off * period_ms * 1e6 * std::exp(jitter(random))));
        recordings.push_back(recording);
      }
    const Study study = study_of_recordings(recordings, {});
    for (const mileage::Run& run : study.runs) EXPECT_EQ(run.status, RunStatus::kept) << run.count;
    EXPECT_THAT(study.head.notes, testing::Not(testing::Contains(HasSubstr("pile up"))));
  }
}

Study imported(const std::string& table, const std::string& options = "") {
  const ScratchFolder folder;
  write_text(folder / "t.csv", table);
  const Ran ran = run_in(folder.path(), "'" MILEAGE_PROGRAM "' import t.csv -o t.study.jsonl " + options);
  EXPECT_EQ(ran.code, 0) << ran.err;
  return read_study(folder / "t.study.jsonl");
}

double counter_per_frame(const mileage::Run& run, const char* name) {
  return run.counters.at(name) / static_cast<double>(run.measured_frames());
}

TEST(Averages, KeepCountersAndPhasesPerFrame) {
  const Study study = imported(
      "variant,count,fps,counter:calls,phase:move\na,100,20,1400,1.49\na,200,10,2800,2.98\na,400,5,5600,5.96\n");
  ASSERT_EQ(study.runs.size(), 3U);
  const mileage::Run& run = study.runs.front();
  EXPECT_NEAR(counter_per_frame(run, "calls"), 1400, 1e-6);
  EXPECT_NEAR(run.phases_ms.at("move") / static_cast<double>(run.measured_frames()), 1.49, 1e-6);
}

TEST(Averages, OverFramesNamedInTheTableAreNotMultiplied) {
  const Study study = imported(
      "variant,count,frame_ms,frames_per_sample,counter:calls\na,100,2.07,60,7\na,200,4.1,60,7\na,400,8.2,60,7\n");
  for (const mileage::Run& run : study.runs) {
    EXPECT_EQ(run.frames_per_sample, 60);
    EXPECT_NEAR(counter_per_frame(run, "calls"), 7, 1e-6);
  }
  EXPECT_NEAR(static_cast<double>(study.runs.front().samples_ns.front()) * 1e-6 / 60, 2.07, 1e-6);
}

TEST(Rates, InAColumnOfTimesAreRefused) {
  const ScratchFolder folder;
  write_text(folder / "t.csv", "count,fps_low,fps_high\n100,280,300\n");
  for (const std::string column : {"low", "frame_ms"}) {
    const Ran ran = run_in(folder.path(), "'" MILEAGE_PROGRAM "' import t.csv --column " + column +
                                              "=fps_low --column high=fps_high -o t.study.jsonl");
    EXPECT_EQ(ran.code, 3) << ran.out;
    EXPECT_THAT(ran.err, HasSubstr("sounds like a rate"));
  }
}

TEST(Timestamps, BecomeTheirDifferences) {
  for (const double start : {0.0, 16.0, 5e6}) {
    std::string table = "variant,count,frame_ms,alive\n";
    double at = start;
    for (const int count : {1000, 2000})
      for (int frame = 0; frame < 60; ++frame) {
        table += "a," + std::to_string(count) + "," + std::to_string(at) + "," + std::to_string(count) + "\n";
        at += 16 + 0.3 * (frame % 3);
      }
    const Study study = imported(table);
    ASSERT_EQ(study.runs.size(), 2U) << start;
    for (const mileage::Run& run : study.runs) EXPECT_NEAR(typical_frame_ms(run), 16.3, 0.1) << start;
    EXPECT_THAT(study.head.notes, testing::Contains(HasSubstr("only rises")));
  }
}

TEST(Timestamps, AreNoFramesThatGetLongerOrCostsThatRise) {
  std::string growing = "count,frame_ms\n", averages = "count,frame_ms\n";
  for (int frame = 0; frame < 100; ++frame) growing += "1000," + std::to_string(4 + 0.12 * frame) + "\n";
  for (int row = 1; row <= 12; ++row) averages += std::to_string(1000 * row) + "," + std::to_string(row) + "\n";
  EXPECT_EQ(imported(growing).runs.front().samples_ns.size(), 100U);
  EXPECT_EQ(imported(averages).runs.size(), 12U);
}

TEST(Expressions, NoneTakesForEver) {
  const ScratchFolder folder;
  const std::string name = "night" + std::string(60, 'a') + ".csv";
  write_text(folder / name, "count,frame_ms\n1,2\n");
  const Ran ran = run_in(
      folder.path(), "timeout 20 '" MILEAGE_PROGRAM "' import " + name + " --variant-from '(a+)+$x' -o x.study.jsonl");
  EXPECT_EQ(ran.code, 2);
  EXPECT_THAT(ran.err, HasSubstr("--variant-from: the name of the file holds no such thing"));
}

TEST(Imports, OfManyVariantsGrowInProportion) {
  const ScratchFolder folder;
  std::string table = "variant,count,run,frame_ms\n";
  for (int variant = 0; variant < 300; ++variant)
    for (const int count : {100, 200, 400})
      table +=
          "v" + std::to_string(variant) + "," + std::to_string(count) + ",1," + std::to_string(count * 1e-3) + "\n";
  write_text(folder / "many.csv", table);
  const Ran ran = run_in(folder.path(), "timeout 60 '" MILEAGE_PROGRAM "' import many.csv -o many.study.jsonl");
  EXPECT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("300 variants at 3 counts"));
}

}  // namespace
}  // namespace mileage
