// Simulated machines with known truths on a virtual clock, to judge the real measuring loop.
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

/// Two variants.
struct Truth {
  std::string name;
  std::uint64_t seed = 0;  ///< Disturbances differ by truth.
  std::function<double(double)> one_ms;
  std::function<double(double)> other_ms;
  std::optional<LawKind> law;      ///< Of the one, if a law.
  std::optional<double> exponent;  ///< Of the one, without its fixed cost.
  double capacity = 0;             ///< Of the one, at 10 ms.
  double break_even = 0;           ///< 0 for none.
  bool sharp = false;              ///< Sharp knee near an aimed place.
  bool jumps = false;              ///< Answers may be the counts around a jump.

  /// Of whatever series, in place of the two: for studies over knobs.
  std::function<double(const Series&)> of_series;

  /// "one", "other"; "way 3", "way 4" ... are the one, each 1.25x slower.
  double ms_of(const std::string& variant, double n) const;
};

inline constexpr double budget_ms = 10;
/// While the machine is slow.
inline constexpr double slow_factor = 1.8;

/// Deviations on the log scale; durations as shares of a study.
struct Disturbance {
  std::string name;
  double run = 0.02;
  double frame = 0.02;
  double drift = 0;           ///< Smooth, seen by the yardstick.
  double drift_length = 0.1;  ///< Its correlation time.
  double spikes = 0;          ///< Share of runs at 1.3 to 2x.
  double slow_share = 0;      ///< Share of time at 1.8x.
  double slow_length = 0.1;   ///< Mean duration.
  /// A neighbour on the core for 1 ms after 1 to 5 ms away; the yardstick then takes 1.9x.
  bool flips = false;
  double one_slope = 1;  ///< Log frame time / log yardstick,
  double other_slope = 1;
  double slope_sd = 0;  ///< and its spread between studies, within 0 to 1.1.
  double place_sd = 0;  ///< Spread between counts.
  /// A neighbour with changing work, and another slope beyond 1.5x.
  bool bends = false;
  double remembered_sd = 0.01;  ///< Of the remembered full speed, log scale.
};

std::vector<Truth> truths();
std::vector<Disturbance> noises();

/// Arguments must outlive it.
std::unique_ptr<Runner> machine(const Truth& truth, const Disturbance& noise, scripted::VirtualClock& clock,
                                std::uint64_t seed);

/// Both variants over eight counts, with aims.
Head usual_head(int blocks, std::uint64_t seed);

/// The third and later are copies of the one (Truth::ms_of).
void take_implementations(Head& head, int implementations);

/// `log_slowness`: of each measured frame, by run, if wanted.
Study measured_study(const Truth& truth, const Disturbance& noise, Head head,
                     std::vector<std::vector<float>>* log_slowness = nullptr);

}  // namespace mileage::simulated
