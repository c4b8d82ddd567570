// Runs made by processes of a program that answers requests.
#pragma once

#include <filesystem>
#include <memory>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "measure/runners/prepared_program.h"
#include "measure/runners/runner.h"

namespace mileage {

/// Makes each run in a fresh process of a program that answers requests (serve_runs in its main); of a scenario
/// that describe() tells to prepare, in a copy of one process that has.
class ProgramRunner : public Runner {
 public:
  explicit ProgramRunner(std::filesystem::path program, const ProgramLimits& limits = {})
      : program_(std::move(program)), limits_(limits) {}

  MadeBy made_by() const override { return MadeBy::program; }
  std::vector<Scenario> describe() override;
  Run run(const RunRequest& request, double limit_s) override;

 private:
  std::filesystem::path program_;
  ProgramLimits limits_;
  std::set<std::string> preparing_;  ///< Scenarios that prepare.
  std::unique_ptr<PreparedProgram> prepared_;
};

/// Makes each run in a fresh process of the build that its series names: several builds of one program, side by side.
class BuildsRunner : public Runner {
 public:
  /// Names and programs of the builds, at least one.
  BuildsRunner(const std::vector<std::pair<std::string, std::filesystem::path>>& builds, const ProgramLimits& limits);

  MadeBy made_by() const override { return MadeBy::program; }
  /// What the first build tells; throws Error (cannot measure) when another one offers something else.
  std::vector<Scenario> describe() override;
  Run run(const RunRequest& request, double limit_s) override;

 private:
  std::vector<std::pair<std::string, ProgramRunner>> runners_;
};

/// The file of the program that runs now.
std::filesystem::path own_program();

}  // namespace mileage
