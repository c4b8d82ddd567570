// Which series a study has, what to call them, and which of them may be compared.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

/// The variant's name, after that of its build where there are several, followed by the knobs that tell it from the
/// others of its variant, and by what was walked between its frames: "after/objects scatter=1 cold 8MB".
std::string label_of(const Series& series, const std::vector<Series>& all);

/// Whether people mean this series, perhaps among others, by a name: that of its variant, of its build, or
/// "build/variant".
bool is_called(const Series& series, const std::string& name);

/// Whether two series were measured under the same conditions: both warm or both as cold, and every knob of the
/// scenario that touches both has the same value. Knobs that a variant alone has are choices, not conditions.
bool same_conditions(const Series& a, const Series& b, const Scenario& scenario);

/// What series share that stand to choice, where not all of a study do: one value for each knob of the scenario in
/// which they differ, and warm or cold.
struct Conditions {
  std::map<std::string, KnobValue> knobs;
  std::optional<double> cold_bytes;
  bool operator==(const Conditions&) const = default;

  /// "scatter 0, caches warm"; empty when all series share their conditions.
  std::string text() const;
};

/// Series that stand to choice under the same conditions.
struct Group {
  Conditions shared;
  std::string conditions;            ///< Their text.
  std::vector<std::size_t> members;  ///< Indices into the series given, in their order.
  std::vector<std::string> labels;   ///< One per member, without the conditions; from groups_among() alone.
};

/// Divides series by the knobs of the scenario in which they differ, and by warm and cold. A variant that such a knob
/// does not touch stands in every group.
std::vector<Group> groups_of(const std::vector<Series>& series, const Scenario& scenario);

}  // namespace mileage
