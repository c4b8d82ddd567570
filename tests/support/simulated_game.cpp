#include "support/simulated_game.h"

#include <cmath>

#include <nlohmann/json.hpp>

namespace mileage::simulated {

double capacity_of(const GameTruth& truth) {
  double from = 1, to = 1e9;
  for (int step = 0; step < 200; ++step) {
    const double middle = std::sqrt(from * to);
    (truth.frame_ms(middle) > truth.budget_ms ? to : from) = middle;
  }
  return std::sqrt(from * to);
}

SimulatedGame::SimulatedGame(const GameTruth& truth, scripted::VirtualClock& clock, std::uint64_t seed)
    : truth_(truth), clock_(clock), random_(seed), luck_(std::exp(truth.process * normal())) {
  answer_ =
      nlohmann::json{
          {"hello", 1}, {"scenario", "game"}, {"entities", "lanterns"}, {"variants", {"plain"}}, {"most", truth.max}}
          .dump();
}

bool SimulatedGame::send(const std::string& line) {
  const auto question = nlohmann::json::parse(line);
  if (question.contains("end")) {
    closed_ = true;
    return true;
  }
  answer_ = shown(question["next"], question["count"], question["frames"]);
  return true;
}

std::string SimulatedGame::shown(std::int64_t number, std::int64_t count, int frames) {
  const double slowdown_ms = truth_.frame_ms(static_cast<double>(count)) * luck_ * std::exp(truth_.run * normal());
  std::vector<double> times;
  for (int i = 0; i < frames; ++i) {
    double ms = slowdown_ms * std::exp(truth_.frame * normal());
    if (i < truth_.uneven_after) ms *= 1.5 - 0.5 * i / truth_.uneven_after;
    if (std::uniform_real_distribution<double>()(random_) < truth_.spikes) ms *= 3;
    times.push_back(ms);
    clock_.pass(std::llround(ms * 1e6));
  }
  frames_ += frames;
  return nlohmann::json{{"done", number}, {"alive", count}, {"frames_ms", times}}.dump();
}

std::optional<std::string> SimulatedGame::receive(double) {
  if (closed_ || answer_.empty()) return std::nullopt;
  std::string line;
  line.swap(answer_);
  return line;
}

}  // namespace mileage::simulated
