#include <cmath>

#include <gmock/gmock.h>

#include "support/made_studies.h"
#include "support/reports.h"
#include "views/views.h"

namespace mileage {
namespace {

using testing::Contains;
using testing::HasSubstr;
using testing::Not;

made::Setting two_variants(double ratio, std::uint64_t seed) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 0.02 + 5e-5 * n; }},
                    {"columns", [=](double n) { return (0.02 + 5e-5 * n) / ratio; }}};
  setting.counts = made::counts_between(1000, 500'000, 8);
  setting.run_noise = 0.03;
  setting.frame_noise = 0.02;
  setting.seed = seed;
  return setting;
}

constexpr int studies_of_pairs = 40;  // bench_coverage has more.

/// Number of studies.
struct Announced {
  int break_even = 0, worth = 0, choice = 0, cost = 0;
};

Announced announced_of(double ratio) {
  Announced announced;
  for (std::uint64_t seed = 1; seed <= studies_of_pairs; ++seed) {
    const Report report = report_of(made::study_of(two_variants(ratio, seed)));
    const ComparedPair& pair = report.break_evens.pairs.front();
    announced.break_even += pair.answer.faster || !pair.answer.break_evens.empty();
    announced.worth += pair.worth.has_value();
    const auto& stretches = report.choices.groups.front().stretches;
    announced.choice += std::any_of(stretches.begin(), stretches.end(), [](const auto& one) { return one.use != 0; });
    bool is_known = false;
    for (const PlaceCosts& place : report.costs.groups.front().places)
      for (const SeriesCost& one : place.costs) is_known = is_known || one.is_significant;
    announced.cost += is_known;
  }
  return announced;
}

TEST(Advice, AnnouncesNoDifferenceOfEqualVariants) {
  const Announced announced = announced_of(1);
  constexpr int most = studies_of_pairs / 40;  // 2.5 %
  EXPECT_LE(announced.break_even, most);
  EXPECT_LE(announced.worth, most);
  EXPECT_LE(announced.choice, most);
  EXPECT_LE(announced.cost, most);
}

TEST(Advice, AnnouncesADifferenceOf30Percent) {
  const Announced announced = announced_of(1.3);
  constexpr int fewest = studies_of_pairs * 19 / 20;
  EXPECT_GE(announced.break_even, fewest);
  EXPECT_GE(announced.worth, fewest);
  EXPECT_GE(announced.choice, fewest);
  EXPECT_GE(announced.cost, fewest);
}

Study failing_from(std::int64_t count, int every) {
  made::Setting setting = two_variants(5, 3);
  setting.truths.front().ms = [](double n) { return 5e-3 * n; };
  Study study = made::study_of(setting);
  int seen = 0;
  for (mileage::Run& run : study.runs) {
    if (run.series.variant != "columns" || run.count < count || seen++ % every != 0) continue;
    run.status = RunStatus::failed;
    run.failure = "the run was ended by SIGSEGV (Segmentation fault)";
    run.samples_ns.clear();
  }
  return study;
}

TEST(Advice, LeavesOutAVariantFromTheCountOnAtWhichItFailed) {
  const made::Setting setting = two_variants(1, 1);
  for (const int every : {1, 5}) {
    const std::int64_t fails_from = setting.counts[4];
    const Report report = report_of(failing_from(fails_from, every));
    EXPECT_EQ(report.about.series[1].fails_from, static_cast<double>(fails_from));
    for (const ChosenStretch& stretch : report.choices.groups.front().stretches)
      if (stretch.use == 1) EXPECT_LT(stretch.to, fails_from);
    for (const SeriesCapacity& one : report.capacities.capacities)
      if (one.series == 1) EXPECT_EQ(one.capacity.none, NoCapacity::within_up_to_failure);
    EXPECT_THAT(capacity_sentence(report.about, report.capacities, 1000.0 / 60), HasSubstr("(then it fails)"));
    EXPECT_THAT(capacity_sentence(report.about, report.capacities, 1000.0 / 60), HasSubstr("objects "));
    EXPECT_THAT(report.about.warnings, Contains(HasSubstr("columns is excluded at")));
  }
}

TEST(Advice, ForgivesAFailureThatWasMadeAgainRightAfter) {
  Study study = made::study_of(two_variants(5, 3));
  mileage::Run failed = study.runs[9];
  failed.status = RunStatus::failed;
  study.runs.insert(study.runs.begin() + 9, failed);
  EXPECT_FALSE(report_of(study).about.series[1].fails_from);
  EXPECT_FALSE(report_of(study).about.series[0].fails_from);
}

TEST(Advice, NamesALeakAndRefusesItsMemoryCapacity) {
  made::Setting setting = two_variants(1, 1);
  Study study = made::study_of(setting);
  for (mileage::Run& run : study.runs)
    if (run.series.variant == "columns") {
      const double grows = 64.0 * static_cast<double>(run.count * run.measured_frames());
      const double built = 5e6 + 40.0 * static_cast<double>(run.count);
      run.memory = {5e6, built, built, built + grows / 2, built + grows, built + grows};
    }
  Questions questions;
  questions.memory_bytes = 64e6;
  const Report report = report_of(study, questions);
  EXPECT_THAT(report.about.warnings, Contains(HasSubstr("columns leaks: its memory grows by 64")));
  for (const MemoryCapacity& one : report.limits.memory) {
    EXPECT_FALSE(one.at && one.series == 1);
    EXPECT_EQ(one.keeps_growing, one.series == 1);
  }
}

TEST(TwoCounts, FarApartAdmitToAllLawsThroughThem) {
  made::Setting setting;
  const auto truth = [](double n) { return 0.5 + 0.0002 * n; };
  setting.truths = {{"plain", truth}};
  setting.counts = {1200, 1'000'000};
  Questions questions;
  questions.at = {80'000};
  const Report report = report_of(made::study_of(setting), questions);
  const Capacity& capacity = report.capacities.capacities.front().capacity;
  ASSERT_TRUE(capacity.at && capacity.interval.closed());
  const double holds = (1000.0 / 60 - 0.5) / 0.0002;
  EXPECT_LT(*capacity.interval.low, holds);
  EXPECT_GT(*capacity.interval.high, holds);
  const CostReading cost = *report.costs.groups.front().places.front().costs.front().cost;
  EXPECT_LT(*cost.interval.low, truth(80'000));
  EXPECT_GT(*cost.interval.high, truth(80'000));
}

template <class Frame>
Study with_frames(Frame frame, int samples = 40) {
  made::Setting setting = two_variants(1, 1);
  setting.truths.pop_back();
  setting.samples = samples;
  Study study = made::study_of(setting);
  for (mileage::Run& run : study.runs)
    for (std::size_t i = 0; i < run.samples_ns.size(); ++i)
      run.samples_ns[i] = std::max<std::int64_t>(
          1, std::llround(static_cast<double>(run.samples_ns[i]) * frame(i, run.samples_ns.size())));
  return study;
}

double cost_at(const Report& report, double count) {
  for (const PlaceCosts& place : report.costs.groups.front().places)
    if (place.x == count) return place.costs.front().cost->ms;
  return 0;
}

struct Uneven {
  const char* name;
  double (*frame)(std::size_t, std::size_t);
  double mean;
  const char* said;
};
void PrintTo(const Uneven& one, std::ostream* out) { *out << one.name; }
class UnevenFrames : public testing::TestWithParam<Uneven> {};

TEST_P(UnevenFrames, CostTheirMean) {
  const Study study = with_frames(GetParam().frame);
  Questions questions;
  questions.at = {static_cast<double>(study.head.plan.counts[3])};
  const Report report = report_of(study, questions);
  const double steady = 0.02 + 5e-5 * questions.at.front();
  EXPECT_NEAR(cost_at(report, questions.at.front()) / (steady * GetParam().mean), 1, 0.1);
  EXPECT_THAT(report.about.warnings, Contains(HasSubstr(GetParam().said)));
}

INSTANTIATE_TEST_SUITE_P(
    Kinds, UnevenFrames,
    testing::Values(Uneven{"every_second", [](std::size_t i, std::size_t) { return i % 2 == 0 ? 2.0 : 0.02; }, 1.01,
                           "of several kinds"},
                    Uneven{"every_eighth", [](std::size_t i, std::size_t) { return i % 8 == 0 ? 8.0 : 0.01; }, 1.009,
                           "of several kinds"},
                    Uneven{"one_in_20", [](std::size_t i, std::size_t) { return i % 20 == 7 ? 20.0 : 1.0; }, 1.95,
                           "of several kinds"},
                    Uneven{"climbing",
                           [](std::size_t i, std::size_t n) {
                             return 1 + 3 * static_cast<double>(i) / static_cast<double>(n - 1);
                           },
                           2.5, "slower within each run"}));

TEST(EvenFrames, AreNotCalledUneven) {
  for (const Study& study : {with_frames([](std::size_t, std::size_t) { return 1.0; }),
                             with_frames([](std::size_t i, std::size_t) { return i % 3 == 0 ? 2.2 : 1.0; }),
                             with_frames([](std::size_t i, std::size_t) { return i == 20 ? 50.0 : 1.0; }, 400)})
    EXPECT_THAT(report_of(study).about.warnings, Not(Contains(HasSubstr("its costs are means"))));
}

TEST(Sleeping, IsNotCorrectedForASlowMachine) {
  made::Setting setting;
  setting.truths = {{"sleeps", [](double) { return 4.0; }}};
  setting.counts = {1000};
  setting.blocks = 8;
  Study study = made::study_of(setting);
  study.head.full_speed_ns = 15'000;
  for (mileage::Run& run : study.runs) {
    run.yardstick = YardstickReading{3, 20, 22'000, 22'000, 15'000};
    run.processor_ms = 0.01 * 4.0 * static_cast<double>(run.measured_frames());
  }
  EXPECT_NEAR(cost_at(report_of(study), 1000), 4, 0.04);
}

TEST(Parts, AreInTheSameTimeAsTheFrame) {
  made::Setting setting = two_variants(1, 1);
  Study study = made::study_of(setting);
  study.head.full_speed_ns = 15'000;
  for (mileage::Run& run : study.runs) {
    run.yardstick = YardstickReading{3, 20, 25'000, 25'000, 15'000};
    const double frames_ms = 1e-6 * static_cast<double>(run.samples_ns.front() * run.measured_frames());
    run.phases_ms = {{"gather", 0.4 * frames_ms}, {"carry", 0.6 * frames_ms}};
  }
  const Report report = report_of(study);
  for (std::size_t series = 0; series < report.parts.series.size(); ++series)
    for (const CellDetail& cell : report.parts.series[series].cells) {
      const double sum = cell.phases_ms.at("gather") + cell.phases_ms.at("carry");
      EXPECT_NEAR(sum / cell.frame_ms, 1, 0.03);
      EXPECT_NEAR(cell.frame_ms / (0.02 + 5e-5 * cell.x), 0.7, 0.15) << "corrected";
    }
}

TEST(FewBlocks, OfACountHaveTheirOwnDegreesOfFreedom) {
  int held = 0;
  constexpr int studies = 60;
  for (std::uint64_t seed = 1; seed <= studies; ++seed) {
    made::Setting setting = two_variants(1, seed);
    setting.truths.pop_back();
    setting.blocks = 10;
    setting.block_noise = 0.03;
    Study study = made::study_of(setting);
    const std::int64_t rare = setting.counts[3];
    std::erase_if(study.runs, [&](const mileage::Run& run) { return run.count == rare && run.block % 4 != 1; });
    Questions questions;
    questions.at = {static_cast<double>(rare)};
    const CostReading cost = *report_of(study, questions).costs.groups.front().places.front().costs.front().cost;
    const double truth = 0.02 + 5e-5 * static_cast<double>(rare);
    held += *cost.interval.low < truth && truth < *cost.interval.high;
  }
  EXPECT_GE(held, 0.93 * studies);
}

}  // namespace
}  // namespace mileage
