// Machines with known truths and noise: a runner that answers runs from a formula on a virtual clock, so that the
// real measuring loop can be judged.
#pragma once

#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "analysis/statistics/law.h"
#include "measure/runners/runner.h"
#include "study/study.h"
#include "support/scripted.h"

namespace mileage::simulated {

/// Two variants with known costs.
struct Truth {
  std::string name;
  std::uint64_t seed = 0;  ///< Studies of other truths are disturbed in other ways.
  std::function<double(double)> one_ms;
  std::function<double(double)> other_ms;
  std::optional<LawKind> law;      ///< Of the one; nothing outside the list of laws.
  std::optional<double> exponent;  ///< Of the one, beside a fixed cost.
  double capacity = 0;             ///< Of the one, at 10 ms.
  double break_even = 0;           ///< 0 where there is none: a study that reports one is wrong.
  bool sharp = false;              ///< A sharp knee inside the window of a local reading.
  bool jumps = false;              ///< Its answers may be the two counts around a jump.

  /// Of whatever series, in place of the two: for studies over knobs.
  std::function<double(const Series&)> of_series;

  /// What a frame of a variant takes: of "one" and "other"; of "way 3", "way 4" ... the one's, slower each by a
  /// quarter.
  double ms_of(const std::string& variant, double n) const;
};

inline constexpr double budget_ms = 10;
/// How much longer everything takes while the machine is slow.
inline constexpr double slow_factor = 1.8;

/// What disturbs a machine. Deviations are on the log scale; stretches and correlation times in shares of a study.
struct Disturbance {
  std::string name;
  double run = 0.02;
  double frame = 0.02;
  double drift = 0;           ///< Deviation of a smooth drift that the yardstick sees too,
  double drift_length = 0.1;  ///< and its correlation time.
  double spikes = 0;          ///< Share of runs that take 1.3 to 2 times as long.
  double slow_share = 0;      ///< Share of time in which everything takes 1.8 times as long,
  double slow_length = 0.1;   ///< and the mean stretch of it.
  /// Whether a neighbour on the core comes and goes within milliseconds: the yardstick takes 1.9 times as long beside
  /// him. He stays for 1 ms and is away for 1 to 5 ms, changing with the seconds.
  bool flips = false;
  double one_slope = 1;  ///< Slopes by which frames of both ways follow the yardstick, log over log,
  double other_slope = 1;
  double slope_sd = 0;  ///< and by how much they differ from study to study; none lies beyond 0 and 1.1.
  double place_sd = 0;  ///< By how much slopes of one way differ between counts.
  /// Whether what a neighbour does differs, which the drift tells, and frames follow that by a slope of its own: beyond
  /// 1.5 times full speed.
  bool bends = false;
  double remembered_sd = 0.01;  ///< Of full speed that earlier studies left, log scale.
};

std::vector<Truth> truths();
std::vector<Disturbance> noises();

/// The machine itself: runs that pass on a virtual clock. All arguments must outlive it.
std::unique_ptr<Runner> machine(const Truth& truth, const Disturbance& noise, scripted::VirtualClock& clock,
                                std::uint64_t seed);

/// A plan for both variants over eight counts, with aims.
Head usual_head(int blocks, std::uint64_t seed);

/// The variants of a plan of this many ways, of which the third and later ones are cheap copies of the one
/// (Truth::ms_of).
void take_implementations(Head& head, int implementations);

/// What the real loop makes of a plan. `log_slowness`, unless nothing: for each run, how much longer each of its
/// measured frames took than on the fast machine.
Study measured_study(const Truth& truth, const Disturbance& noise, Head head,
                     std::vector<std::vector<float>>* log_slowness = nullptr);

}  // namespace mileage::simulated
