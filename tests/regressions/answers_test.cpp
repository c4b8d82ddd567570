#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

#include "measure/loop/plan.h"
#include "study/study_file.h"
#include "support/made_studies.h"
#include "support/reports.h"
#include "support/scratch.h"
#include "views/views.h"
#include "views/answer_json.h"
#include "views/terminal.h"

namespace mileage {
namespace {

using testing::Each;
using testing::HasSubstr;
using testing::Not;
using testing_support::Ran;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

made::Setting setting_of(int blocks, std::vector<std::int64_t> counts) {
  made::Setting setting;
  setting.truths = {{"plain", [](double n) { return 1e-3 * n; }}};
  setting.counts = std::move(counts);
  setting.blocks = blocks;
  setting.run_noise = 0.02;
  return setting;
}

std::string law_words(const Report& report) { return answer_text(growth_view(report.about, report.growth)); }

Json first_curve(const Report& report) {
  Json json;
  add_answer_json(json, growth_view(report.about, report.growth));
  return json["curves"][0];
}

TEST(Laws, AreNotNamedWhereAnyWouldFit) {
  // Two blocks far apart: any law fits.
  made::Setting setting = setting_of(2, made::counts_between(1000, 180'000, 9));
  setting.block_noise = 3;
  setting.run_noise = 2;
  const Report report = report_of(made::study_of(setting));
  EXPECT_TRUE(report.growth.series.front().names.empty());
  EXPECT_THAT(law_words(report), HasSubstr("not named: known no better than 10 %"));
  EXPECT_EQ(first_curve(report)["law_missing"], "not named: known no better than 10 %");
}

TEST(Laws, AreNotNamedAtFewerThanThreeCounts) {
  EXPECT_THAT(law_words(report_of(made::study_of(setting_of(5, {100, 200})))),
              HasSubstr("not named: fewer than three counts"));
  EXPECT_THAT(law_words(report_of(made::study_of(setting_of(3, made::counts_between(100, 10'000, 6))))),
              HasSubstr("linear"));
}

TEST(Unknown, IsSaidOfCommandsAndNeverAQuietZero) {
  const ScratchFolder folder;
  write_text(folder / "odd.toml",
             "counts = [10, 20, 40]\nblocks = 3\nno-refine = true\n[variant.plain]\n"
             "run = [\"awk\", \"BEGIN { print \\\"frame_ms\\\"; for (i = 0; i < {frames}; ++i) print 1 + (i % 4) / 100 "
             "}\"]\n");
  ASSERT_EQ(run_in(folder.path(), "'" MILEAGE_PROGRAM "' measure odd.toml -o odd.study.jsonl").code, 0);
  const std::string parts = run_in(folder.path(), "'" MILEAGE_PROGRAM "' curve odd.study.jsonl --parts").out;
  EXPECT_THAT(parts, Not(HasSubstr("main thread")));
  EXPECT_THAT(parts, Not(testing::ContainsRegex(" 0  bytes")));
  EXPECT_THAT(parts, testing::ContainsRegex("cores used, set-up included +0?[0-9.]+"));
}

TEST(Unknown, IsSaidOfASingleCount) {
  const Report report = report_of(made::study_of(setting_of(5, {100})));
  EXPECT_FALSE(report.growth.series.front().exponent_at_min);
  EXPECT_TRUE(first_curve(report)["exponent"].is_null());
}

TEST(Unknown, SetUpIsSaidOfTablesWithoutIt) {
  const ScratchFolder folder;
  std::string table = "variant,count,run,frame_ms\n";
  for (const int count : {100, 200, 400, 800})
    for (const char* variant : {"a", "b"})
      table += std::string(variant) + "," + std::to_string(count) + ",1," + std::to_string(count * 1e-3) + "\n";
  write_text(folder / "t.csv", table);
  ASSERT_EQ(run_in(folder.path(), "'" MILEAGE_PROGRAM "' import t.csv -o t.study.jsonl").code, 0);
  const auto curves =
      nlohmann::json::parse(run_in(folder.path(), "'" MILEAGE_PROGRAM "' curve t.study.jsonl --json").out)["curves"];
  EXPECT_TRUE(curves[0]["setup_ms_at_max"].is_null());
  const auto costs = nlohmann::json::parse(
      run_in(folder.path(), "'" MILEAGE_PROGRAM "' cost t.study.jsonl --at 200 --json").out)["costs"];
  ASSERT_FALSE(costs.empty());
  for (const auto& cost : costs) EXPECT_TRUE(cost["setup_ms"].is_null());
}

TEST(Unknown, LoadIsSaidOfRecordings) {
  Study study = made::study_of(setting_of(5, {100, 200, 400}));
  const Report report = report_of(study);
  EXPECT_FALSE(report.about.quiet.busy_cores);
  for (mileage::Run& run : study.runs) run.yardstick = YardstickReading{3, 20, 100, 100, 100};
  for (const std::string& line : condition_lines(report_of(study).about)) EXPECT_THAT(line, Not(HasSubstr("busy")));
}

Study with_memory(double driver, double each, double first_half, double second_half, int growing_runs) {
  Study study = made::study_of(setting_of(4, {100, 1000, 10'000}));
  int grown = 0;
  for (mileage::Run& run : study.runs) {
    const double built = 5e6 + driver + each * static_cast<double>(run.count);
    const bool grows = grown++ % 4 < growing_runs;
    run.memory = {
        5e6,        built, built, built + (grows ? first_half : 0), built + (grows ? first_half + second_half : 0),
        built + 1e7};
  }
  return study;
}

TEST(Memory, OfAWorldIsWhatIsAboveTheSmallestOne) {
  const Report report = report_of(with_memory(80e6, 72, 0, 0, 0));
  const auto& details = report.parts.series.front().cells;
  EXPECT_FALSE(details[0].bytes_per_entity);
  EXPECT_NEAR(*details[2].bytes_per_entity, 72, 1e-6);
}

TEST(Memory, GrowsOnlyWhereItDoesSoInBothHalvesOfMostRuns) {
  const auto growth = [](const Study& study) {
    return report_of(study).parts.series.front().cells.front().growth_bytes_per_frame;
  };
  EXPECT_FALSE(growth(with_memory(0, 72, 50e6, 0, 4))) << "a cache that fills";
  EXPECT_FALSE(growth(with_memory(0, 72, 4e6, 4e6, 1))) << "one run in four";
  EXPECT_TRUE(growth(with_memory(0, 72, 4e6, 4e6, 4)));
}

}  // namespace
}  // namespace mileage
