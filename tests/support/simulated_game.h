// A game with a known capacity, for `drive`.
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <random>
#include <string>

#include "measure/runners/line_channel.h"
#include "support/scripted.h"

namespace mileage::simulated {

/// Deviations on the log scale.
struct GameTruth {
  std::function<double(double)> frame_ms;
  double budget_ms = 1000.0 / 60;
  double process = 0.01;
  double run = 0.02;     ///< Per stay at a count.
  double frame = 0.04;   ///< Per frame.
  double spikes = 0.01;  ///< Share of frames at 3x.
  int uneven_after = 5;  ///< Frames up to 1.5x after a change of count.
  std::int64_t max = 200'000;
};

double capacity_of(const GameTruth& truth);

/// On a virtual clock.
class SimulatedGame : public LineChannel {
 public:
  SimulatedGame(const GameTruth& truth, scripted::VirtualClock& clock, std::uint64_t seed);

  bool send(const std::string& line) override;
  std::optional<std::string> receive(double seconds) override;
  bool is_closed() const override { return closed_; }
  void hang_up() override { closed_ = true; }

  std::int64_t frames() const { return frames_; }

 private:
  double normal() { return std::normal_distribution<double>()(random_); }
  std::string shown(std::int64_t number, std::int64_t count, int frames);

  GameTruth truth_;
  scripted::VirtualClock& clock_;
  std::mt19937_64 random_;
  double luck_;
  std::string answer_;
  std::int64_t frames_ = 0;
  bool closed_ = false;
};

}  // namespace mileage::simulated
