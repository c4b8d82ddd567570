// Runner: whoever turns a request into a visit.
#pragma once

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "measure/visit_request.h"

namespace mileage {

/// Implementations: a program started again for each visit, builds of one, this process itself, a command, a running program, a
/// person.
class Runner {
 public:
  /// Thrown out of run() when whoever is at the other end, or this process, was asked to stop in the middle of a visit.
  struct Stopped {};

  virtual ~Runner() = default;

  /// What can be measured. Throws Error (cannot measure) when whoever runs the visits does not tell.
  virtual std::vector<Scenario> describe() = 0;

  /// Makes one visit and waits for it. Whatever the variant does (crash, exit, hang beyond the limit, throw) becomes a
  /// failed visit with a plain reason; never throws for it. Throws Stopped. `limit_s` > 0.
  virtual Visit run(const VisitRequest& request, double limit_s) = 0;

  /// Number of the process that makes all visits; nothing where each has its own.
  virtual std::optional<std::int64_t> shared_process() const { return std::nullopt; }
};

/// Makes each visit in a fresh process of a program that answers requests (answer_if_asked in its main).
class ProgramRunner : public Runner {
 public:
  /// A visit whose resident memory exceeds `memory_limit_bytes` is ended; 0 means no limit.
  explicit ProgramRunner(std::filesystem::path program, double memory_limit_bytes = 0)
      : program_(std::move(program)), memory_limit_bytes_(memory_limit_bytes) {}

  std::vector<Scenario> describe() override;
  Visit run(const VisitRequest& request, double limit_s) override;

 private:
  std::filesystem::path program_;
  double memory_limit_bytes_;
};

/// Makes each visit in a fresh process of the build that its series names: several builds of one program, side by side.
class BuildsRunner : public Runner {
 public:
  /// Names and programs of the builds, at least one.
  BuildsRunner(const std::vector<std::pair<std::string, std::filesystem::path>>& builds, double memory_limit_bytes);

  /// What the first build tells; throws Error (cannot measure) when another one offers something else.
  std::vector<Scenario> describe() override;
  Visit run(const VisitRequest& request, double limit_s) override;

 private:
  std::vector<std::pair<std::string, ProgramRunner>> runners_;
};

/// Makes visits in this process, for tests and debuggers: a crash takes everything with it, and limits do not hold.
class SameProcessRunner : public Runner {
 public:
  SameProcessRunner(const Catalogue& catalogue, const Instruments& instruments)
      : catalogue_(&catalogue), instruments_(instruments) {}

  std::vector<Scenario> describe() override { return catalogue_->scenarios_here(); }
  Visit run(const VisitRequest& request, double limit_s) override;

 private:
  const Catalogue* catalogue_;
  Instruments instruments_;
};

/// The file of the program that runs now.
std::filesystem::path own_program();

}  // namespace mileage
