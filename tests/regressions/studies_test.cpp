#include <cmath>

#include <gmock/gmock.h>

#include "study/study_file.h"
#include "support/made_studies.h"
#include "support/refusal.h"
#include "support/reports.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing_support::Ran;
using testing_support::read_text;
using testing_support::refusal;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

Study small_study() {
  made::Setting setting;
  setting.truths = {{"plain", [](double n) { return 1e-3 * n; }}};
  setting.counts = {100, 200, 400, 800};
  setting.blocks = 5;
  setting.run_noise = 0.02;
  Study study = made::study_of(setting);
  study.head.notes = {"made up"};
  return study;
}

std::filesystem::path write(const ScratchFolder& folder, const Study& study) {
  StudyWriter writer(folder / "x.study.jsonl", study.head);
  for (const mileage::Run& run : study.runs) writer.append(run);
  return folder / "x.study.jsonl";
}

TEST(Studies, OfAnotherPlanIsNeverDeletedEvenWhereAllRunsFailed) {
  const ScratchFolder folder;
  const std::string measure = "'" MILEAGE_PROGRAM "' measure --program '" MILEAGE_ODD_PROGRAM
                              "' --counts 1 --blocks 1 --frames 3 -o x.study.jsonl --variants ";
  EXPECT_EQ(run_in(folder.path(), measure + "crashes").code, 5);
  const std::string before = read_text(folder / "x.study.jsonl");
  const Ran other = run_in(folder.path(), measure + "behaves");
  EXPECT_EQ(other.code, 4);
  EXPECT_THAT(other.err, HasSubstr("the file holds another study, and measurements are never overwritten"));
  EXPECT_EQ(read_text(folder / "x.study.jsonl"), before);
}

TEST(Studies, ThatBeginAnewKeepTheirLock) {
  const ScratchFolder folder;
  const auto file = write(folder, small_study());
  Study found;
  StudyWriter writer(file, found);
  writer.restart(small_study().head);
  EXPECT_THAT(refusal([&] { StudyWriter second(file, found); }),
              HasSubstr("another process is measuring into this file"));
  EXPECT_TRUE(read_study(file).runs.empty());
}

TEST(Studies, CountARunThatStandsInThemTwiceOnce) {
  const ScratchFolder folder;
  const auto file = write(folder, small_study());
  const std::string text = read_text(file);
  const std::size_t runs = read_study(file).runs.size();
  const std::string run_lines = text.substr(text.find('\n') + 1);
  write_text(file, text + run_lines);
  const Study twice = read_study(file);
  EXPECT_EQ(twice.runs.size(), runs);
  EXPECT_THAT(twice.warnings, testing::ElementsAre(HasSubstr("20 runs are in it twice and count once")));
  EXPECT_EQ(report_of(twice).about.runs, runs);
}

struct Narrowed {
  const char* there;
  const char* instead;
  const char* said;
};
void PrintTo(const Narrowed& one, std::ostream* out) { *out << one.instead; }
class NumbersOutOfRange : public testing::TestWithParam<Narrowed> {};

TEST_P(NumbersOutOfRange, AreRefusedAndNotCut) {
  const ScratchFolder folder;
  const auto file = write(folder, small_study());
  std::string text = read_text(file);
  const auto at = text.find(GetParam().there);
  ASSERT_NE(at, std::string::npos);
  text.replace(at, std::string(GetParam().there).size(), GetParam().instead);
  write_text(file, text);
  EXPECT_THAT(refusal([&] { read_study(file); }), HasSubstr(GetParam().said));
}

INSTANTIATE_TEST_SUITE_P(
    Fields, NumbersOutOfRange,
    testing::Values(
        Narrowed{"\"block\":0", "\"block\":4294967296", ":2: block: out of range; found \"4294967296\""},
        Narrowed{"\"order\":0", "\"order\":-9999999999", ":2: order: out of range"},
        Narrowed{"\"frames_per_sample\":1", "\"frames_per_sample\":4294967297", ":2: frames_per_sample: out of range"},
        Narrowed{"\"seed\":1", "\"seed\":-1", ":1: seed: out of range"},
        Narrowed{"\"notes\"", "\"full_speed_ns\":-9223372036854775808,\"notes\"", ":1: full_speed_ns: out of range"},
        Narrowed{"\"count\":100", "\"count\":9223372036854775808", ":2: count: out of range"}));

TEST(Studies, AreNeverWrittenWithNumbersThatDoNotReadBack) {
  const ScratchFolder folder;
  Study study = small_study();
  const auto file = write(folder, study);
  StudyWriter writer(file, study);
  mileage::Run run = study.runs.front();
  run.counters["calls"] = HUGE_VAL;
  EXPECT_THAT(refusal([&] { writer.append(run); }), HasSubstr("counters.calls: not a finite number"));
  run = study.runs.front();
  run.setup_ms = std::nan("");
  EXPECT_THAT(refusal([&] { writer.append(run); }), HasSubstr("setup_ms: not a finite number"));
  EXPECT_EQ(read_study(file).runs.size(), study.runs.size());
  study.head.plan.budget_ms = std::nan("");
  EXPECT_THAT(refusal([&] { StudyWriter broken(folder / "y.study.jsonl", study.head); }),
              HasSubstr("plan.budget_ms: not a finite number"));
  EXPECT_FALSE(std::filesystem::exists(folder / "y.study.jsonl"));
}

class ForeignFiles : public testing::TestWithParam<const char*> {};

TEST_P(ForeignFiles, AreLeftAsTheyAre) {
  const ScratchFolder folder;
  write_text(folder / "notes.txt", GetParam());
  std::filesystem::create_symlink("notes.txt", folder / "link.txt");
  const std::string game = "printf '{\"hello\":1,\"scenario\":\"night\",\"variants\":[\"a\"]}\\n' | ";
  for (const std::string command : {game + "'" MILEAGE_PROGRAM "' drive --listen - --counts 10,20",
                                    std::string("'" MILEAGE_PROGRAM "' measure "
                                                "--scenario drift --variants columns --counts 10,20 --blocks 1")})
    for (const char* file : {"notes.txt", "link.txt"}) {
      const Ran ran = run_in(folder.path(), command + " -o " + file);
      EXPECT_EQ(ran.code, 4) << command << ran.err;
      EXPECT_EQ(read_text(folder / "notes.txt"), GetParam()) << command;
    }
}

INSTANTIATE_TEST_SUITE_P(Files, ForeignFiles,
                         testing::Values("a letter without a line feed", "a letter\nwith a cut last line",
                                         "{\"format\":\"mileage-study\",\"version\":1}\nand more"));

TEST(Studies, OfAnotherPlanKeepTheirCutLastLine) {
  const ScratchFolder folder;
  const auto file = write(folder, small_study());
  const std::string cut = read_text(file).substr(0, read_text(file).size() - 30);
  write_text(file, cut);
  const Ran ran = run_in(
      folder.path(), "'" MILEAGE_PROGRAM "' measure --scenario drift --variants columns --counts 10 -o x.study.jsonl");
  EXPECT_EQ(ran.code, 4) << ran.err;
  EXPECT_EQ(read_text(file), cut);
}

TEST(Studies, ALastLineThatOnlyLacksItsLineFeedIsKept) {
  const ScratchFolder folder;
  const Study study = small_study();
  const auto file = write(folder, study);
  const std::string text = read_text(file);
  write_text(file, text.substr(0, text.size() - 1));
  Study found;
  StudyWriter(file, found).append(study.runs.front());
  EXPECT_EQ(found.runs.size(), study.runs.size());
  EXPECT_EQ(read_text(file).substr(0, text.size()), text);
}

TEST(Studies, KilledWhileOutcomesAreComparedGoOn) {
  const ScratchFolder folder;
  const std::string measure =
      "'" MILEAGE_PROGRAM
      "' measure --scenario drift --variants objects,columns --counts 10,20 --blocks 1 -o x.study.jsonl";
  ASSERT_EQ(run_in(folder.path(), measure).code, 0);
  Study study = read_study(folder / "x.study.jsonl");
  const auto is_no_check = [](const mileage::Run& run) { return run.status != RunStatus::check; };
  const auto first = std::find_if(study.runs.begin(), study.runs.end(), is_no_check);
  study.runs.erase(first, study.runs.end());
  ASSERT_GT(study.runs.size(), 3U);
  std::filesystem::remove(folder / "x.study.jsonl");
  const std::string checks = read_text(write(folder, study));
  const Ran again = run_in(folder.path(), measure);
  EXPECT_EQ(again.code, 0) << again.err;
  EXPECT_EQ(read_text(folder / "x.study.jsonl").substr(0, checks.size()), checks);
}

TEST(Studies, AHeadOfRepeatedSeriesIsRefused) {
  const ScratchFolder folder;
  Study study = small_study();
  study.head.plan.series.assign(1000, study.head.plan.series.front());
  const auto file = write(folder, study);
  EXPECT_THAT(refusal([&] { read_study(file); }), HasSubstr(":1: series: the same series twice"));
}

TEST(Studies, AVariantWhoseCounterOverflowsCostsItsRun) {
  const ScratchFolder folder;
  const Ran ran = run_in(
      folder.path(), "'" MILEAGE_PROGRAM "' measure --program '" MILEAGE_ODD_PROGRAM
                     "' --variants behaves,overflows --counts 1 --blocks 1 --frames 3 --no-refine -o x.study.jsonl");
  EXPECT_EQ(ran.code, 1) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("failed: overflows"));
  EXPECT_GT(read_study(folder / "x.study.jsonl").runs.size(), 2U);
}

}  // namespace
}  // namespace mileage
