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

/// Runs in fresh processes of a program that answers requests (serve_runs in its main), or in forks of a prepared
/// process.
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
  std::set<std::string> preparing_;  ///< That prepare.
  std::unique_ptr<PreparedProgram> prepared_;
};

/// The same for several builds of one program.
class BuildsRunner : public Runner {
 public:
  /// Name and program; at least one.
  BuildsRunner(const std::vector<std::pair<std::string, std::filesystem::path>>& builds, const ProgramLimits& limits);

  MadeBy made_by() const override { return MadeBy::program; }
  /// From the first build; throws Error (cannot measure) if others differ.
  std::vector<Scenario> describe() override;
  Run run(const RunRequest& request, double limit_s) override;

 private:
  std::vector<std::pair<std::string, ProgramRunner>> runners_;
};

/// The running program's file.
std::filesystem::path own_program();

}  // namespace mileage
