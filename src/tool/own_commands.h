// The part of a plan file in which a scenario of the user's own is measured by starting commands.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include <toml++/toml.h>

#include "measure/runners/command_runner.h"

namespace mileage {

/// A scenario whose variants are command lines.
struct OwnCommands {
  Scenario scenario;
  CommandPlan plan;
  std::vector<Knob> compared;  ///< Knobs of the plan whose values are compared like variants; variants have them.
};

/// Whether a key of a plan, with such a value, belongs to it.
bool is_own_command_key(const std::string& name, const toml::node& value);

/// Reads `[variant.NAME]`, `[command]`, `[knob.NAME]`, `entities`, `entity`, `note` and `reference`; nothing where the
/// plan defines no variant. Folders in it start from the folder of the plan. `scenario` is its name. Throws Error (bad
/// input) with file and line for unknown keys, wrong types, values out of range, placeholders that are neither known
/// nor a knob, and whatever else a scenario may not be (types/scenario_check.h). With `by_hand` variants need no
/// command.
std::optional<OwnCommands> read_own_commands(const toml::table& plan, const std::filesystem::path& file,
                                             const std::string& scenario, bool by_hand);

}  // namespace mileage
