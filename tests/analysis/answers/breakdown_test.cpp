#include "analysis/answers/breakdown.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"
#include "types/error.h"

namespace mileage {
namespace {

double wall_ms(const mileage::Run& run) {
  double sum = 0;
  for (const std::int64_t ns : run.samples_ns) sum += static_cast<double>(ns) * 1e-6;
  return sum;
}

/// Columns take 0.02 us each; mirrored gathers for the same time, then does the same.
Study mirrored_study(double noise = 0.02) {
  Study study = made::study_of(made::setting_of(
      {{"columns", [](double n) { return 2e-5 * n; }}, {"mirrored", [](double n) { return 4e-5 * n; }}}, noise));
  for (mileage::Run& run : study.runs) {
    const double wall = wall_ms(run);
    const bool is_mirrored = run.series.variant == "mirrored";
    run.phases_ms["update"] = (is_mirrored ? 0.5 : 0.9) * wall;
    if (is_mirrored) run.phases_ms["gather"] = 0.45 * wall;
    run.thread_busy_ms = (is_mirrored ? 0.75 : 1) * wall;
    run.kernel_ms = 0;
    run.page_faults = is_mirrored ? 20.0 * static_cast<double>(run.measured_frames()) : 0;
    const auto updates = static_cast<double>(run.count * run.measured_frames());
    run.counters["updates"] = is_mirrored ? 4 * updates : updates;
  }
  return study;
}

BreakdownAnswer breakdown_at(const Study& study, std::vector<double> at,
                             std::vector<std::string> between = {"columns", "mirrored"}) {
  const AnalysedStudy analysed(study);
  Questions questions;
  questions.at = std::move(at);
  questions.between = std::move(between);
  return breakdown_answer(analysed.analysis(), questions);
}

const Part& part_called(const std::vector<Part>& parts, const std::string& name) {
  for (const Part& part : parts)
    if (part.name == name) return part;
  throw std::runtime_error("no part " + name);
}

TEST(Breakdown, PhasesAndWhatLiesInNoneAreTheWhole) {
  const PairBreakdown pair = breakdown_at(mirrored_study(), {100'000}).pairs.at(0);
  EXPECT_NEAR(pair.whole.ms, 4e-5 * pair.x - 2e-5 * pair.x, 0.03 * pair.whole.ms);
  double sum = pair.outside->ms;
  for (const Part& part : pair.phases) sum += part.ms;
  EXPECT_NEAR(sum, pair.whole.ms, 1e-9);
  EXPECT_EQ(pair.phases.front().name, "gather") << "the largest first";
  EXPECT_NEAR(pair.phases.front().ms, 0.45 * 4e-5 * pair.x, 0.03 * pair.whole.ms);
  EXPECT_NEAR(part_called(pair.phases, "update").ms, (0.5 * 4e-5 - 0.9 * 2e-5) * pair.x, 0.03 * pair.whole.ms);
  EXPECT_TRUE(pair.phases.front().is_known());
}

TEST(Breakdown, TheThreadWaitsOrWorks) {
  const PairBreakdown pair = breakdown_at(mirrored_study(), {100'000}).pairs.at(0);
  EXPECT_NEAR(part_called(pair.thread, "main thread: waiting").ms, 0.25 * 4e-5 * pair.x, 0.03 * pair.whole.ms);
  EXPECT_NEAR(part_called(pair.thread, "main thread: user").ms, (0.75 * 4e-5 - 2e-5) * pair.x, 0.05 * pair.whole.ms);
  EXPECT_NEAR(pair.page_faults->ms, 20, 1e-9);
  Study unexplained = mirrored_study();
  for (mileage::Run& run : unexplained.runs) run.thread_busy_ms.reset();
  EXPECT_TRUE(breakdown_at(unexplained, {100'000}).pairs.at(0).thread.empty());
}

TEST(Breakdown, TheVariantNamedFirstIsTheOneItIsHeldAgainst) {
  const PairBreakdown pair = breakdown_at(mirrored_study(), {100'000}, {"mirrored", "columns"}).pairs.at(0);
  EXPECT_LT(pair.whole.ms, 0);
  EXPECT_LT(part_called(pair.phases, "gather").ms, 0);
  EXPECT_THROW(breakdown_at(mirrored_study(), {}, {"columns", "nobody"}), Error);
  EXPECT_TRUE(breakdown_at(mirrored_study(), {}, {}).empty()) << "nobody asked for a pair";
}

TEST(Breakdown, CountersMissWhatIsExpectedOfThem) {
  Study study = mirrored_study();
  study.head.scenario.expects = {{"updates", 1}};
  const CounterPair updates = breakdown_at(study, {100'000}).pairs.at(0).counters.at(0);
  EXPECT_NEAR(*updates.of_second, 4, 1e-9);
  EXPECT_TRUE(updates.second_is_off);
  EXPECT_FALSE(updates.first_is_off);
}

TEST(Breakdown, WithoutAPhaseAFrameWouldTakeTheRestAndGoFarther) {
  const BreakdownAnswer answer = breakdown_at(mirrored_study(), {100'000});
  const auto gather = std::find_if(answer.floors.begin(), answer.floors.end(),
                                   [](const PhaseFloor& one) { return one.phase == "gather"; });
  ASSERT_NE(gather, answer.floors.end());
  EXPECT_NEAR(gather->floor_ms, 0.55 * 4e-5 * answer.pairs[0].x, 0.03 * gather->floor_ms);
  EXPECT_FALSE(gather->is_measured);
  ASSERT_TRUE(gather->capacity.at);
  EXPECT_NEAR(*gather->capacity.at, 1000.0 / 60 / (0.55 * 4e-5), 0.03 * *gather->capacity.at);
}

TEST(Breakdown, AMeasuredFloorIsTakenAsMeasured) {
  Study study = mirrored_study();
  Series floor{"mirrored", {}, 0, "", "gather"};
  study.head.plan.series.push_back(floor);
  std::vector<mileage::Run> floors;
  for (mileage::Run run : study.runs)
    if (run.series.variant == "columns") {
      run.series = floor;
      floors.push_back(std::move(run));
    }
  study.runs.insert(study.runs.end(), floors.begin(), floors.end());
  const BreakdownAnswer answer = breakdown_at(study, {100'000});
  for (const PhaseFloor& one : answer.floors) {
    EXPECT_EQ(one.is_measured, one.phase == "gather" && one.series == 1) << one.phase << " of " << one.series;
    if (one.is_measured) EXPECT_NEAR(one.floor_ms, 2e-5 * answer.pairs[0].x, 0.03 * one.floor_ms);
  }
}

TEST(Breakdown, APhaseInsideAnotherIsNotCountedTwice) {
  Study study = mirrored_study();
  for (mileage::Run& run : study.runs)
    if (run.series.variant == "mirrored") {
      run.phases_ms["copy"] = 0.3 * wall_ms(run);
      run.inner_phases = {"copy"};
    }
  const PairBreakdown pair = breakdown_at(study, {100'000}).pairs.at(0);
  EXPECT_EQ(part_called(pair.inside, "copy").name, "copy");
  double sum = pair.outside->ms;
  for (const Part& part : pair.phases) sum += part.ms;
  EXPECT_NEAR(sum, pair.whole.ms, 1e-9);
}

TEST(Breakdown, IntervalsHoldTheTruth) {
  int held = 0;
  constexpr int studies = 40;
  for (int seed = 0; seed < studies; ++seed) {
    made::Setting setting = made::setting_of(
        {{"columns", [](double n) { return 2e-5 * n; }}, {"mirrored", [](double n) { return 4e-5 * n; }}}, 0.05);
    setting.seed = static_cast<std::uint64_t>(seed + 1);
    Study study = made::study_of(setting);
    for (mileage::Run& run : study.runs)
      if (run.series.variant == "mirrored") run.phases_ms["gather"] = 0.5 * wall_ms(run);
    const PairBreakdown pair = breakdown_at(study, {100'000}).pairs.at(0);
    const Interval& interval = pair.phases.at(0).interval;
    const double truth = 2e-5 * pair.x;
    held += *interval.low <= truth && truth <= *interval.high;
  }
  EXPECT_GE(held, studies * 8 / 10) << "95 % of them are expected, and 80 % is three standard deviations away";
}

}  // namespace
}  // namespace mileage
