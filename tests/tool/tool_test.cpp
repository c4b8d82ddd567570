#include <cstdlib>
#include <map>
#include <regex>

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "study/study_file.h"
#if MILEAGE_HAS_DEVICE
#include "support/device_here.h"
#endif
#include "support/scratch.h"

namespace mileage {
namespace {

using nlohmann::json;
using testing::ContainsRegex;
using testing::HasSubstr;
using testing::Not;
using testing_support::Ran;
using testing_support::read_text;
using testing_support::run_in;
#if MILEAGE_HAS_DEVICE
using testing_support::why_no_device;
#endif
using testing_support::ScratchFolder;
using testing_support::write_text;

const std::string demo_study = MILEAGE_SOURCE_DIR "/demo/drift.study.jsonl";

class Tool : public testing::Test {
 protected:
  Tool() {
    ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1);
    ::setenv("MILEAGE_DEVICE", "off", 1);
  }
  Ran run(const std::string& arguments) const { return run_in(folder_.path(), "'" MILEAGE_PROGRAM "' " + arguments); }
  ScratchFolder folder_;
};

struct BadCall {
  const char* arguments;
  int code;
  const char* said;
};
void PrintTo(const BadCall& call, std::ostream* out) { *out << call.arguments; }
class BadCalls : public testing::TestWithParam<BadCall> {};

TEST_P(BadCalls, GiveOneClearMessageAndTheirCodeAndLeaveNothingBehind) {
  const ScratchFolder folder;
  const std::string study = read_text(demo_study);
  write_text(folder / "cut.study.jsonl", study.substr(0, study.size() - 40));
  write_text(folder / "broken.study.jsonl",
             study.substr(0, study.find('\n') + 1) + "{]\n" + study.substr(study.find('\n') + 1));
  write_text(folder / "empty.study.jsonl", "");
  write_text(folder / "other.txt", "no study\n");
  const Ran ran = run_in(folder.path(), std::string("'" MILEAGE_PROGRAM "' ") + GetParam().arguments);
  EXPECT_EQ(ran.code, GetParam().code) << ran.err;
  EXPECT_THAT(ran.err, HasSubstr(GetParam().said));
  EXPECT_EQ(std::count(ran.err.begin(), ran.err.end(), '\n'), 1) << ran.err;
  EXPECT_EQ(ran.out, "");
  int files = 0;
  for (const auto& entry : std::filesystem::directory_iterator(folder.path())) {
    EXPECT_TRUE(entry.is_regular_file());
    ++files;
  }
  EXPECT_EQ(files, 4);
}

INSTANTIATE_TEST_SUITE_P(
    Tool, BadCalls,
    testing::Values(BadCall{"capasity x", 2, "did you mean capacity?"}, BadCall{"", 2, "no verb given"},
                    BadCall{"list --scenario drifd", 2, "did you mean drift?"}, BadCall{"list --color", 2, "--color"},
                    BadCall{"measure --scenario drifd -o x", 2, "did you mean drift?"},
                    BadCall{"measure --scenario drift --variants objets -o x", 2, "did you mean objects?"},
                    BadCall{"measure --scenario drift --knob scater=1 -o x", 2, "did you mean scatter?"},
                    BadCall{"measure --scenario drift --knob scatter=2 -o x", 2, "a number from 0 to 1"},
                    BadCall{"measure --scenario drift --knob scatter -o x", 2, "name=value"},
                    BadCall{"measure --scenario drift --counts 0 -o x", 2, "--counts"},
                    BadCall{"measure --scenario drift --counts=-5 -o x", 2, "--counts"},
                    BadCall{"measure --scenario drift --counts 1e99 -o x", 2, "1,000,000,000"},
                    BadCall{"measure --scenario drift --counts abc -o x", 2, "--counts"},
                    BadCall{"measure --scenario drift --counts 2k..1k -o x", 2, "span"},
                    BadCall{"measure --scenario drift --budget 60 -o x", 2, "--budget"},
                    BadCall{"measure --scenario drift --time soon -o x", 2, "--time"},
                    BadCall{"measure --scenario drift --blocks 0 -o x", 2, "--blocks"},
                    BadCall{"measure --scenario drift -o no/such/folder/x", 4, "no/such/folder"},
                    BadCall{"measure --scenario drift -o other.txt", 4, "is not a study that can be continued"},
                    BadCall{"measure --scenario drift -o cut.study.jsonl", 4,
                            "the file holds another study, and measurements are never overwritten: "},
                    BadCall{"measure --scenario drift --memory-limit much -o x", 2, "--memory-limit"},
                    BadCall{"measure --scenario drift --same-process --program /bin/true -o x", 2, "--same-process"},
                    BadCall{"measure --program /bin/true -o x", 5, "does not tell what it can measure"},
                    BadCall{"capacity none.study.jsonl", 3, "No such file"},
                    BadCall{"capacity empty.study.jsonl", 3, "the file is empty"},
                    BadCall{"capacity broken.study.jsonl", 3, "broken.study.jsonl:2: not a line of JSON"},
                    BadCall{"capacity other.txt", 3, "other.txt:1"}, BadCall{"capacity", 2, "STUDY"},
                    BadCall{"capacity cut.study.jsonl --budget 0ms", 2, "--budget"},
                    BadCall{"capacity cut.study.jsonl --reserve 20ms", 2, "leaves nothing of the budget"},
                    BadCall{"breakeven cut.study.jsonl --between objects,colums", 2, "no such variant in the study"},
                    BadCall{"breakeven cut.study.jsonl --at 0", 2, "--at"},
                    BadCall{"report cut.study.jsonl --figure x.gif", 2, ".png or .svg"},
                    BadCall{"report cut.study.jsonl -o no/such/x.html", 4, "no/such/x.html"},
                    BadCall{"report cut.study.jsonl -o cut.study.jsonl", 4, "measurements are never overwritten"},
                    BadCall{"report cut.study.jsonl cut.study.jsonl -o x.html", 2, "one name for several studies"}));

TEST_F(Tool, HelpShowsEveryVerbAndExamples) {
  const std::string help = run("--help").out;
  for (const std::string verb : {"list", "measure", "drive", "cost", "curve", "capacity", "breakeven", "choose",
                                 "import", "export", "report", "picture", "machine", "demo"}) {
    EXPECT_THAT(help, HasSubstr("\n  " + verb + " ")) << "a line of its own";
    const Ran own = run(verb + " --help");
    EXPECT_EQ(own.code, 0);
    EXPECT_THAT(own.out, HasSubstr("\nPrints:\n  ")) << verb;
    const auto examples = own.out.find("Examples:\n");
    ASSERT_NE(examples, std::string::npos) << verb;
    const std::string options = own.out.substr(0, examples);
    const std::string lines = own.out.substr(examples);
    EXPECT_THAT(lines, HasSubstr("\n  mileage " + verb)) << "an example of its own";
    static const std::regex option("(--[a-z-]+)");
    for (std::sregex_iterator at(lines.begin(), lines.end(), option), end; at != end; ++at)
      EXPECT_THAT(options, testing::ContainsRegex((*at)[1].str() + "( |,|\n)"))
          << verb << ": its examples use what it has";
  }
}

TEST_F(Tool, HelpIsAVerbToo) {
  EXPECT_EQ(run("help cost").out, run("cost --help").out);
  EXPECT_EQ(run("help").out, run("--help").out);
}

TEST_F(Tool, ListsScenariosVariantsAndKnobs) {
  const Ran text = run("list");
  for (const char* word : {"drift", "objects", "records", "columns", "jobs", "scatter", "work", "workers", "batch"})
    EXPECT_THAT(text.out, HasSubstr(word));
  const json listed = json::parse(run("list --json").out);
  EXPECT_EQ(listed["verb"], "list");
  EXPECT_GE(listed["scenarios"][0]["variants"].size(), 4U);
}

#if MILEAGE_HAS_DEVICE
TEST_F(Tool, AKnobThatTwoVariantsDeclareIsListedOnce) {
  EXPECT_THAT(run("list --scenario draw").out,
              ContainsRegex("min-height +6 +0 to 1080 px +lanterns less high .*; affects large\\*"));
}

TEST_F(Tool, WithoutADeviceItsVariantsAreListedWithTheReasonAndNothingElseIsLost) {
  EXPECT_THAT(run("list").out, HasSubstr("not here: the graphics device is switched off (MILEAGE_DEVICE=off)"));
  const Ran asked = run("measure --scenario drift --variants compute --counts 100 --blocks 1 -o x.study.jsonl");
  EXPECT_EQ(asked.code, 2);
  EXPECT_THAT(asked.err, HasSubstr("this variant cannot run here"));
  EXPECT_EQ(run("measure --scenario drift --counts 10,20 --blocks 1 --frames 3 --no-refine -o all.study.jsonl").code,
            0);
  EXPECT_EQ(run("picture --count 5").code, 2);
}

TEST_F(Tool, MeasuresOnTheDeviceAndSaysWhichItWas) {
  ::unsetenv("MILEAGE_DEVICE");
  if (const std::string why = why_no_device(); !why.empty()) GTEST_SKIP() << why;
  ASSERT_EQ(run("measure --scenario draw --variants each,instanced --counts 5,10 --blocks 3 --frames 3 --no-refine -o "
                "draw.study.jsonl")
                .code,
            0);
  const json told = json::parse(run("capacity draw.study.jsonl --json").out);
  EXPECT_EQ(told["agreement"].size(), 2U);
  for (const json& one : told["agreement"]) EXPECT_EQ(one["verdict"], "agrees");
  EXPECT_THAT(told["warnings"].dump(), HasSubstr("each, instanced drawn on "));
}

TEST_F(Tool, TakesAPictureOfADrawnScenario) {
  ::unsetenv("MILEAGE_DEVICE");
  ::setenv("ASAN_OPTIONS", "detect_leaks=0", 0);  // Graphics drivers leak.
  if (const std::string why = why_no_device(); !why.empty()) GTEST_SKIP() << why;
  const Ran ran = run("picture --scenario draw --count 50 --knob kinds=6 -o lanterns.png");
  EXPECT_EQ(ran.code, 0) << ran.err;
  EXPECT_EQ(read_text(folder_ / "lanterns.png").substr(1, 3), "PNG");
  EXPECT_THAT(run("picture --scenario drift --count 50").err, HasSubstr("not drawn"));
  EXPECT_EQ(run("picture --scenario draw --count 50,60").code, 2);
}
#endif

TEST_F(Tool, MeasuresAndAnswersFromWhatItMeasured) {
  const Ran measured =
      run("measure --scenario drift --variants objects,columns --counts 10..1k --points 5 --blocks 3 --frames 3 "
          "--knob scatter=0,1 --no-refine -o small.study.jsonl");
  ASSERT_EQ(measured.code, 0) << measured.err;
  EXPECT_THAT(measured.out, HasSubstr("small.study.jsonl: 3 blocks, "));
  const Study study = read_study(folder_ / "small.study.jsonl");
  std::map<RunStatus, int> runs;
  for (const mileage::Run& run : study.runs) ++runs[run.status];
  const auto first_in_block =
      std::find_if(study.runs.begin(), study.runs.end(), [](const mileage::Run& run) { return run.block >= 0; });
  const auto checks_before = std::count_if(study.runs.begin(), first_in_block,
                                           [](const mileage::Run& run) { return run.status == RunStatus::check; });
  EXPECT_EQ(checks_before, 3 * 3) << "at two counts, and over as many frames as a run has";
  EXPECT_EQ(runs[RunStatus::range_finding], 15);
  EXPECT_GT(runs[RunStatus::kept], 15);  // 45 on a quiet machine.
  EXPECT_GT(study.head.machine.cores, 0);
  for (const mileage::Run& run : study.runs) {
    EXPECT_EQ(run.alive, run.count);
    EXPECT_FALSE(run.outcome.empty());
    EXPECT_GT(run.setup_ms, 0);
    if (run.status == RunStatus::check) continue;
    EXPECT_EQ(run.counters.at("updates"), static_cast<double>(run.count * run.measured_frames()));
    EXPECT_TRUE(run.yardstick);
    EXPECT_GT(run.memory.built_bytes, 0);
    EXPECT_GT(run.processor_ms, 0);
  }
  EXPECT_EQ(json::parse(run("curve small.study.jsonl --json").out)["curves"].size(), 3U);
  EXPECT_EQ(run("measure --scenario drift -o small.study.jsonl").code, 4);
}

TEST_F(Tool, MeasureAsJsonTellsHowItEnded) {
  const Ran ran =
      run("measure --scenario drift --variants columns --counts 10,20 --blocks 1 --frames 3 --json -o x.study.jsonl");
  const json summary = json::parse(ran.out);
  EXPECT_EQ(summary["verb"], "measure");
  EXPECT_GE(summary["runs_kept"], 1);
  EXPECT_EQ(summary["study"], "x.study.jsonl");
}

TEST_F(Tool, MeasuresAnotherProgramAndRecordsItsFailures) {
  const Ran ran = run("measure --program '" MILEAGE_ODD_PROGRAM
                      "' --variants behaves,crashes --counts 1 --blocks 6 --frames 3 -o odd.study.jsonl");
  EXPECT_EQ(ran.code, 1) << ran.err;
  EXPECT_THAT(ran.out,
              testing::ContainsRegex("failed: crashes at 1, 4 \\([0-9]+ runs\\): the run was ended by SIGSEGV"));
}

TEST_F(Tool, SaysWhyNothingCouldBeMeasuredAndBeginsAnewInItsPlace) {
  const std::string measure =
      "measure --program '" MILEAGE_ODD_PROGRAM "' --counts 1 --blocks 1 --frames 3 -o none.study.jsonl";
  const Ran ran = run(measure + " --variants crashes");
  EXPECT_EQ(ran.code, 5);
  EXPECT_THAT(ran.err, testing::ContainsRegex(
                           "nothing could be measured\n! failed: crashes at 1.*: the run was ended by SIGSEGV"));
  EXPECT_THAT(run("capacity none.study.jsonl").err,
              HasSubstr("no finished run to answer from; the run was ended by SIGSEGV"));
  EXPECT_EQ(run(measure + " --variants behaves").code, 4) << "of another plan";
  EXPECT_THAT(run(measure + " --variants crashes").err, testing::Not(HasSubstr("continuing after")));
}

/// Half a minute at most.
std::string wait_for_runs(int runs) {
  return "for i in $(seq 300); do [ \"$(cat long.study.jsonl 2>/dev/null | wc -l)\" -gt " + std::to_string(runs) +
         " ] && break; sleep 0.1; done; ";
}

TEST_F(Tool, CtrlCEndsCleanlyAndAnswersFromWhatThereIs) {
  const Ran ran =
      run("measure --scenario drift --variants objects --counts 1k,2k --blocks 500 -o long.study.jsonl & "
          "pid=$!; " +
          wait_for_runs(8) + "kill -INT $pid; wait $pid");
  EXPECT_EQ(ran.code, 130) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("stopped before the plan was done"));
  EXPECT_GT(read_study(folder_ / "long.study.jsonl").runs.size(), 4U);
}

const char* const long_study =
    "measure --scenario drift --variants objects,jobs --counts 500,1k,2k --blocks 12 --frames 5 --budget 0.2ms "
    "-o long.study.jsonl";

TEST_F(Tool, GoesOnAfterAKillAndRefusesASecondWriter) {
  const std::string program = "'" MILEAGE_PROGRAM "' ";
  const Ran killed = run_in(folder_.path(), program + long_study + " & pid=$!; " + wait_for_runs(14) + program +
                                                long_study + "; echo second $?; kill -9 $pid; wait $pid");
  EXPECT_THAT(killed.out, HasSubstr("second 4"));
  EXPECT_THAT(killed.err, HasSubstr("another process is measuring into this file"));
  const std::size_t before = read_study(folder_ / "long.study.jsonl").runs.size();
  EXPECT_GT(before, 10U);
  const std::string begun = read_text(folder_ / "long.study.jsonl");
  write_text(folder_ / "long.study.jsonl", begun.substr(0, begun.size() - 25));  // Killed while it wrote.

  const Ran rest = run(long_study);
  EXPECT_EQ(rest.code, 0) << rest.err;
  EXPECT_THAT(rest.err, HasSubstr("continuing after " + std::to_string(before - 1) + " runs"));
  const Study study = read_study(folder_ / "long.study.jsonl");
  EXPECT_TRUE(study.warnings.empty());
  for (std::size_t i = 0; i < study.runs.size(); ++i) EXPECT_EQ(study.runs[i].order, static_cast<int>(i));
  EXPECT_THAT(rest.out, HasSubstr("12 blocks"));

  const Ran other = run(std::string(long_study) + " --seed 9");
  EXPECT_EQ(other.code, 4);
  EXPECT_THAT(other.err, HasSubstr("seed is 1 in the file, 9 now"));
}

TEST_F(Tool, MeasuresInItsOwnProcessForADebugger) {
  const Ran ran =
      run("measure --scenario drift --variants columns --counts 10,20 --blocks 1 --frames 3 --same-process --json -o "
          "x.study.jsonl");
  EXPECT_EQ(ran.code, 0) << ran.err;
  EXPECT_GE(json::parse(ran.out)["runs_kept"], 1);
}

TEST_F(Tool, MachineTellsWhatItIsAndHowQuiet) {
  const Ran text = run("machine");
  for (const char* word : {"cores", "probe", "disturbed", "load"}) EXPECT_THAT(text.out, HasSubstr(word));
  const json facts = json::parse(run("machine --json").out);
  EXPECT_GT(facts["full_speed_ns"], 0);
  EXPECT_GE(facts["disturbed_share"], 0);
  EXPECT_LE(facts["disturbed_share"], 1);
}

TEST_F(Tool, CurveShowsWhereTheTimeGoes) {
  const json curve = json::parse(run("curve '" + demo_study + "' --json").out);
  ASSERT_FALSE(curve["parts"].empty());
  std::size_t frames = 0;
  for (const json& row : curve["parts"]) {
    frames += row["part"] == "frame";
    // Frames of microseconds are shorter than readings around them.
    if (row["part"] == "main thread" && row["amount"] > 0.1)
      EXPECT_LE(row["share"], 1.05) << "no thread is busier than its frame is long";
    if (row["part"] == "cores used") EXPECT_LE(row["amount"], 2.1) << "recorded on two cores";
    if (row["part"] == "counter updates") EXPECT_EQ(row["amount"], row["count"]) << "every lantern once per frame";
  }
  EXPECT_EQ(frames, curve["points"].size());
  EXPECT_THAT(run("curve '" + demo_study + "' --parts").out, ContainsRegex("main thread +[0-9.]+ +ms +100 %"));
}

TEST_F(Tool, EveryAnsweringVerbReadsTheDemoStudy) {
  for (const std::string verb : {"curve", "capacity", "breakeven", "choose"}) {
    const Ran text = run(verb + " '" + demo_study + "'");
    EXPECT_EQ(text.code, 0) << text.err;
    EXPECT_THAT(text.out, HasSubstr("drift.study.jsonl"));
    EXPECT_EQ(text.err, "");
    const json answer = json::parse(run(verb + " '" + demo_study + "' --json").out);
    EXPECT_EQ(answer["verb"], verb);
    EXPECT_EQ(answer["axis"], "count");
  }
}

TEST_F(Tool, CapacityTakesSeveralBudgetsAndAReserve) {
  const json answer = json::parse(run("capacity '" + demo_study + "' --budget 60hz,30hz --reserve 5ms --json").out);
  const std::size_t series = json::parse(run("curve '" + demo_study + "' --json").out)["curves"].size();
  ASSERT_EQ(answer["capacities"].size(), 2 * series) << "two budgets";
  EXPECT_NEAR(answer["capacities"][0]["budget_ms"].get<double>(), 1000.0 / 60 - 5, 1e-9);
  const std::size_t next_budget = answer["capacities"].size() / 2;
  EXPECT_EQ(answer["capacities"][0]["series"], answer["capacities"][next_budget]["series"]);
  EXPECT_LT(answer["capacities"][0]["capacity"], answer["capacities"][next_budget]["capacity"]);
  EXPECT_TRUE(answer["capacities"][0].contains("capacity_p99"));
}

TEST_F(Tool, TheReadmeShowsWhatTheDemoStudySays) {
  const std::string readme = read_text(MILEAGE_SOURCE_DIR "/README.md");
  const std::string capacities = run("capacity '" + demo_study + "'").out;
  EXPECT_THAT(readme, HasSubstr(capacities.substr(0, capacities.rfind("\n\n"))));
  const std::string pairs = run("breakeven '" + demo_study + "'").out;
  EXPECT_THAT(readme, HasSubstr(pairs.substr(0, pairs.find("\n\nCurves"))));
}

TEST_F(Tool, BreakEvenLooksAtThePairsAskedFor) {
  const json answer = json::parse(run("breakeven '" + demo_study + "' --between objects,jobs --json").out);
  EXPECT_EQ(answer["crossings"].size() + answer["no_crossing"].size(), 1U);
}

TEST_F(Tool, RatiosAreDrawnWhereAFigureIsAskedFor) {
  for (const char* verb : {"breakeven", "curve --baseline columns"}) {
    std::filesystem::remove(folder_ / "ratio.png");
    const Ran ran = run(std::string(verb) + " '" + demo_study + "' --figure ratio.png");
    EXPECT_EQ(ran.code, 0) << ran.err;
    EXPECT_THAT(ran.out, HasSubstr("written: ratio.png\n"));
    EXPECT_EQ(read_text(folder_ / "ratio.png").substr(1, 3), "PNG");
  }
  EXPECT_EQ(run("breakeven '" + demo_study + "' --figure ratio.gif").code, 2);
  EXPECT_EQ(run("breakeven '" + demo_study + "' '" + demo_study + "' --figure ratio.png").code, 2);
}

TEST_F(Tool, CostStatesWhatFitsAndWhatIsSavedAtGivenCounts) {
  const json answer = json::parse(run("cost '" + demo_study + "' --at 3k,30k --json").out);
  EXPECT_EQ(answer["costs"][0]["count"], 3000);
  EXPECT_EQ(answer["costs"][0]["fit"], "fits");
  const Ran ran = run("cost '" + demo_study + "' --at 30k --budget 1ms");
  EXPECT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(ran.out, testing::StartsWith("At 30k lanterns: "));
  EXPECT_THAT(ran.out, HasSubstr("over by "));
  EXPECT_THAT(ran.out, Not(HasSubstr("Linux"))) << "the machine is named with --more";
  EXPECT_THAT(run("cost '" + demo_study + "' --at 30k --more").out, HasSubstr("Linux"));
}

TEST_F(Tool, AtOneCountMeasuresAndAnswersWhatAFrameCostsThere) {
  const Ran ran =
      run("measure --scenario drift --variants objects,columns --counts 2k --blocks 3 --frames 3 -o one.study.jsonl");
  ASSERT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(ran.out, testing::StartsWith("At 2k lanterns: "));
  EXPECT_THAT(ran.out, HasSubstr("  mileage cost --more one.study.jsonl\n"));
  for (const mileage::Run& run : read_study(folder_ / "one.study.jsonl").runs)
    if (run.block >= 0) EXPECT_EQ(run.count, 2000);
  for (const char* verb : {"curve", "capacity", "breakeven", "choose", "cost"}) {
    const Ran answered = run(std::string(verb) + " one.study.jsonl");
    EXPECT_EQ(answered.code, 0) << verb;
    EXPECT_THAT(answered.out, Not(HasSubstr("?"))) << verb;
    EXPECT_THAT(answered.out, Not(ContainsRegex("[ (]0 to 0[ )]"))) << verb;
  }
}

TEST_F(Tool, CapacityStatesTheHeadroomAtACount) {
  const std::string arguments = " '" + demo_study + "' --budget 60hz --reserve 9ms --at 20k";
  EXPECT_THAT(run("capacity" + arguments).out, HasSubstr("of the budget"));
  const json answer = json::parse(run("capacity" + arguments + " --json").out);
  ASSERT_FALSE(answer["headroom"].empty());
  for (const json& row : answer["headroom"]) {
    EXPECT_NEAR(row["ms"].get<double>() + row["left_ms"].get<double>(), 1000.0 / 60 - 9, 1e-9);
    EXPECT_LT(row["ms_low"], row["ms"]);
    EXPECT_GT(row["ms_high"], row["ms"]);
  }
}

TEST_F(Tool, CapacitiesOfSeveralStudiesStandSideBySide) {
  const Ran ran = run("capacity '" + demo_study + "' '" + demo_study + "'");
  EXPECT_EQ(ran.code, 0) << ran.err;
  for (const char* column : {"study", "2 cores", "variant", "for 99 % of frames"})
    EXPECT_THAT(ran.out, HasSubstr(column));
  EXPECT_THAT(ran.out, ContainsRegex("\ndrift.study.jsonl: .*, 2 cores.*\n")) << "each on its machine";
  const json one = json::parse(run("capacity '" + demo_study + "' --json").out)["capacities"];
  const json two = json::parse(run("capacity '" + demo_study + "' '" + demo_study + "' --json").out)["capacities"];
  ASSERT_EQ(two.size(), 2 * one.size());
  for (std::size_t i = 0; i < two.size(); ++i) {
    EXPECT_EQ(two[i]["study"], "drift.study.jsonl");
    EXPECT_EQ(two[i]["capacity"], one[i % one.size()]["capacity"]);
  }
}

TEST_F(Tool, ChooseAnswersForTheReadersOwnCountFirst) {
  const std::string arguments = " '" + demo_study + "' --at 3k,100k --reserve 9ms --min-saving 2%";
  const Ran text = run("choose --more" + arguments);
  EXPECT_THAT(text.out, testing::StartsWith("At 3k lanterns stay with objects"));
  EXPECT_THAT(text.out, HasSubstr("One variant everywhere"));
  const json answer = json::parse(run("choose" + arguments + " --json").out);
  ASSERT_FALSE(answer["choices"].empty());
  for (const json& choice : answer["choices"]) {
    EXPECT_LE(choice["from"], choice["to"]);
    EXPECT_TRUE(choice.contains("saves_ms"));
  }
  EXPECT_EQ(answer["advice"][0]["count"], 3000);
  EXPECT_FALSE(answer["one_for_all"].empty());
}

TEST_F(Tool, CurveHoldsVariantsAgainstOne) {
  const std::string arguments = " '" + demo_study + "' --baseline objects";
  EXPECT_THAT(run("curve" + arguments).out, HasSubstr("columns relative to objects"));
  const json answer = json::parse(run("curve" + arguments + " --json").out);
  ASSERT_FALSE(answer["relative"].empty());
  for (const json& row : answer["relative"]) EXPECT_GT(row["relative"], 0);
  EXPECT_EQ(run("curve '" + demo_study + "' --baseline objets").code, 2);
}

TEST_F(Tool, AnotherAxisThanTheCount) {
  ASSERT_EQ(run("measure --scenario drift --variants columns --knob work=1,2,4,8 --counts 500 --blocks 3 --frames 5 "
                "--no-refine -o work.study.jsonl")
                .code,
            0);
  const json curve = json::parse(run("curve work.study.jsonl --axis work --json").out);
  EXPECT_EQ(curve["axis"], "work");
  ASSERT_EQ(curve["curves"].size(), 1U);
  EXPECT_EQ(curve["points"].size(), 4U);
  EXPECT_EQ(curve["points"][3]["work"], 8);
  EXPECT_EQ(run("capacity work.study.jsonl --axis work --budget 1ms").code, 0);
  EXPECT_EQ(json::parse(run("curve work.study.jsonl --axis updates --json").out)["axis"], "updates");
  const Ran unknown = run("curve work.study.jsonl --axis wrk");
  EXPECT_EQ(unknown.code, 2);
  EXPECT_THAT(unknown.err, HasSubstr("did you mean work?"));
}

TEST_F(Tool, ImportsATableAndAnswersFromIt) {
  std::string table = "variant,count,run,frame_ms\n";
  for (const int count : {1000, 2000, 4000, 8000, 16'000, 32'000})
    for (int frame = 0; frame < 12; ++frame) {
      table += "plain," + std::to_string(count) + ",1," + std::to_string(1e-3 * count + 0.001 * frame) + "\n";
      table += "packed," + std::to_string(count) + ",1," + std::to_string(4 + 1e-4 * count + 0.001 * frame) + "\n";
    }
  write_text(folder_ / "night.csv", table);
  const Ran imported = run("import night.csv --entities lanterns");
  ASSERT_EQ(imported.code, 0) << imported.err;
  EXPECT_THAT(imported.out, HasSubstr("imported 144 frames, 12 runs, 2 variants at 6 counts."));
  const json capacity = json::parse(run("capacity night.study.jsonl --json").out);
  EXPECT_NEAR(capacity["capacities"][0]["capacity"].get<double>(), 16'660, 100);
  EXPECT_GT(capacity["capacities"][0]["capacity_low"], 12'000);
  EXPECT_LT(capacity["capacities"][0]["capacity_low"], 15'000);
  EXPECT_THAT(capacity["warnings"].dump(), HasSubstr("intervals assume that runs differ"));
  const json pair = json::parse(run("breakeven night.study.jsonl --json").out);
  ASSERT_EQ(pair["crossings"].size(), 1U);
  EXPECT_NEAR(pair["crossings"][0]["count"].get<double>(), 4444, 450);
  for (const std::string verb : {"curve", "choose", "report"})
    EXPECT_EQ(run(verb + " night.study.jsonl").code, 0) << verb;
  EXPECT_EQ(run("import night.csv").code, 4);
}

TEST_F(Tool, AnswersAreAsWideAsTheTerminal) {
  const auto longest = [](const std::string& text) {
    std::size_t longest = 0;
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);) longest = std::max(longest, line.size());
    return longest;
  };
  const std::string told = run("breakeven '" + demo_study + "'").out;
  const auto breakeven_in = [&](const char* columns) {
    return run_in(folder_.path(), std::string(columns) + " '" MILEAGE_PROGRAM "' breakeven '" + demo_study + "'").out;
  };
  EXPECT_LE(longest(breakeven_in("COLUMNS=60")), 60U);
  EXPECT_LE(longest(breakeven_in("COLUMNS=")), 100U);
  EXPECT_THAT(told, Not(HasSubstr("\033"))) << "no terminal, no colour";
}

TEST_F(Tool, ExportsWhatItCanImportAgain) {
  ASSERT_EQ(run("export '" + demo_study + "' -o out").code, 0);
  EXPECT_THAT(read_text(folder_ / "out.summaries.csv"), HasSubstr("series,count,ms,ms_low,ms_high,each,runs\nobjects"));
  const Ran back = run("import out.frames.csv -o back.study.jsonl");
  EXPECT_EQ(back.code, 0) << back.err;
  EXPECT_EQ(json::parse(run("capacity back.study.jsonl --json").out),
            json::parse(run("capacity '" + demo_study + "' --json").out));
  EXPECT_EQ(run("export '" + demo_study + "' -o out").code, 4);
}

TEST_F(Tool, ReadsAStudyThatWasCutOffWithAWarning) {
  const std::string study = read_text(demo_study);
  write_text(folder_ / "cut.study.jsonl", study.substr(0, study.size() - 40));
  const Ran ran = run("capacity cut.study.jsonl");
  EXPECT_EQ(ran.code, 0);
  EXPECT_THAT(ran.out, HasSubstr("is incomplete and was skipped"));
}

TEST_F(Tool, ReportWritesPageAndFigures) {
  EXPECT_EQ(run("report '" + demo_study + "'").code, 0);
  EXPECT_THAT(read_text(folder_ / "drift.html"), HasSubstr("</svg>"));
  EXPECT_EQ(run("report '" + demo_study + "' --figure cost.png").code, 0);
  EXPECT_EQ(read_text(folder_ / "cost.png").substr(1, 3), "PNG");
  const json answer = json::parse(run("report '" + demo_study + "' --json").out);
  for (const char* part : {"capacities", "pays_off", "crossings", "costs", "curves", "choices"})
    EXPECT_TRUE(answer.contains(part)) << part;
}

TEST_F(Tool, ReportSaysWhenGnuplotIsMissing) {
  const Ran ran =
      run_in(folder_.path(), "PATH=/nowhere '" MILEAGE_PROGRAM "' report '" + demo_study + "' --figure cost.png");
  EXPECT_EQ(ran.code, 4);
  EXPECT_THAT(ran.err, HasSubstr("gnuplot, which draws the figures, cannot be started"));
}

TEST_F(Tool, DemoLeavesStudyFigureAndPage) {
  const Ran ran = run("demo --time 12s");
  ASSERT_EQ(ran.code, 0) << ran.err;
  for (const char* part : {"capacity", "Pays off (saves more than", "| objects ", "written: mileage-demo/drift.html"})
    EXPECT_THAT(ran.out, HasSubstr(part));
  for (const char* file : {"drift.study.jsonl", "drift.png", "drift.html"})
    EXPECT_TRUE(std::filesystem::exists(folder_ / "mileage-demo" / file)) << file;
}

}  // namespace
}  // namespace mileage
