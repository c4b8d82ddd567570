#include <cstdlib>

#include <fmt/format.h>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "analysis/evidence/judged_run.h"
#include "study/study_file.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using nlohmann::json;
using testing::Contains;
using testing::HasSubstr;
using testing::Not;
using testing_support::Ran;
using testing_support::read_text;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

const std::string quoted_demo = "'" MILEAGE_SOURCE_DIR "/demo/drift.study.jsonl'";

class Explaining : public testing::Test {
 protected:
  Explaining() {
    ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1);
    ::setenv("MILEAGE_DEVICE", "off", 1);
  }
  Ran run(const std::string& arguments) const { return run_in(folder_.path(), "'" MILEAGE_PROGRAM "' " + arguments); }
  json answer(const std::string& arguments) const {
    const Ran ran = run(arguments + " --json");
    EXPECT_EQ(ran.code, 0) << arguments << "\n" << ran.err;
    return json::parse(ran.out, nullptr, false);
  }
  static json row_where(const json& rows, const char* key, const std::string& value) {
    for (const json& row : rows)
      if (row[key] == value) return row;
    return {};
  }
  ScratchFolder folder_;
};

/// Two variants; `slow` gathers 2 ms longer and spikes by 8 ms in phase "glow" every 40th frame.
void write_tables(const ScratchFolder& folder) {
  for (const std::string way : {"plain", "slow"})
    for (int recording = 0; recording < 6; ++recording) {
      std::string csv = "frame_ms,count,phase:gather,phase:glow,counter:steps\n";
      for (int frame = 0; frame < 200; ++frame) {
        const double wobble = 1 + 0.01 * ((frame * 7 + recording * 3) % 11 - 5);
        const double gather = (way == "slow" ? 3.0 : 1.0) * wobble;
        const double glow = 2 * wobble + (way == "slow" && frame % 40 == recording * 5 ? 8 : 0);
        csv += fmt::format("{:.4f},1000,{:.4f},{:.4f},{}\n", gather + glow + 0.5, gather, glow,
                           way == "slow" ? 3960 : 1000);
      }
      write_text(folder / fmt::format("{}-{}.csv", way, recording), csv);
    }
}

TEST_F(Explaining, TablesTellThePhaseThatIsSlowerAndTheOneOfTheSpikes) {
  write_tables(folder_);
  ASSERT_EQ(run("import plain-*.csv slow-*.csv --variant-from '(\\w+)-' -o two.study.jsonl").code, 0);
  const json parts = answer("cost two.study.jsonl --between plain,slow")["difference"];
  const json gather = row_where(parts, "part", "gather");
  EXPECT_NEAR(gather["difference_ms"], 2, 0.15);
  EXPECT_EQ(gather["significant"], true);
  EXPECT_LT(row_where(parts, "part", "glow")["difference_ms"], 0.5);

  const json slow = answer("frames two.study.jsonl --variants slow");
  EXPECT_NEAR(slow["frames"][0]["period_frames"], 40, 0.1);
  EXPECT_EQ(slow["spike_parts"][0]["phase"], "glow");
  EXPECT_GT(slow["spike_parts"][0]["share"], 0.9);
  EXPECT_EQ(answer("frames two.study.jsonl --variants plain")["frames"][0]["spikes"], 0);
}

TEST_F(Explaining, TheMirrorIsFoundToGatherAndToAskForMemory) {
  ASSERT_EQ(run("measure --scenario drift --variants columns,mirrored-fresh,mirrored --counts 3k,100k --no-refine "
                "--blocks 6 --frames 8 --without gather -o m.study.jsonl")
                .code,
            0);
  const json told = answer("cost m.study.jsonl --at 100k --between columns,mirrored-fresh");
  EXPECT_GT(row_where(told["difference"], "part", "gather")["difference_ms"], 0);
  const json faults = row_where(told["difference_counters"], "counter", "page faults per frame");
  EXPECT_GT(faults["second_each"], 10) << "columns made and freed every frame";
  const json floor =
      row_where(answer("cost m.study.jsonl --at 100k --between columns,mirrored")["without_phase"], "phase", "gather");
  EXPECT_EQ(floor["measured"], true) << "by the series without it";
  const json choice = answer("choose m.study.jsonl");
  for (const char* part : {"choices", "one_for_all"})
    EXPECT_THAT(choice.at(part).dump(), Not(HasSubstr("a floor"))) << "it does no work";
  const json pairs = answer("breakeven m.study.jsonl");
  for (const char* part : {"crossings", "no_crossing", "pays_off"})
    EXPECT_THAT(pairs.at(part).dump(), Not(HasSubstr("a floor")));
  const std::string ends = run("capacity m.study.jsonl").out;
  EXPECT_THAT(ends, HasSubstr("limited by"));
  EXPECT_THAT(ends, HasSubstr("main thread"));
  EXPECT_EQ(run("measure --scenario drift --without glow --counts 10 -o x.study.jsonl").code, 2);
}

TEST_F(Explaining, TracedRunsAreShownFrameByFrame) {
  ASSERT_EQ(run("measure --scenario drift --variants mirrored --counts 3k --no-refine --time 4s --trace 2 -o "
                "r.study.jsonl")
                .code,
            0);
  const json frames = answer("frames r.study.jsonl --at 3k");
  EXPECT_GE(frames["frames"][0]["traced_runs"], 1);
}

TEST_F(Explaining, ABatchTooSmallIsFoundByTune) {
  const Ran ran =
      run("tune --scenario drift --variants jobs --knob batch=1,64,512,4096 --knob workers=1 --at 20k --time 4s -o "
          "t.study.jsonl --figure t.svg --json");
  ASSERT_EQ(ran.code, 0) << ran.err;
  const json tuned = json::parse(ran.out)["tuned"];
  for (const json& value : tuned)
    if (value["batch"] == 1) EXPECT_EQ(value["best"], false);
  EXPECT_TRUE(std::filesystem::exists(folder_ / "t.svg"));
  const json again = answer("tune t.study.jsonl --knob batch --at 20k");
  EXPECT_EQ(again["tuned"].size(), tuned.size());
  EXPECT_EQ(run("tune t.study.jsonl --knob wind").code, 2);
  EXPECT_EQ(run("tune --scenario drift --variants jobs --knob batch=64 --at 1k").code, 2) << "a single value";
}

TEST_F(Explaining, ALadderIsMeasuredAndAnsweredAgain) {
  const Ran ran =
      run("ladder --scenario drift --variants objects --rungs \"ballast=0; variant=columns; variant=jobs,workers=1\" "
          "--at 20k "
          "--time 4s -o l.study.jsonl --json");
  ASSERT_EQ(ran.code, 0) << ran.err;
  const json rungs = json::parse(ran.out)["rungs"];
  ASSERT_EQ(rungs.size(), 4U);
  EXPECT_EQ(rungs[0]["rung"], "base");
  EXPECT_NEAR(rungs[1]["on_top"], 1, 1e-9) << "a setting that is the default does nothing";
  EXPECT_EQ(rungs[1]["inconclusive"], true);
  EXPECT_LT(rungs[2]["on_top"], 1);
  EXPECT_EQ(rungs[3]["changes_several"], true);
  EXPECT_THAT(run("ladder l.study.jsonl --at 20k --figure l.svg").out, HasSubstr("3 changes together: "));
  EXPECT_THAT(run("ladder " + quoted_demo).out, HasSubstr("holds no ladder"));
  EXPECT_EQ(run("ladder --scenario drift").code, 2) << "no rungs";
  EXPECT_EQ(run("ladder --scenario drift --rungs \"wind=3\"").code, 2);
}

TEST_F(Explaining, StudiesOneAfterTheOtherAreALadder) {
  for (const char* work : {"8", "1"})
    ASSERT_EQ(run(fmt::format("measure --scenario drift --variants columns --knob work={0} --counts 3k,10k --no-refine "
                              "--blocks 4 --frames 6 -o w{0}.study.jsonl",
                              work))
                  .code,
              0);
  const json rungs = answer("ladder w8.study.jsonl w1.study.jsonl --at 10k")["rungs"];
  ASSERT_EQ(rungs.size(), 2U);
  EXPECT_LT(rungs[1]["on_top"], 0.9);
}

TEST_F(Explaining, AnotherSystemTakesItsPartOfTheFrame) {
  const json beside = answer("capacity " + quoted_demo + " --rest " + quoted_demo +
                             " --rest-variant objects --rest-at 100k --map m.svg")["with_rest"];
  ASSERT_FALSE(beside.empty());
  EXPECT_GT(row_where(beside, "variant", "jobs")["capacity"], row_where(beside, "variant", "objects")["capacity"]);
  EXPECT_TRUE(std::filesystem::exists(folder_ / "m.svg"));
  const std::string report = "report " + quoted_demo + " --rest " + quoted_demo + " --rest-variant objects ";
  EXPECT_EQ(answer(report + "--rest-at 100k")["with_rest"], beside);
  ASSERT_EQ(run(report + "--rest-at 100k -o page.html").code, 0);
  const std::string page = read_text(folder_ / "page.html");
  for (const char* part : {"Next to drift", "improve ", "that fit next to them"}) EXPECT_THAT(page, HasSubstr(part));
  EXPECT_THAT(run("capacity " + quoted_demo + " --rest " + quoted_demo).err,
              HasSubstr("has several, and one is meant"));
  EXPECT_EQ(run("capacity " + quoted_demo + " --rest " + quoted_demo + " --rest-variant objects --reserve 2ms").code,
            2);
  EXPECT_EQ(run("capacity " + quoted_demo + " --rest " + quoted_demo + " --rest-variant objects --rest-at 900M").code,
            2);
}

TEST_F(Explaining, AChoiceMayBeByProcessorTime) {
  const std::string choose = "choose " + quoted_demo + " --at 100k";
  const auto used = [&](const std::string& by) { return answer(choose + by)["advice"][0]["variant"]; };
  EXPECT_EQ(used(""), "jobs");
  EXPECT_EQ(used(" --by processor-time"), "columns") << "its threads take more together";
  EXPECT_THAT(run(choose + " --by processor-time").out, HasSubstr("processor time of all threads"));
  EXPECT_THAT(run(choose + " --by energy").err, HasSubstr("the kernel of its machine has no counters for it"));
  EXPECT_EQ(run(choose + " --by luck").code, 2);
}

TEST_F(Explaining, CommandsTellWhatTheyLeaveOutAndWhatIsExpected) {
  const std::string game = R"(#!/bin/sh
# Writes 60 frames, of 2 ms or 1 ms without its glow; twice as many updates as there are lanterns.
frame=0
ms=2.$1; phase=1.0
[ "$3" = glow ] && { ms=1.$1; phase=0.0; }
echo frame_ms,phase:glow,counter:updates,alive > "$2"
while [ $frame -lt 60 ]; do echo "$ms$((frame % 3)),$phase,$((2 * $4)),$4" >> "$2"; frame=$((frame + 1)); done
)";
  write_text(folder_ / "game.sh", game);
  write_text(folder_ / "game.toml", R"(scenario = "night"
[expect]
updates = 1
[variant.glowing]
run = ["sh", "game.sh", "0", "{table}", "{without}", "{count}"]
stubs = ["glow"]
)");
  const Ran ran = run("measure game.toml --counts 100,1000 --no-refine --blocks 3 --without glow -o g.study.jsonl");
  ASSERT_EQ(ran.code, 0) << ran.err << ran.out;
  EXPECT_THAT(ran.out, HasSubstr("glowing makes 2 updates"));
  const json costs = answer("cost g.study.jsonl --at 1000")["costs"];
  ASSERT_EQ(costs.size(), 2U);
  // Corrected to a full speed that these frames do not know.
  EXPECT_LT(costs[1]["ms"], costs[0]["ms"]) << "the floor";
  for (const mileage::Run& run : read_study(folder_ / "g.study.jsonl").runs)
    if (run.block >= 0) EXPECT_NEAR(typical_frame_ms(run), run.series.is_floor() ? 1 : 2, 0.01);
  std::string unexplained = read_text(folder_ / "game.toml");
  unexplained.replace(unexplained.find("{without}"), 9, "-");
  write_text(folder_ / "untold.toml", unexplained);
  EXPECT_THAT(run("measure untold.toml --counts 100").err, HasSubstr("lacks {without}"));
  write_text(folder_ / "none.toml", "[expect]\nupdates = 0\n[variant.a]\nrun = [\"sh\", \"game.sh\", \"{count}\"]\n");
  EXPECT_EQ(run("measure none.toml --counts 100").code, 3) << "nothing that is expected is nothing";
}

/// 2 ms per step of detail below 3, plus 2; half with tiles.
void write_plan_with_knobs(const ScratchFolder& folder) {
  write_text(folder / "knobs.sh", R"(#!/bin/sh
frame=0
off=$(($3 - 3)); [ $off -lt 0 ] && off=$((-off))
ms=$((2 + 2 * off)); [ "$4" = tiles ] && ms=$((ms / 2))
echo frame_ms,alive > "$1"
while [ $frame -lt 40 ]; do echo "$ms.0$((frame % 3)),$2" >> "$1"; frame=$((frame + 1)); done
)");
  write_text(folder / "knobs.toml", R"(scenario = "night"
counts = [100, 1000]
[knob.detail]
default = 9
min = 1
max = 9
whole = true
[knob.layout]
choices = ["rows", "tiles"]
[variant.glowing]
run = ["sh", "knobs.sh", "{table}", "{count}", "{detail}", "{layout}"]
)");
}

TEST_F(Explaining, CommandsAreTunedOverAKnobOfTheirPlan) {
  write_plan_with_knobs(folder_);
  const Ran ran = run("tune knobs.toml --knob detail=1..9 --at 1000 --time 4s -o t.study.jsonl --json");
  ASSERT_EQ(ran.code, 0) << ran.err;
  const json tuned = json::parse(ran.out)["tuned"];
  for (const json& row : tuned) {
    EXPECT_EQ(row["best"], row["detail"] == 3) << row.dump();
    EXPECT_EQ(row["default"], row["detail"] == 9);
    if (row["detail"] == 9) EXPECT_EQ(row["as_good"], false) << "seven times as dear";
  }
  EXPECT_GE(tuned.size(), 4U);
}

TEST_F(Explaining, CommandsAreRungsOfALadder) {
  write_plan_with_knobs(folder_);
  const Ran ran =
      run("ladder knobs.toml --rungs \"layout=tiles; detail=3\" --at 1000 --time 4s -o l.study.jsonl --json");
  ASSERT_EQ(ran.code, 0) << ran.err;
  const json rungs = json::parse(ran.out)["rungs"];
  ASSERT_EQ(rungs.size(), 3U);
  EXPECT_LT(rungs[1]["on_top"], 0.8) << "half";
  EXPECT_LT(rungs[2]["on_top"], 0.4) << "a seventh";
  EXPECT_LT(rungs[2]["on_top"], rungs[1]["on_top"]);
}

TEST_F(Explaining, TablesAreRungs) {
  write_tables(folder_);
  for (const std::string way : {"plain", "slow"})
    ASSERT_EQ(run("import " + way + "-*.csv --variant night -o " + way + ".study.jsonl").code, 0);
  const json rungs = answer("ladder slow.study.jsonl plain.study.jsonl")["rungs"];
  ASSERT_EQ(rungs.size(), 2U);
  EXPECT_NEAR(rungs[1]["on_top"], 3.5 / 5.5, 0.05);
}

TEST_F(Explaining, AMapShowsWhereEachWayWinsOverCountAndKnob) {
  ASSERT_EQ(run("measure --scenario drift --variants objects,columns --knob scatter=0,1 --counts 300,3k,30k,100k "
                "--no-refine --blocks 3 --frames 5 -o s.study.jsonl")
                .code,
            0);
  const json map = answer("choose s.study.jsonl --map m.svg")["map"];
  ASSERT_EQ(map.size(), 8U) << "two values, four counts";
  for (const json& row : map)
    if (row["count"] == 100'000) EXPECT_EQ(row["variant"], "columns") << row.dump();
  EXPECT_TRUE(std::filesystem::exists(folder_ / "m.svg"));
  EXPECT_EQ(run("choose s.study.jsonl --map m.svg --map-knob wind").code, 2);
  EXPECT_EQ(run("choose " + quoted_demo + " --map m.svg").code, 2) << "no knob at several values";
}

TEST_F(Explaining, ALockIsFoundAsWaiting) {
  ASSERT_EQ(run("measure --program '" MILEAGE_LOADING_PROGRAM "' --scenario loaded --variants waits-for-lock --counts "
                "3,6,12,24 --no-refine --blocks 3 --frames 4 -o w.study.jsonl")
                .code,
            0);
  const json capacity = answer("capacity w.study.jsonl --budget 60hz")["capacities"][0];
  EXPECT_EQ(capacity["limited_by"], "blocked (lock or imbalance)") << capacity.dump();
}

}  // namespace
}  // namespace mileage
