#include <cstdlib>
#include <set>

#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

#include "study/study_file.h"
#include "support/made_studies.h"
#include "support/scratch.h"
#include "types/error.h"
#include "support/reports.h"

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

class Messages : public testing::Test {
 protected:
  Messages() { ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1); }
  Ran run(const std::string& arguments) const { return run_in(folder_.path(), "'" MILEAGE_PROGRAM "' " + arguments); }
  /// Five blocks at six counts, as a table.
  void import(const std::vector<std::string>& names, const std::string& entities) const {
    std::string table = "variant,count,run,block,frame_ms\n";
    int take = 0;
    for (int block = 0; block < 5; ++block)
      for (int count = 1000; count <= 32'000; count *= 2)
        for (std::size_t i = 0; i < names.size(); ++i, ++take)
          for (int frame = 0; frame < 12; ++frame)
            table += "\"" + names[i] + "\"," + std::to_string(count) + "," + std::to_string(take) + "," +
                     std::to_string(block) + "," +
                     std::to_string(count * 6e-4 * (1 + 0.3 * static_cast<double>(i)) *
                                    (1 + 0.01 * ((block * 7 + frame * 3) % 5))) +
                     "\n";
    write_text(folder_ / "odd.csv", table);
    const Ran ran = run("import odd.csv --entities " + entities + " -o odd.study.jsonl");
    ASSERT_EQ(ran.code, 0) << ran.err;
  }
  ScratchFolder folder_;
};

const std::vector<std::string> hostile{"jobs_v2", "{/=40 big}", "a\x1b[31mred\x07"};

TEST_F(Messages, ReasonsOfLinkedProgramsHoldNoPath) {
  run("measure --program '" MILEAGE_ODD_PROGRAM
      "' --variants throws-a-path --counts 1 --blocks 1 --frames 3 -o odd.study.jsonl");
  const std::string study = read_text(folder_ / "odd.study.jsonl");
  EXPECT_THAT(study, HasSubstr("cannot open wick.cfg"));
  EXPECT_THAT(study, Not(HasSubstr("/somewhere")));
}

TEST_F(Messages, NothingFromElsewhereControlsTheTerminalThePageOrAFigure) {
  import(hostile, "lanterns");
  for (const std::string verb : {"capacity", "curve", "breakeven", "choose"})
    EXPECT_THAT(run(verb + " odd.study.jsonl").out, Not(HasSubstr("\x1b"))) << verb;
  ASSERT_EQ(run("report odd.study.jsonl -o odd.html --figure odd.svg").code, 0);
  EXPECT_THAT(read_text(folder_ / "odd.html"), Not(HasSubstr("\x1b")));
  const std::string figure = read_text(folder_ / "odd.svg");
  EXPECT_THAT(figure, Not(HasSubstr("\x1b")));
  EXPECT_THAT(figure, HasSubstr("jobs_v2"));
  EXPECT_THAT(figure, HasSubstr("{/=40 big}")) << "a name is no markup";
  write_text(folder_ / "\x1b[2J.toml", "counts = \x1b[31m\n");
  EXPECT_THAT(run("measure '\x1b[2J.toml'").err, Not(HasSubstr("\x1b")));
}

TEST_F(Messages, WordsOfCommandsAreCleanedToo) {
  write_text(folder_ / "odd.sh", "printf '\\033]0;owned\\007\\n' >&2\nexit 1\n");
  write_text(folder_ / "odd.toml", "counts = [100]\nblocks = 1\n[variant.odd]\nrun = [\"sh\", \"odd.sh\"]\n");
  const Ran ran = run("measure odd.toml -o odd.study.jsonl");
  EXPECT_THAT(ran.err, HasSubstr("last output: ?]0;owned?"));
  EXPECT_THAT(ran.err + ran.out, Not(HasSubstr("\x1b")));
}

TEST_F(Messages, CellsThatLookLikeFormulasAreTextInACsv) {
  import({"=1+2", "@x", "-y"}, "lanterns");
  ASSERT_EQ(run("export odd.study.jsonl -o out").code, 0);
  EXPECT_THAT(read_text(folder_ / "out.summaries.csv"), testing::AllOf(HasSubstr("\n'=1+2,"), HasSubstr("\n'@x,"),
                                                                       HasSubstr("\n'-y,"), Not(HasSubstr("\n=1+2"))));
}

TEST_F(Messages, OneOfManyIsWordedAsTheFieldWould) {
  import({"plain"}, "boxes");
  EXPECT_THAT(run("curve odd.study.jsonl").out, testing::AllOf(HasSubstr("ns/box at"), Not(HasSubstr("boxe at"))));
  std::filesystem::remove(folder_ / "odd.study.jsonl");
  import({"plain"}, "entities");
  EXPECT_THAT(run("curve odd.study.jsonl").out,
              testing::AllOf(HasSubstr("ns/entity at"), Not(HasSubstr("entitie at"))));
}

TEST_F(Messages, AScenarioMayStateItsSingular) {
  write_text(
      folder_ / "odd.toml",
      "entities = \"lice\"\nentity = \"louse\"\ncounts = [10, 20, 30]\nblocks = 3\nno-refine = true\n[variant.plain]\n"
      "run = [\"awk\", \"BEGIN { print \\\"frame_ms\\\"; for (i = 0; i < {frames}; ++i) print 1 + (i % 4) / 100 "
      "}\"]\n");
  ASSERT_EQ(run("measure odd.toml -o odd.study.jsonl").code, 0);
  EXPECT_THAT(run("curve odd.study.jsonl").out, HasSubstr("ns/louse at"));
}

TEST_F(Messages, LongValuesAreCut) {
  write_text(folder_ / "odd.csv", "count,frame_ms\n1," + std::string(20'000'000, 'x') + "\n");
  const Ran ran = run("import odd.csv -o odd.study.jsonl");
  EXPECT_EQ(ran.code, 3);
  EXPECT_LT(ran.err.size(), 1000U);
  EXPECT_THAT(ran.err, HasSubstr("odd.csv:2: frame_ms: not a number"));
}

TEST_F(Messages, FailuresOfAMeasurementStandInItsJson) {
  const Ran ran =
      run("measure --program '" MILEAGE_ODD_PROGRAM
          "' --variants behaves,crashes --counts 1 --blocks 1 --frames 3 --no-refine --json -o odd.study.jsonl");
  const json told = json::parse(ran.out);
  EXPECT_GT(told["runs_failed"], 0);
  ASSERT_EQ(told["failures"].size(), told["runs_failed"].get<std::size_t>());
  EXPECT_THAT(told["failures"][0]["reason"].get<std::string>(), HasSubstr("SIGSEGV"));
}

TEST_F(Messages, ARunDuringWhichTheMachineStoodStillIsMadeAgain) {
  write_text(folder_ / "night.toml",
             "counts = [10, 20, 30]\nblocks = 3\nno-refine = true\ntime = \"10s\"\n[variant.plain]\n"
             "run = [\"sh\", \"-c\", '''echo >> runs; [ $(wc -l < runs) = 8 ] && exec sleep 20\n"
             "echo frame_ms; seq {frames} | awk '{ print 1 + ($1 % 4) / 100 }' ''']\n");
  const Ran ran = run("measure night.toml -o night.study.jsonl");
  EXPECT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("3 blocks"));
  EXPECT_THAT(ran.out, HasSubstr("1 failed run was repeated."));
  EXPECT_THAT(ran.out, HasSubstr("failed: plain at"));
  std::set<std::pair<int, std::int64_t>> cells;
  for (const mileage::Run& run : read_study(folder_ / "night.study.jsonl").runs)
    if (run.block >= 0 && run.status != RunStatus::failed) cells.emplace(run.block, run.count);
  EXPECT_EQ(cells.size(), 9U) << "none is lacking";
}

TEST_F(Messages, SuggestedCommandsNameThePlanAndQuoteWhatAShellNeeds) {
  write_text(folder_ / "my night.toml",
             "counts = [10, 20, 30]\nblocks = 1\nno-refine = true\n[variant.plain]\n"
             "run = [\"awk\", \"BEGIN { print \\\"frame_ms\\\"; for (i = 0; i < {frames}; ++i) print 1 + (i % 4) / 100 "
             "}\"]\n");
  ASSERT_EQ(run("measure 'my night.toml' -o 'my night.study.jsonl'").code, 0);
  const Ran ran = run("capacity 'my night.study.jsonl'");
  EXPECT_THAT(ran.out, HasSubstr("mileage measure 'my night.toml' --variants plain"));
  EXPECT_THAT(ran.out, Not(HasSubstr("PLAN.toml")));
}

TEST(MessagesOfWarnings, NoOutcomeIsNotWordedAsANumber) {
  made::Setting setting;
  Knobs calm;
  calm.set("wind", 0.0);
  setting.truths = {{"linked", [](double n) { return 1e-3 * n; }, calm},
                    {"columns", [](double n) { return 1e-4 * n; }, calm}};
  setting.counts = {100, 200, 400};
  Study study = made::study_of(setting);
  for (const char* variant : {"linked", "columns"}) {
    mileage::Run check;
    check.series = {variant, calm};
    check.count = 100;
    check.status = RunStatus::check;
    check.block = -1;
    if (std::string(variant) == "linked") check.outcome.state("mean", 0.367, 1e-6);
    study.runs.push_back(check);
  }
  const auto warnings = report_of(study).about.warnings;
  EXPECT_THAT(warnings, testing::Contains(HasSubstr("it states no mean, expected 0.367")));
  EXPECT_THAT(warnings, testing::Each(Not(HasSubstr("nan"))));
}

TEST_F(Messages, ACommandThatPrintsProseIsToldSo) {
  write_text(folder_ / "odd.toml",
             "counts = [100]\nblocks = 1\n[variant.odd]\nrun = [\"echo\", \"the\", \"night\", \"is\", \"long\"]\n");
  EXPECT_THAT(run("measure odd.toml -o odd.study.jsonl").err,
              HasSubstr("printed something else than a frame table, and its command names no {table}"));
}

}  // namespace
}  // namespace mileage
