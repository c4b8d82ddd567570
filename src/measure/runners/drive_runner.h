// Runs made by a running program that shows variants and counts on request, over lines of JSON
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

inline constexpr int drive_version = 1;

class DriveRunner : public Runner {
 public:
  /// Both must outlive it.
  DriveRunner(LineChannel& channel, const Instruments& instruments) : channel_(channel), instruments_(instruments) {}

  MadeBy made_by() const override { return MadeBy::game; }
  /// Waits for the hello. Throws Error (cannot measure) without a valid one in time.
  std::vector<Scenario> describe() override;
  /// Requests a cell and takes its frame times without warm-up. A bad answer is a failed run with a reason; three in a
  /// row, a missing answer or an overlong line end the connection. Throws Stopped. No checks: a running program cannot
  /// reset to a seed.
  Run run(const RunRequest& request, double limit_s) override;

  /// Nothing more can be measured.
  bool is_gone() const { return channel_.is_closed(); }
  /// "sent a line that is no JSON object"; empty if it left by itself.
  const std::string& hung_up_because() const { return hung_up_because_; }
  /// Stated by the program; 0 for none.
  std::int64_t max() const { return max_; }
  /// Warm-up included.
  std::int64_t frames_shown() const { return frames_shown_; }
  void say_goodbye(const std::string& why);

 private:
  Run answered(const RunRequest& request, const std::string& line, int frames);
  Run unanswered(const RunRequest& request, double limit_s);
  void hang_up(const std::string& because);

  LineChannel& channel_;
  Instruments instruments_;
  std::string hung_up_because_;
  bool probes_itself_ = false;  ///< By its last answer.
  std::int64_t number_ = 0;
  std::int64_t max_ = 0;
  std::int64_t frames_shown_ = 0;
  int bad_in_a_row_ = 0;
};

}  // namespace mileage
