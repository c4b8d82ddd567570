// Plan files: scenarios measured by starting commands.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include <toml++/toml.h>

#include "measure/runners/command_runner.h"

namespace mileage {

/// Variants are command lines.
struct OwnCommands {
  Scenario scenario;
  CommandPlan plan;
  std::vector<Knob> compared;  ///< Choice knobs, compared like variants.
};

bool is_own_command_key(const std::string& name, const toml::node& value);

/// Reads `[variant.NAME]`, `[command]`, `[knob.NAME]`, `entities`, `entity`, `note`, `reference`; nothing without
/// variants. Folders are relative to the plan's. Throws Error (bad input) with file and line, also as
/// types/scenario_check.h. `by_hand`: variants need no command.
std::optional<OwnCommands> read_own_commands(const toml::table& plan, const std::filesystem::path& file,
                                             const std::string& scenario, bool by_hand);

}  // namespace mileage
