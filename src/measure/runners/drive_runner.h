// Runs made by a running program that is known which variant and count to show next, over lines of JSON
// (docs/reference/drive.md).
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "measure/runners/line_channel.h"
#include "measure/runners/runner.h"
#include "measure/in_process/run_bracket.h"

namespace mileage {

/// Version of the lines that are spoken.
inline constexpr int drive_version = 1;

class DriveRunner : public Runner {
 public:
  /// Both must outlive it.
  DriveRunner(LineChannel& channel, const Instruments& instruments) : channel_(channel), instruments_(instruments) {}

  MadeBy made_by() const override { return MadeBy::game; }
  /// Waits for the program's hello. Throws Error (cannot measure) when none comes in time, or one that does not read.
  std::vector<Scenario> describe() override;
  /// Sends the program to the next cell and takes its frame times; those before they settled are set apart. Whatever it
  /// answers instead becomes a failed run with a plain reason, and the program is known so and hung up on after three
  /// of them in a row, after one that does not come in time, and after a line that is too long. Throws Stopped while it
  /// waits. Checks are not made: a running program cannot be set back to a seed.
  Run run(const RunRequest& request, double limit_s) override;

  /// Whether the program is gone, or was hung up on, so that nothing more can be measured.
  bool is_gone() const { return channel_.is_closed(); }
  /// Why it was hung up on: "sent a line that is no JSON object"; empty where it went by itself.
  const std::string& hung_up_because() const { return hung_up_because_; }
  /// Largest count that the program said it can show; 0 where it said none.
  std::int64_t max() const { return max_; }
  /// Frames that the program showed so far, those before settling included.
  std::int64_t frames_shown() const { return frames_shown_; }
  /// Tells the program that it may go.
  void say_goodbye(const std::string& why);

 private:
  Run answered(const RunRequest& request, const std::string& line, int frames);
  Run unanswered(const RunRequest& request, double limit_s);
  void hang_up(const std::string& because);

  LineChannel& channel_;
  Instruments instruments_;
  std::string hung_up_because_;
  bool probes_itself_ = false;  ///< Whether the last answer told of a yardstick.
  std::int64_t number_ = 0;
  std::int64_t max_ = 0;
  std::int64_t frames_shown_ = 0;
  int bad_in_a_row_ = 0;
};

}  // namespace mileage
