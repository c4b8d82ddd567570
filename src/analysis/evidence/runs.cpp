#include "analysis/evidence/runs.h"

#include <algorithm>
#include <set>

namespace mileage {

BlocksOfRuns blocks_of_runs(const Study& study) {
  BlocksOfRuns blocks;
  std::map<int, int>& tied = blocks.first_of_run;
  std::map<std::int64_t, int> first_of_process;
  const auto root = [&](int block) {
    while (tied[block] != block) block = tied[block];
    return block;
  };
  for (const Visit& visit : study.visits) {
    if (visit.block < 0 || visit.samples_ns.empty()) continue;
    tied.emplace(visit.block, visit.block);
    const int one = root(first_of_process.emplace(visit.process, visit.block).first->second);
    const int other = root(visit.block);
    tied[std::max(one, other)] = std::min(one, other);
  }
  std::set<int> firsts;
  for (auto& [block, first] : tied) firsts.insert(first = root(block));
  blocks.runs = firsts.size() < tied.size() ? firsts.size() : 0;
  return blocks;
}

int BlocksOfRuns::block_of(int block) const {
  const auto first = first_of_run.find(block);
  return are_merged() && first != first_of_run.end() ? first->second : block;
}

}  // namespace mileage
