// Which series are compared with each other.
#pragma once

#include <cstddef>
#include <string>
#include <utility>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Two builds are compared with each other variant by variant.
bool is_comparable(const Series& one, const Series& other);

/// Pairs of indices into `series`, the smaller one first, ascending. Both of a pair were measured under the same
/// conditions. Where `between` names variants or builds: all pairs of those. Otherwise each variant with the next one
/// of the scenario that is there, all series of one variant with each other, and builds variant by variant; where
/// `baseline` is named, its series with all others instead. Measuring aims at the break-evens of these pairs, and the
/// analysis reports them.
std::vector<std::pair<std::size_t, std::size_t>> compared_pairs(const std::vector<Series>& series,
                                                                const Scenario& scenario,
                                                                const std::vector<std::string>& between,
                                                                const std::string& baseline = "");

}  // namespace mileage
