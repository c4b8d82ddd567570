#include "analysis/evidence/pairs.h"

#include <algorithm>
#include <map>

#include "analysis/evidence/labels.h"

namespace mileage {
namespace {

using Indices = std::vector<std::size_t>;

/// By rank of the variant.
std::vector<Indices> by_variant(const std::vector<Series>& series, const Scenario& scenario) {
  std::map<std::string, std::size_t> ranks;
  for (const VariantFacts& facts : scenario.variants) ranks.emplace(facts.name, ranks.size());
  std::map<std::size_t, Indices> by_rank;
  for (std::size_t i = 0; i < series.size(); ++i) {
    const auto rank = ranks.find(series[i].variant);
    by_rank[rank == ranks.end() ? ranks.size() : rank->second].push_back(i);
  }
  std::vector<Indices> groups;
  for (auto& [rank, indices] : by_rank) groups.push_back(std::move(indices));
  return groups;
}

bool is_named(const Series& series, const std::vector<std::string>& names) {
  return std::any_of(names.begin(), names.end(), [&](const std::string& name) { return is_called(series, name); });
}

}  // namespace

bool is_comparable(const Series& one, const Series& other) {
  return one.build == other.build || one.variant == other.variant;
}

std::vector<std::pair<std::size_t, std::size_t>> compared_pairs(const std::vector<Series>& series,
                                                                const Scenario& scenario,
                                                                const std::vector<std::string>& between,
                                                                const std::string& baseline) {
  std::vector<std::pair<std::size_t, std::size_t>> pairs;
  const auto add = [&](std::size_t a, std::size_t b) {
    if (a != b && !series[a].is_floor() && !series[b].is_floor() && same_conditions(series[a], series[b], scenario))
      pairs.emplace_back(std::min(a, b), std::max(a, b));
  };
  if (!between.empty()) {
    Indices named;
    for (std::size_t i = 0; i < series.size(); ++i)
      if (is_named(series[i], between)) named.push_back(i);
    for (std::size_t i = 0; i < named.size(); ++i)
      for (std::size_t j = i + 1; j < named.size(); ++j) add(named[i], named[j]);
  } else if (!baseline.empty()) {
    for (std::size_t a = 0; a < series.size(); ++a)
      for (std::size_t b = 0; b < series.size(); ++b)
        if (is_called(series[a], baseline) && !is_called(series[b], baseline) && is_comparable(series[a], series[b]))
          add(a, b);
  } else {
    const std::vector<Indices> groups = by_variant(series, scenario);
    for (std::size_t group = 0; group < groups.size(); ++group) {
      Indices others = groups[group];
      if (group + 1 < groups.size()) others.insert(others.end(), groups[group + 1].begin(), groups[group + 1].end());
      for (std::size_t i = 0; i < groups[group].size(); ++i)
        for (std::size_t j = i + 1; j < others.size(); ++j)
          if (is_comparable(series[groups[group][i]], series[others[j]])) add(groups[group][i], others[j]);
    }
  }
  std::sort(pairs.begin(), pairs.end());
  return pairs;
}

}  // namespace mileage
