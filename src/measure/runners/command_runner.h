// Runs made by somebody else's program: a command is started for each, and leaves a frame table.
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

/// How the variants of a scenario are run as commands.
struct CommandPlan {
  /// By variant: program and arguments, in which {count}, {seed}, {frames}, {table}, {program} and the names of knobs
  /// in braces are replaced. Without {table} the program prints its table to standard output. {arrive} of the count are
  /// to come at once later on: 0 unless the plan says otherwise. {picture} is a PNG file to write; all commands have it
  /// or none has.
  std::map<std::string, std::vector<std::string>> words;
  std::filesystem::path directory;                 ///< Where commands run; empty for here.
  std::map<std::string, std::string> environment;  ///< On top of one's own.
  double time_limit_s = 0;                         ///< Of a run; 0: twenty times the predicted, at least ten seconds.
  int frames = 0;                                  ///< For {frames}; 0: as many as a run needs.
  double tolerance = 1e-6;                         ///< Largest accepted relative difference of outcomes.
  std::map<std::string, std::filesystem::path>
      builds;  ///< Programs by the name of their build; they replace {program}, or the first word.
};

/// Placeholders that every command may have.
inline constexpr const char* command_placeholders[] = {"count",   "seed",    "frames", "table",
                                                       "without", "program", "arrive", "picture"};

/// Starts the command of the series for every run, reads the table it leaves, and sets its warm-up apart: the frames
/// until their time has settled. {frames} is twenty more than the run needs, by what frames of the cell took before.
/// What keeps a table from being a run fails it with one plain line: a command that does not start or does not end
/// well (with its last words), no table, one that is no regular file, is larger than 64 MiB or does not read, fewer
/// frames than asked for, other counts. Processes that it leaves are ended and counted.
class CommandRunner : public Runner {
 public:
  /// The yardstick of `instruments` is taken before and after the command runs, by this process, unless the program
  /// takes its own between its frames: the environment asks it to (framelog.h).
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
    std::filesystem::path table;    ///< Where it is to be left; empty where it is printed.
    int frames = 0;                 ///< 0 where the command is not known.
    std::filesystem::path picture;  ///< Where a picture is to be left; empty where none is.
  };
  Asked asked(const RunRequest& request, const std::filesystem::path& folder) const;
  int frames_for(const RunRequest& request) const;
  /// Holds the picture of a check against the reference's, which is drawn again where it is not known.
  void state_picture(const RunRequest& request, const Asked& asked, Outcome& outcome);
  const Picture& picture_of(const RunRequest& reference);
  Run run_from(const RunRequest& request, const Asked& asked, const ChildReport& report, double took_ms);

  Scenario scenario_;
  CommandPlan plan_;
  Instruments instruments_;
  double memory_limit_bytes_;
  std::map<std::string, std::map<std::int64_t, double>> frame_ms_;  ///< Of cells measured before, by series and count.
  std::map<std::string, Picture> pictures_;                         ///< Of the reference, by what was asked for.
  std::optional<std::string> first_build_;                          ///< Of the first run: the reference is of it.
  std::set<std::string> that_probe_;                                ///< Programs that told of a yardstick of their own.
};

/// The command lines of a plan as they may stand in a study: placeholders as they are, base names in place of paths,
/// names of environment variables without their values.
std::vector<std::string> command_lines(const CommandPlan& plan);

}  // namespace mileage
