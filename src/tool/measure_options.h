// Options of `measure`, from the command line and a plan file.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "measure/loop/plan.h"
#include "tool/command_line.h"
#include "tool/own_commands.h"

namespace mileage {

/// As typed; empty or 0 if not given.
struct MeasureOptions {
  std::string plan_file;
  Origins origins;  ///< Of values from a plan file.
  std::string scenario;
  std::string variants;
  std::string counts;
  int points = 0;
  std::vector<std::string> knobs;
  std::string cold;
  std::string budget;
  std::string precision;
  std::string goal;
  std::string time;
  int blocks = 0;
  std::string seed;
  int frames = 0;
  std::string arrive;
  std::string without;
  int trace = 0;
  std::string output;
  std::string program;
  std::string builds;
  std::string memory_limit;
  bool no_refine = false;
  bool by_hand = false;
  bool same_process = false;
  bool dry_run = false;
  bool json = false;
  std::optional<OwnCommands> own_commands;  ///< From a plan file.
  std::string plan_fingerprint;             ///< Of a plan with commands.
};

void add_measure_options(Verb& verb, MeasureOptions& options);

/// "before=build-a/night,after=build-b/night", in order, with absolute paths. Throws Error (usage), also for missing
/// files.
std::vector<std::pair<std::string, std::filesystem::path>> builds_of(const MeasureOptions& options);

/// With defaults. Throws Error (usage).
PlanRequest request_of(const MeasureOptions& options);

}  // namespace mileage
