// Runs made by a person: who is known what to record, and whose files are taken as they appear.
#pragma once

#include <filesystem>
#include <functional>
#include <map>
#include <string>
#include <vector>

#include "measure/machine/clock.h"
#include "measure/runners/runner.h"

namespace mileage {

/// How a runner speaks with the person, and learns that they want to stop.
struct HandTalk {
  std::function<void(const std::string&)> say;  ///< A line.
  std::function<bool()> stop;                   ///< Asked several times a second.
};

class HandRunner : public Runner {
 public:
  /// Files are looked for in `folder`.
  HandRunner(Scenario scenario, std::filesystem::path folder, HandTalk talk, Clock& clock)
      : scenario_(std::move(scenario)), folder_(std::move(folder)), talk_(std::move(talk)), clock_(clock) {}

  MadeBy made_by() const override { return MadeBy::person; }
  std::vector<Scenario> describe() override { return {scenario_}; }
  /// Says what to record and under which name to save it, and waits for that file, however long it takes. One that does
  /// not read, is too short, holds another count, or is capped is refused with the reason, and waited for again. Frames
  /// before they settled are set apart. Throws Stopped.
  Run run(const RunRequest& request, double limit_s) override;
  void learn(const Run& run) override;

  /// Name of the file for a run: variant, count, and a mark of its own, so that no run takes another one's file.
  static std::string file_name(const RunRequest& request);

 private:
  void wait_for(const std::filesystem::path& file) const;
  Run taken(const RunRequest& request, const std::filesystem::path& file) const;
  void refuse_capped(const Run& run);

  Scenario scenario_;
  std::filesystem::path folder_;
  HandTalk talk_;
  Clock& clock_;
  std::map<std::string, std::vector<Run>> taken_;  ///< By series.
};

}  // namespace mileage
