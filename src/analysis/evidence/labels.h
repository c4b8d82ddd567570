// Which series a study has, their names, and which may be compared.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Build (if several), variant, the knobs that differ within it, memory walked between frames: "after/objects scatter=1
/// cold 8MB".
std::string label_of(const Series& series, const std::vector<Series>& all);

/// By variant, build or "build/variant"; may match several.
bool is_called(const Series& series, const std::string& name);

/// Both warm or equally cold, and equal in every scenario knob that affects both. A variant's own knobs are choices.
bool same_conditions(const Series& a, const Series& b, const Scenario& scenario);

/// Values of the scenario knobs in which a study's series differ, and warm or cold.
struct Conditions {
  std::map<std::string, KnobValue> knobs;
  std::optional<double> cold_bytes;
  bool operator==(const Conditions&) const = default;

  /// "scatter 0, caches warm"; empty if all series share theirs.
  std::string text() const;
};

struct Group {
  Conditions shared;
  std::string conditions;
  std::vector<std::size_t> members;  ///< Indices, in order.
  std::vector<std::string> labels;   ///< By member; from groups_among() only.
};

/// A variant that a knob does not affect is in every group.
std::vector<Group> groups_of(const std::vector<Series>& series, const Scenario& scenario);

}  // namespace mileage
