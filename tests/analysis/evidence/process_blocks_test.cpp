// Blocks that one run of a program made.
#include "analysis/evidence/process_blocks.h"

#include <gmock/gmock.h>

#include "support/made_studies.h"

namespace mileage {
namespace {

using testing::ElementsAre;

/// One run a block; blocks by the run that made them.
Study made_by(const std::vector<int>& run_of_block) {
  made::Setting setting;
  setting.truths = {{"plain", [](double n) { return 0.001 * n; }}};
  setting.counts = {100};
  setting.blocks = static_cast<int>(run_of_block.size());
  Study study = made::study_of(setting);
  for (mileage::Run& run : study.runs) run.process = run_of_block[static_cast<std::size_t>(run.block)];
  return study;
}

/// As the analysis numbers them.
std::vector<int> blocks_in(const Study& study) {
  const ProcessBlocks process_blocks = find_process_blocks(study);
  std::vector<int> blocks;
  for (const mileage::Run& run : study.runs) blocks.push_back(process_blocks.block_of(run.block));
  return blocks;
}

TEST(ProcessBlocks, AreNoneWhereEveryBlockHasProcessesOfItsOwn) {
  EXPECT_EQ(find_process_blocks(made_by({0, 1, 2, 3})).processes, 0U);
  EXPECT_THAT(blocks_in(made_by({0, 1, 2, 3})), ElementsAre(0, 1, 2, 3));
}

TEST(ProcessBlocks, CountAsOneBlockEachWhereThereAreThree) {
  const Study study = made_by({7, 7, 8, 9, 9, 8});
  EXPECT_EQ(find_process_blocks(study).processes, 3U);
  EXPECT_THAT(blocks_in(study), ElementsAre(0, 0, 2, 3, 3, 2));
}

TEST(ProcessBlocks, KeepTheirBlocksWhereThereAreFewer) {
  const Study study = made_by({7, 7, 8, 8, 8});
  EXPECT_EQ(find_process_blocks(study).processes, 2U);
  EXPECT_TRUE(find_process_blocks(study).are_few());
  EXPECT_THAT(blocks_in(study), ElementsAre(0, 1, 2, 3, 4));
}

TEST(ProcessBlocks, RangeFindingIsNoBlock) {
  Study study = made_by({1, 2, 3});
  study.runs.push_back(study.runs.front());
  study.runs.back().block = -1;
  study.runs.back().process = 2;
  EXPECT_EQ(find_process_blocks(study).processes, 0U);
  EXPECT_THAT(blocks_in(study), ElementsAre(0, 1, 2, -1));
}

}  // namespace
}  // namespace mileage
