#include <cstdlib>
#include <map>
#include <set>
#include <tuple>

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "study/study_file.h"
#include "support/pictures.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using nlohmann::json;
using testing::HasSubstr;
using testing::Not;
using testing_support::Ran;
using testing_support::read_text;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

class NightGame : public testing::Test {
 protected:
  NightGame() {
    ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1);
    for (const char* plan : {"night.toml", "builds.toml"})
      write_text(folder_ / plan, read_text(std::filesystem::path(MILEAGE_SOURCE_DIR "/examples/night_game") / plan));
    std::filesystem::create_directory(folder_ / "build");
    std::filesystem::create_symlink(MILEAGE_NIGHT_GAME, folder_ / "build" / "night_game");
  }
  Ran run(const std::string& arguments) const { return run_in(folder_.path(), "'" MILEAGE_PROGRAM "' " + arguments); }
  ScratchFolder folder_;
};

TEST_F(NightGame, BothWaysAreMeasuredAndAgree) {
  const Ran ran = run("measure night.toml --counts 500,2k,8k --time 60s --blocks 3 --no-refine -o night.study.jsonl");
  ASSERT_EQ(ran.code, 0) << ran.err << ran.out;
  EXPECT_THAT(ran.out, testing::ContainsRegex("night.study.jsonl: 3 blocks, [0-9]+ runs"));
  EXPECT_THAT(run("cost night.study.jsonl --more").out, HasSubstr("commands: "));
  const json capacities = json::parse(run("capacity night.study.jsonl --json").out);
  ASSERT_EQ(capacities["agreement"].size(), 2U);
  for (const json& one : capacities["agreement"]) EXPECT_EQ(one["verdict"], "agrees");
  const std::string study = read_text(folder_ / "night.study.jsonl");
  EXPECT_THAT(study, Not(HasSubstr(folder_.path().string())));
  EXPECT_THAT(study, HasSubstr("linked: night_game --way linked --lanterns {count}"));
}

TEST_F(NightGame, AKnobThatIsComparedHasItsChoicesHeldAgainstEachOther) {
  write_text(folder_ / "ways.toml", R"(scenario = "night"
counts = "500"
[command]
directory = "build"
[knob.way]
choices = ["linked", "columns"]
choice = true
[variant.night]
run = ["./night_game", "--way", "{way}", "--lanterns", "{count}", "--seed", "{seed}",
       "--frames", "{frames}", "--table", "{table}"]
)");
  const Ran ran = run("measure ways.toml --blocks 4 -o ways.study.jsonl");
  ASSERT_EQ(ran.code, 0) << ran.err << ran.out;
  EXPECT_THAT(ran.out, testing::ContainsRegex("At 500 entities: way=[a-z]+ .* ms, way=[a-z]+ .* way=linked[.]"));
  const json answer = json::parse(run("cost ways.study.jsonl --json").out);
  ASSERT_EQ(answer["costs"].size(), 2U);
  EXPECT_EQ(answer["series"][1]["knobs"]["way"], "columns");
  EXPECT_EQ(answer["costs"][1]["series"], "night way=columns");
  const Ran one = run("measure ways.toml --knob way=columns --blocks 3 -o one.study.jsonl");
  EXPECT_EQ(one.code, 0) << "a choice that is given is measured alone: " << one.err;
  EXPECT_EQ(json::parse(run("cost one.study.jsonl --json").out)["costs"].size(), 1U);
}

TEST_F(NightGame, TheSamePlanGoesOnAndAnotherIsRefused) {
  ASSERT_EQ(run("measure night.toml --counts 500 --blocks 1 --no-refine -o night.study.jsonl").code, 0);
  EXPECT_THAT(run("measure night.toml --counts 500 --blocks 1 --no-refine -o night.study.jsonl").err,
              HasSubstr("continuing after"));
  write_text(folder_ / "night.toml", read_text(folder_ / "night.toml") + "# another wording\n");
  const Ran other = run("measure night.toml --counts 500 --blocks 1 --no-refine -o night.study.jsonl");
  EXPECT_EQ(other.code, 4);
  EXPECT_THAT(other.err, HasSubstr("the plan with its commands"));
}

TEST_F(NightGame, TwoBuildsStandInTheSameBlocks) {
  const Ran ran = run("measure builds.toml --builds before='" MILEAGE_NIGHT_GAME_O1 "',after='" MILEAGE_NIGHT_GAME
                      "' --counts 500,2k,8k --time 60s --blocks 3 --no-refine -o builds.study.jsonl");
  ASSERT_EQ(ran.code, 0) << ran.err << ran.out;
  const json curve = json::parse(run("curve builds.study.jsonl --baseline before --json").out);
  ASSERT_EQ(curve["curves"].size(), 2U);
  EXPECT_EQ(curve["curves"][0]["series"], "before/columns");
  // A machine that changes speed may lose a count, but not all.
  ASSERT_FALSE(curve["relative"].empty());
  for (const json& row : curve["relative"]) EXPECT_EQ(row["series"], "after/columns");
  std::map<std::tuple<std::string, std::int64_t, int>, int> runs;
  for (const mileage::Run& run : read_study(folder_ / "builds.study.jsonl").runs)
    if (run.block >= 0) ++runs[{run.series.build, run.count, run.block}];
  EXPECT_EQ(runs.size(), 2U * 3U * 3U) << "two builds at three counts in three blocks";
  EXPECT_THAT(run("breakeven builds.study.jsonl --between before,after").out, HasSubstr("after/columns"));
  EXPECT_THAT(run("breakeven builds.study.jsonl --between before,behind").err,
              HasSubstr("no such variant in the study"));
}

TEST_F(NightGame, BuildsOfALinkedProgramStandSideBySideToo) {
  const std::string builds = "--builds before='" MILEAGE_ODD_PROGRAM "',after='" MILEAGE_ODD_PROGRAM "'";
  const Ran ran = run("measure --scenario odd " + builds +
                      " --variants behaves --counts 1,4 --blocks 5 --frames 3 --no-refine -o odd.study.jsonl");
  ASSERT_EQ(ran.code, 0) << ran.err;
  const json curve = json::parse(run("curve odd.study.jsonl --json").out);
  ASSERT_EQ(curve["curves"].size(), 2U);
  EXPECT_EQ(curve["curves"][1]["series"], "after/behaves");
  EXPECT_THAT(
      run("measure --scenario drift --builds before='" MILEAGE_PROGRAM "',after='" MILEAGE_ODD_PROGRAM "' -o x").err,
      HasSubstr("the builds do not offer the same variants and knobs"));
}

TEST_F(NightGame, OtherCommandsAreNamedAndTheStudyGoesOn) {
  write_text(folder_ / "odd.toml",
             "counts = \"300\"\nblocks = 1\nno-refine = true\n"
             "[variant.good]\nrun = [\"build/night_game\", \"--lanterns\", \"{count}\", \"--seed\", \"{seed}\", "
             "\"--frames\", \"{frames}\", \"--table\", \"{table}\"]\n"
             "[variant.leaves]\nrun = [\"sh\", \"-c\", \"echo out of oil >&2; exit 3\"]\n"
             "[variant.less]\nrun = [\"build/night_game\", \"--lanterns\", \"200\", \"--frames\", \"{frames}\", "
             "\"--table\", \"{table}\"]\n");
  const Ran ran = run("measure odd.toml -o odd.study.jsonl");
  EXPECT_EQ(ran.code, 1);
  EXPECT_THAT(ran.out, HasSubstr("failed: leaves at 300"));
  EXPECT_THAT(ran.out, HasSubstr("sh ended with exit code 3; last output: out of oil"));
  EXPECT_THAT(ran.out, HasSubstr("night_game was asked for 300 entities, and 200 are alive at the end"));
}

TEST_F(NightGame, MistakesInAPlanAreNamedWithTheirLine) {
  const auto refusal = [&](const std::string& text) {
    write_text(folder_ / "odd.toml", text);
    const Ran ran = run("measure odd.toml -o odd.study.jsonl");
    EXPECT_NE(ran.code, 0);
    EXPECT_FALSE(std::filesystem::exists(folder_ / "odd.study.jsonl"));
    return ran.err;
  };
  EXPECT_THAT(refusal("[variant.a]\nnote = \"x\"\n"), HasSubstr("odd.toml:1: run: the variant has no command"));
  EXPECT_THAT(refusal("[variant.a]\nrun = [\"x\", \"{cuont}\"]\n"),
              HasSubstr("odd.toml:2: run: no such placeholder; found \"{cuont}\""));
  EXPECT_THAT(refusal("[variant.a]\nrun = \"x\"\n"), HasSubstr("a list of texts"));
  EXPECT_THAT(refusal("[variant.a]\nrun = [\"x\"]\nnoet = \"y\"\n"),
              HasSubstr("no such key in [variant.a]; found \"noet\"; accepted: note"));
  EXPECT_THAT(refusal("[variant.a]\nrun = [\"x\"]\n[command]\ntime-limit = 3\n"), HasSubstr("time-limit"));
  EXPECT_THAT(run("measure night.toml --cold 8MB -o x").err, HasSubstr("--cold: does not go with a plan of commands"));
  EXPECT_THAT(run("measure night.toml --builds before -o x").err, HasSubstr("NAME=PROGRAM"));
  EXPECT_THAT(run("measure night.toml --builds before=no/such -o x").err, HasSubstr("there is no such program"));
}

TEST_F(NightGame, RunsInAFolderThatIsThere) {
  std::filesystem::rename(folder_ / "build", folder_ / "elsewhere");
  const Ran ran = run("measure night.toml -o night.study.jsonl");
  EXPECT_EQ(ran.code, 3);
  EXPECT_THAT(ran.err, HasSubstr("directory: there is no such folder; found \"build\""));
  EXPECT_FALSE(std::filesystem::exists(folder_ / "night.study.jsonl"));
}

TEST_F(NightGame, IsDrivenThroughItsCounts) {
  const std::string drive =
      "'" MILEAGE_PROGRAM "' drive --listen 127.0.0.1:0 --counts 2k,8k --blocks 3 --budget 0.2ms -o driven.study.jsonl";
  const auto one_run = [&] {
    return run_in(
        folder_.path(),
        "rm -f said; " + drive +
            " >told 2>said & for i in $(seq 100); do grep -q listening said 2>/dev/null && break; sleep 0.05; done; "
            "build/night_game --drive $(sed -n 's/.*listening on \\([0-9.:]*\\).*/\\1/p' said); game=$?; wait $!; "
            "drive=$?; echo game $game, drive $drive; cat told");
  };
  const Ran first = one_run();
  EXPECT_THAT(first.out, HasSubstr("game 0, drive 0")) << read_text(folder_ / "said");
  EXPECT_THAT(first.out, HasSubstr("one process made these runs"));
  std::set<std::pair<std::string, std::int64_t>> cells;
  for (const mileage::Run& run : read_study(folder_ / "driven.study.jsonl").runs)
    cells.emplace(run.series.variant, run.count);
  EXPECT_THAT(cells, testing::IsSupersetOf({std::pair<std::string, std::int64_t>{"linked", 2000},
                                            {"linked", 8000},
                                            {"columns", 2000},
                                            {"columns", 8000}}));
  EXPECT_THAT(one_run().out, HasSubstr("2 processes made these runs"));
  const Ran third = one_run();
  EXPECT_THAT(third.out, HasSubstr("3 processes made these runs: intervals assume a spread of 1 % between processes."));
}

TEST_F(NightGame, LetsLanternsArriveRunByItselfAndDriven) {
  const Ran measured =
      run("measure night.toml --counts 2k,8k --arrive 500 --blocks 2 --time 100s -o arrivals.study.jsonl");
  EXPECT_EQ(measured.code, 0) << measured.err << measured.out;
  EXPECT_THAT(measured.out, HasSubstr(", while lanterns arrive"));
  const Ran driven = run_in(
      folder_.path(),
      "'" MILEAGE_PROGRAM
      "' drive --listen 127.0.0.1:0 --counts 2k,8k --arrive 500 --blocks 1 --budget 0.2ms -o "
      "driven.study.jsonl >told 2>said & for i in $(seq 100); do grep -q listening said 2>/dev/null && break; sleep "
      "0.05; done; build/night_game --drive $(sed -n 's/.*listening on \\([0-9.:]*\\).*/\\1/p' said); wait $!; cat "
      "told");
  EXPECT_THAT(driven.out, HasSubstr(", while lanterns arrive")) << read_text(folder_ / "said");
  for (const char* study : {"arrivals.study.jsonl", "driven.study.jsonl"})
    for (const mileage::Run& run : read_study(folder_ / study).runs)
      if (run.block >= 0) {
        EXPECT_NE(run.status, RunStatus::failed) << run.failure;
        EXPECT_EQ(run.arrived, 500);
      }
}

TEST_F(NightGame, ArrivalsTakeACommandThatIsToldOfThem) {
  EXPECT_THAT(run("measure builds.toml --builds one=build/night_game --counts 2k --arrive 50 -o x.study.jsonl").err,
              HasSubstr("--arrive: the command of a variant lacks {arrive}; found \"columns\""));
  EXPECT_THAT(run("measure night.toml --by-hand --counts 2k --arrive 50 -o x.study.jsonl").err,
              HasSubstr("does not go with --by-hand"));
}

TEST_F(NightGame, PicturesStandBesideTheCostOfAnApproximateWay) {
  testing_support::write_png(folder_ / "fine.png", testing_support::grey_picture());
  testing_support::write_png(folder_ / "coarse.png", testing_support::grey_picture(250));
  const std::string run_of = R"(seq {frames} | awk 'BEGIN { print "frame_ms,count" }
    { print 1 + $1 % 3 / 100 ",{count}" }' > {table}; cp )";
  std::string plan = "scenario = \"river\"\n";
  for (const std::string way : {"fine", "coarse"})
    plan += "[variant." + way + "]\nrun = [\"sh\", \"-c\", '''" + run_of + way + ".png {picture}''']\n" +
            (way == "coarse" ? "approximate = true\n" : "");
  write_text(folder_ / "pictures.toml", plan);
  const Ran measured = run("measure pictures.toml --counts 100 --blocks 3 -o river.study.jsonl");
  ASSERT_EQ(measured.code, 0) << measured.err << measured.out;
  EXPECT_THAT(run("cost river.study.jsonl").out,
              HasSubstr("coarse: 5.0 % of its pixels differ from the reference, by 2.0 % on average."));
  const json agreement = json::parse(run("cost river.study.jsonl --json").out)["agreement"];
  EXPECT_EQ(agreement[1]["pixels_differ"], 0.05);
  plan.replace(plan.rfind("{picture}"), 9, "picture.png");
  write_text(folder_ / "one.toml", plan);
  EXPECT_THAT(run("measure one.toml --counts 100 -o one.study.jsonl").err,
              HasSubstr("some variants leave a picture, and others none"));
}

TEST_F(NightGame, WhoSpeaksOtherwiseIsRefusedAndTheStudyIsSafe) {
  const Ran ran =
      run_in(folder_.path(), "printf 'GET / HTTP/1.1\\n' | '" MILEAGE_PROGRAM "' drive --listen - -o odd.study.jsonl");
  EXPECT_EQ(ran.code, 5);
  EXPECT_THAT(ran.err, HasSubstr("the program sent a line that is no JSON object"));
  EXPECT_FALSE(std::filesystem::exists(folder_ / "odd.study.jsonl"));
  EXPECT_THAT(run("drive --listen nowhere -o odd.study.jsonl").err, HasSubstr("not an address to listen on"));
}

TEST_F(NightGame, APersonRecordsWhatIsAskedFor) {
  // Saves a recording under the requested name.
  write_text(folder_ / "person.sh",
             "for i in $(seq 400); do\n"
             "  asked=$(sed -n 's/.*save as //p' told | tail -1)\n"
             "  if [ -n \"$asked\" ] && [ ! -e \"$asked\" ]; then\n"
             "    way=${asked%%-*}; rest=${asked#*-}\n"
             "    build/night_game --way $way --lanterns ${rest%%-*} --frames 60 --table part.csv >/dev/null && mv "
             "part.csv $asked\n"
             "  fi\n"
             "  grep -q 'whole blocks' told && exit\n"
             "  sleep 0.05\ndone\n");
  const Ran ran = run_in(folder_.path(), "sh person.sh & '" MILEAGE_PROGRAM
                                         "' measure night.toml --by-hand --counts 2k,4k --blocks 1 -o hand.study.jsonl "
                                         "> told; echo code $?; wait; cat told");
  EXPECT_THAT(ran.out, HasSubstr("code 0")) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("lanterns, linked, same viewpoint: record about 20 s, save as linked-"));
  EXPECT_THAT(ran.out, HasSubstr("1 block, 4 runs"));
  EXPECT_THAT(run("measure --by-hand --scenario drift -o x").err,
              HasSubstr("needs a plan file that names the variants"));
}

TEST_F(NightGame, ARecordingByHandIsImportedWithAdvice) {
  for (const char* count : {"2000", "4000", "8000"})
    ASSERT_EQ(run_in(folder_.path(), std::string("build/night_game --way linked --frames 80 --lanterns ") + count +
                                         " --table night-" + count + ".csv")
                  .code,
              0);
  const Ran ran =
      run("import night-2000.csv night-4000.csv night-8000.csv --count-from 'night-(\\d+)' --variant linked --entities "
          "lanterns --budget 0.05ms -o night.study.jsonl");
  ASSERT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("1 variant at 3 counts"));
  EXPECT_THAT(ran.out, HasSubstr("most useful next recording: linked at"));
  EXPECT_THAT(run("capacity night.study.jsonl").out, HasSubstr("intervals assume that runs differ"));
}

}  // namespace
}  // namespace mileage
