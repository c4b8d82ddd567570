// Which series are compared with each other.
#pragma once

#include <cstddef>
#include <string>
#include <utility>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Two builds are compared variant by variant.
bool is_comparable(const Series& one, const Series& other);

/// Ascending index pairs under the same conditions. With `between`: all pairs of those variants or builds. Otherwise
/// neighbouring variants of the scenario, all series of a variant, and builds by variant; with `baseline`, its series
/// with all others.
std::vector<std::pair<std::size_t, std::size_t>> compared_pairs(const std::vector<Series>& series,
                                                                const Scenario& scenario,
                                                                const std::vector<std::string>& between,
                                                                const std::string& baseline = "");

}  // namespace mileage
