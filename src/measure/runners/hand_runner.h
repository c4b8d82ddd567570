// Runs recorded by a person, as files that appear.
#pragma once

#include <filesystem>
#include <functional>
#include <map>
#include <string>
#include <vector>

#include "measure/machine/clock.h"
#include "measure/runners/runner.h"

namespace mileage {

/// Dialogue with the person.
struct HandTalk {
  std::function<void(const std::string&)> say;  ///< A line.
  std::function<bool()> stop;                   ///< Several times per second.
};

class HandRunner : public Runner {
 public:
  /// Files are expected in `folder`.
  HandRunner(Scenario scenario, std::filesystem::path folder, HandTalk talk, Clock& clock)
      : scenario_(std::move(scenario)), folder_(std::move(folder)), talk_(std::move(talk)), clock_(clock) {}

  MadeBy made_by() const override { return MadeBy::person; }
  std::vector<Scenario> describe() override { return {scenario_}; }
  /// Says what to record under which name and waits for the file. Unreadable, short, capped or wrong-count files are
  /// refused with the reason. Excludes warm-up. Throws Stopped.
  Run run(const RunRequest& request, double limit_s) override;
  void learn(const Run& run) override;

  /// Variant, count and a number, unique per run.
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
