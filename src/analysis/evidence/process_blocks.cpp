#include "analysis/evidence/process_blocks.h"

#include <algorithm>
#include <set>

namespace mileage {

ProcessBlocks find_process_blocks(const Study& study) {
  ProcessBlocks blocks;
  std::map<int, int>& tied = blocks.first_block;
  std::map<std::int64_t, int> first_of_process;
  const auto root = [&](int block) {
    while (tied[block] != block) block = tied[block];
    return block;
  };
  for (const Run& run : study.runs) {
    if (run.block < 0 || run.samples_ns.empty()) continue;
    tied.emplace(run.block, run.block);
    const int one = root(first_of_process.emplace(run.process, run.block).first->second);
    const int other = root(run.block);
    tied[std::max(one, other)] = std::min(one, other);
  }
  std::set<int> firsts;
  for (auto& [block, first] : tied) firsts.insert(first = root(block));
  blocks.processes = firsts.size() < tied.size() ? firsts.size() : 0;
  return blocks;
}

int ProcessBlocks::block_of(int block) const {
  const auto first = first_block.find(block);
  return are_merged() && first != first_block.end() ? first->second : block;
}

}  // namespace mileage
