// A short form of bench/coverage: intervals of whole studies, made by the real loop on simulated machines, hold the
// truth about as often as they claim.
#include <algorithm>
#include <string>

#include <gmock/gmock.h>

#include "support/coverage.h"

namespace mileage {
namespace {

using simulated::CellTally;
using simulated::Tally;

simulated::Disturbance noise_called(const std::string& name) {
  const auto noises = simulated::noises();
  return *std::find_if(noises.begin(), noises.end(), [&](const auto& one) { return one.name == name; });
}

class Coverage : public testing::TestWithParam<const char*> {};

TEST_P(Coverage, IsWhatIsClaimed) {
  Tally all;
  for (const simulated::Truth& truth : simulated::truths()) {
    if (truth.name != "linear" && truth.name != "power 1.3" && truth.name != "cache x1.25") continue;
    const CellTally cell = simulated::run_cell(truth, noise_called(GetParam()), 25);
    for (const Tally& tally : cell.figure) all.add(tally);
    EXPECT_EQ(cell.laws_wrong, 0) << truth.name;
  }
  // About 500 intervals of 75 studies, so that several of one study err together.
  ASSERT_GT(all.answered, 400);
  EXPECT_GT(all.share(), 90) << all.held << " of " << all.answered;
  EXPECT_GE(all.answered, 0.9 * all.asked);
}

INSTANTIATE_TEST_SUITE_P(Noises, Coverage, testing::Values("quiet", "two speeds, slow stretches of 0.1 studies"),
                         [](const auto& info) { return std::string(info.param) == "quiet" ? "Quiet" : "TwoSpeeds"; });

TEST(CoverageOfNearlyParallelCurves, HoldsWithOneEndOpenWhereNothingIsClear) {
  for (const simulated::Truth& truth : simulated::truths()) {
    if (truth.name != "nearly parallel") continue;
    const Tally tally = simulated::run_cell(truth, simulated::noises().at(1), 40).figure[simulated::break_even];
    EXPECT_GE(tally.answered, 34);
    EXPECT_GE(tally.share(), 85);  // 95 % less three standard errors
    EXPECT_GT(tally.open_ended, 0);
    EXPECT_LT(tally.open_ended, tally.answered);
  }
}

class CoverageOfExplanations : public testing::TestWithParam<const char*> {};

TEST_P(CoverageOfExplanations, BestValuesSerialSharesAndRungsHold) {
  const CellTally cell = simulated::run_explaining_cell(noise_called(GetParam()), 40);
  for (const auto figure : {simulated::best_value, simulated::plateau, simulated::serial_share, simulated::rung_on_top,
                            simulated::rung_alone, simulated::rung_taken_away}) {
    const Tally& tally = cell.figure[figure];
    EXPECT_GE(tally.answered, 40) << simulated::figure_names[figure];
    EXPECT_GE(tally.share(), 85) << simulated::figure_names[figure];
  }
}

// Slow throughout, only what settings are held to respond alike to would tell them apart.
INSTANTIATE_TEST_SUITE_P(Noises, CoverageOfExplanations, testing::Values("quiet", "slow throughout"),
                         [](const auto& info) { return std::string(info.param) == "quiet" ? "Quiet" : "Slow"; });

TEST(CoverageOfNearlyParallelCurves, EqualOnesAreRarelyToldApart) {
  for (const simulated::Truth& truth : simulated::truths()) {
    if (truth.name != "equal") continue;
    const CellTally cell = simulated::run_cell(truth, simulated::noises().front(), 40);
    EXPECT_EQ(cell.never, 40);
    EXPECT_LE(cell.told_anyway, 4);
  }
}

}  // namespace
}  // namespace mileage
