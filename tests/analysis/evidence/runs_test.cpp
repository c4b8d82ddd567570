// Blocks that one run of a program made.
#include "analysis/evidence/runs.h"

#include <gmock/gmock.h>

#include "support/made_studies.h"

namespace mileage {
namespace {

using testing::ElementsAre;

/// One visit a block; blocks by the run that made them.
Study made_by(const std::vector<int>& run_of_block) {
  made::Setting setting;
  setting.truths = {{"plain", [](double n) { return 0.001 * n; }}};
  setting.counts = {100};
  setting.blocks = static_cast<int>(run_of_block.size());
  Study study = made::study_of(setting);
  for (Visit& visit : study.visits) visit.process = run_of_block[static_cast<std::size_t>(visit.block)];
  return study;
}

/// As the analysis numbers them.
std::vector<int> blocks_in(const Study& study) {
  const BlocksOfRuns runs = blocks_of_runs(study);
  std::vector<int> blocks;
  for (const Visit& visit : study.visits) blocks.push_back(runs.block_of(visit.block));
  return blocks;
}

TEST(Runs, AreNoneWhereEveryBlockHasProcessesOfItsOwn) {
  EXPECT_EQ(blocks_of_runs(made_by({0, 1, 2, 3})).runs, 0U);
  EXPECT_THAT(blocks_in(made_by({0, 1, 2, 3})), ElementsAre(0, 1, 2, 3));
}

TEST(Runs, CountAsOneBlockEachWhereThereAreThree) {
  const Study study = made_by({7, 7, 8, 9, 9, 8});
  EXPECT_EQ(blocks_of_runs(study).runs, 3U);
  EXPECT_THAT(blocks_in(study), ElementsAre(0, 0, 2, 3, 3, 2));
}

TEST(Runs, KeepTheirBlocksWhereThereAreFewer) {
  const Study study = made_by({7, 7, 8, 8, 8});
  EXPECT_EQ(blocks_of_runs(study).runs, 2U);
  EXPECT_TRUE(blocks_of_runs(study).are_few());
  EXPECT_THAT(blocks_in(study), ElementsAre(0, 1, 2, 3, 4));
}

TEST(Runs, PlacingVisitsAreNoBlocks) {
  Study study = made_by({1, 2, 3});
  study.visits.push_back(study.visits.front());
  study.visits.back().block = -1;
  study.visits.back().process = 2;
  EXPECT_EQ(blocks_of_runs(study).runs, 0U);
  EXPECT_THAT(blocks_in(study), ElementsAre(0, 1, 2, -1));
}

}  // namespace
}  // namespace mileage
