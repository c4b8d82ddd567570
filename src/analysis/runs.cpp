#include "analysis/runs.h"

#include <algorithm>
#include <map>
#include <set>

namespace mileage {
namespace {

/// For every block the first of those that visits of the same process tie it to.
std::map<int, int> tied_blocks(const Study& study) {
  std::map<int, int> tied;
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
  for (auto& [block, first] : tied) first = root(block);
  return tied;
}

std::size_t different(const std::map<int, int>& tied) {
  std::set<int> firsts;
  for (const auto& [block, first] : tied) firsts.insert(first);
  return firsts.size();
}

}  // namespace

std::size_t runs_of(const Study& study) {
  const std::map<int, int> tied = tied_blocks(study);
  const std::size_t runs = different(tied);
  return runs < tied.size() ? runs : 0;
}

Study told_by_runs(Study study) {
  const std::map<int, int> tied = tied_blocks(study);
  if (different(tied) < runs_for_an_interval) return study;
  for (Visit& visit : study.visits)
    if (const auto first = tied.find(visit.block); first != tied.end()) visit.block = first->second;
  return study;
}

}  // namespace mileage
