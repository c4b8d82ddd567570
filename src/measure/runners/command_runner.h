// Runs made by commands that leave frame tables.
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "measure/runners/runner.h"
#include "measure/in_process/run_bracket.h"
#include "mileage/types/picture.h"
#include "system/child_process.h"

namespace mileage {

struct CommandPlan {
  /// By variant. {count}, {seed}, {frames}, {table}, {program} and {KNOB} are replaced. Without {table} the table is
  /// read from standard output. {arrive}: part of the count to add later, 0 by default. {picture}: PNG file to write,
  /// in all commands or none.
  std::map<std::string, std::vector<std::string>> words;
  std::filesystem::path directory;                      ///< Working directory; empty for the current one.
  std::map<std::string, std::string> environment;       ///< Additional.
  double time_limit_s = 0;                              ///< Of a run; 0: twenty times the predicted, at least 10 s.
  int frames = 0;                                       ///< For {frames}; 0: as needed.
  double tolerance = 1e-6;                              ///< Relative, for outcomes.
  std::map<std::string, std::filesystem::path> builds;  ///< By build; replace {program}, or the first word.
};

inline constexpr const char* command_placeholders[] = {"count",   "seed",    "frames", "table",
                                                       "without", "program", "arrive", "picture"};

/// Starts a command per run, reads its table, excludes warm-up. {frames}: twenty more than needed, by earlier frames.
/// Fails with one line for a command that does not start or end well (with its last words), a missing, irregular,
/// unreadable or over 64 MiB table, too few frames, other counts. Ends and counts processes left behind.
class CommandRunner : public Runner {
 public:
  /// Probes before and after the command, unless the program probes between frames (framelog.h, by environment).
  CommandRunner(Scenario scenario, CommandPlan plan, const Instruments& instruments, double memory_limit_bytes = 0)
      : scenario_(std::move(scenario)),
        plan_(std::move(plan)),
        instruments_(instruments),
        memory_limit_bytes_(memory_limit_bytes) {}

  MadeBy made_by() const override { return MadeBy::commands; }
  std::vector<Scenario> describe() override { return {scenario_}; }
  Run run(const RunRequest& request, double limit_s) override;
  void learn(const Run& run) override;

 private:
  struct Asked {
    Command command;
    std::filesystem::path table;    ///< Empty if printed.
    int frames = 0;                 ///< 0 if unknown.
    std::filesystem::path picture;  ///< Empty for none.
  };
  Asked asked(const RunRequest& request, const std::filesystem::path& folder) const;
  int frames_for(const RunRequest& request) const;
  /// Compares the picture of a check with the reference's, which is drawn if needed.
  void state_picture(const RunRequest& request, const Asked& asked, Outcome& outcome);
  const Picture& picture_of(const RunRequest& reference);
  Run run_from(const RunRequest& request, const Asked& asked, const ChildReport& report, double took_ms);

  Scenario scenario_;
  CommandPlan plan_;
  Instruments instruments_;
  double memory_limit_bytes_;
  std::map<std::string, std::map<std::int64_t, double>> frame_ms_;  ///< By series and count.
  std::map<std::string, Picture> pictures_;                         ///< Of the reference, by request.
  std::optional<std::string> first_build_;                          ///< Of the first run; reference.
  std::set<std::string> that_probe_;                                ///< Programs with their own yardstick.
};

/// For a study file: placeholders kept, base names instead of paths, no values of environment variables.
std::vector<std::string> command_lines(const CommandPlan& plan);

}  // namespace mileage
