// Accuracy and frames of `drive` on simulated games, relative to a ramp by hand (steps of 5 % of the capacity up to the
// budget, 200 frames each). Wanted: within 5 % in 95 % of games, with a third of the ramp's frames (median).
//     bench_drive [GAMES]
#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <random>
#include <vector>

#include <fmt/format.h>

#include "analysis/statistics/statistics.h"
#include "measure/runners/drive_runner.h"
#include "measure/loop/measure_study.h"
#include "measure/loop/plan.h"
#include "support/simulated_game.h"
#include "support/reports.h"

namespace {

using namespace mileage;

constexpr double wanted_error = 0.05;
constexpr double wanted_share = 0.95;
constexpr double wanted_frames = 1.0 / 3;
constexpr int steps_of_ramp = 20;
constexpr int frames_of_step = 200;

simulated::GameTruth game(std::mt19937_64& random) {
  const auto between = [&](double low, double high) {
    return std::exp(std::uniform_real_distribution<double>(std::log(low), std::log(high))(random));
  };
  const double capacity = between(500, 50'000);
  const double exponent = std::uniform_real_distribution<double>(0.8, 2.0)(random);
  const double fixed_share = std::uniform_real_distribution<double>(0.02, 0.4)(random);
  simulated::GameTruth truth;
  const double budget_ms = truth.budget_ms;
  truth.frame_ms = [=](double n) {
    return budget_ms * (fixed_share + (1 - fixed_share) * std::pow(n / capacity, exponent));
  };
  return truth;
}

struct Result {
  double error = 0;
  double frames = 0;
  bool has_interval = false;
  bool holds_truth = false;
};

Result driven(const simulated::GameTruth& truth, std::uint64_t seed) {
  scripted::VirtualClock clock;
  simulated::SimulatedGame channel(truth, clock, seed);
  DriveRunner runner(channel, {&clock, nullptr});
  Head head;
  head.scenario = runner.describe().front();
  PlanRequest request;
  request.counts = {200, 450, 1000, 2200, 5000, 11'000, 25'000, 55'000, 120'000};
  request.precision = 0.03;
  request.aim = true;
  request.min_frames = 10;
  request.seed = seed;
  request.max_count = runner.max();
  head.plan = make_plan(head.scenario, request);
  Study study{head, {}, "game.study.jsonl", {}};
  Watch watch;
  watch.keep = [&](const Run& run) { study.runs.push_back(run); };
  measure_study(head, {}, runner, clock, watch);
  const Report report = report_of(study);
  const Capacity& capacity = report.capacities.capacities.front().capacity;
  const double at = simulated::capacity_of(truth);
  Result result;
  result.frames = static_cast<double>(channel.frames());
  result.error = capacity.at ? std::fabs(*capacity.at / at - 1) : 1;
  result.has_interval = capacity.interval.closed();
  result.holds_truth = result.has_interval && *capacity.interval.low <= at && at <= *capacity.interval.high;
  return result;
}

}  // namespace

int main(int argc, char** argv) {
  const int games = argc > 1 ? std::atoi(argv[1]) : 200;
  std::mt19937_64 random(7);
  std::vector<double> frames;
  int near = 0, intervals = 0, holding = 0;
  for (int i = 0; i < games; ++i) {
    const simulated::GameTruth truth = game(random);
    const Result result = driven(truth, static_cast<std::uint64_t>(i) + 100);
    near += result.error <= wanted_error;
    intervals += result.has_interval;
    holding += result.holds_truth;
    frames.push_back(result.frames);
  }
  std::sort(frames.begin(), frames.end());
  const double ramp = steps_of_ramp * frames_of_step;
  const double share = static_cast<double>(near) / games;
  const double typical = median(frames) / ramp;
  fmt::print(
      "{} games: capacity within {:.0f} % in {:.1f} %; frames {:.3f} of the ramp's {:.0f} (median; a tenth takes more "
      "than {:.3f})\n",
      games, 100 * wanted_error, 100 * share, typical, ramp, frames[static_cast<std::size_t>(0.9 * games)] / ramp);
  fmt::print("intervals in {} of them; {:.1f} % hold the truth, widened for the luck of one run\n", intervals,
             100.0 * holding / std::max(1, intervals));
  const bool holds = share >= wanted_share && typical <= wanted_frames;
  fmt::print("wanted: {:.0f} % and {:.3f}; {}\n", 100 * wanted_share, wanted_frames, holds ? "holds" : "MISSED");
  return holds ? 0 : 1;
}
