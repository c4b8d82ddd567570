// Assumptions of the joint model, each with unit and reason. Log scale unless stated.
#pragma once

#include <cstddef>

namespace mileage::prior {

/// Median, and standard deviation of the logarithm.
struct LogNormal {
  double median;
  double log_sd;
};

// Noise of runs.
/// Degrees of freedom of Student's t: one run at 5 sd moves a mean by less than its standard error.
inline constexpr double noise_df = 4;
/// Of a run at full speed: repeated processes scatter by 1 to 4 %.
inline constexpr LogNormal noise{0.02, 0.7};
/// More per unit of log slowdown: programs respond to what the probe does not see.
inline constexpr LogNormal noise_of_slowdown{0.08, 0.8};
/// Without probes: includes the slowdown.
inline constexpr double noise_without_probes = 0.05;
constexpr double noise_of_runs(bool are_probed) { return are_probed ? noise.median : noise_without_probes; }
/// Shared by the runs of one process (memory layout); without probes, also the slowdown.
inline constexpr double process_luck = 0.012;
constexpr double luck_of_process(bool are_probed) { return are_probed ? process_luck : noise_without_probes; }

// Curves: log ms over log count.
/// Of a curve: anything from microseconds to minutes.
inline constexpr double height_sd = 5;
/// Exponent: linear; constant and quadratic are three sd away.
inline constexpr double slope_mean = 1;
inline constexpr double slope_sd = 0.35;
/// Change of the exponent over a factor e of the count; 0.25 is a knee of 1.5x within a factor of 2.
inline constexpr LogNormal bend{0.25, 0.7};

// Response to slowdown: log cost over log slowdown of the probe.
/// Below and above a slowdown of 1.5x; frames respond less than the arithmetic of a probe.
inline constexpr double response_mean = 0.75;
inline constexpr double far_response_mean = 0.55;
/// Standard deviation between machines,
inline constexpr double response_sd = 0.18;
inline constexpr double far_response_sd = 0.25;
/// between variants,
inline constexpr double response_of_variant_sd = 0.15;
/// and along the count: small counts are in caches.
inline constexpr LogNormal response_along_count{0.12, 0.5};
/// Log distance of that change: a factor of 4, as between caches.
inline constexpr double response_length = 1.386;
/// Log slowdown at which the slope changes.
inline constexpr double response_knee = 0.405;
/// Share of the slope's variance that depends on the slowdown, so that slow runs extrapolate to full speed only in
/// part.
inline constexpr double response_change = 0.4;

// Response to waiting: log cost per time waited for a core / own frame time. Cold caches cost up to a fifth of it.
inline constexpr double waiting_response_mean = 0.08;
inline constexpr double waiting_response_sd = 0.05;
inline constexpr double waiting_response_of_variant_sd = 0.03;

// Drift during a study: shared, and per variant.
inline constexpr LogNormal drift{0.01, 1};
inline constexpr LogNormal drift_of_variant{0.01, 1};
/// Correlation length of half of its variance, in blocks; the other half is per block.
inline constexpr double drift_blocks = 4;

// Full speed.
/// Error of the remembered one: variation between hours of an idle machine.
inline constexpr double remembered_full_speed_sd = 0.015;
/// Mean slowdown of the fastest runs of a study,
inline constexpr double fastest_slowdown = 0.02;
/// and on a steady machine: frequencies drift by this over hours.
inline constexpr double least_fastest_slowdown = 0.009;

// Latent slowdown.
/// Largest log slowdown of a core shared by two: nearly 2x, or 5 % above the largest seen.
inline constexpr double min_largest_slowdown = 0.642;

// Steps.
/// Standard deviation of a step, and the log Bayes factor that accepts one: 100 to 1, since a study has many gaps.
inline constexpr double step_sd = 0.3;
inline constexpr double step_evidence = 4.6;
/// Log width of gaps searched: wider ones hide any shape.
inline constexpr double max_step_gap = 1.792;

// Names.
/// Deviation of real programs from a law; if none is so close, the most accepted. Curves less certain than that have no
/// name: N and N log N differ by 10 % over a factor of ten.
inline constexpr double law_deviations[] = {0.03, 0.1};

// Verdicts and numerics.
/// Share of draws for a verdict; intervals hold 95 %.
inline constexpr double sure_share = 0.975;
/// The share beyond an end of an interval is then known to a fifth.
inline constexpr int draws = 1000;
/// Extrapolation needs this number of places and ends at this multiple of the last: further on, knees and steps are
/// unknown.
inline constexpr std::size_t places_to_extrapolate = 3;
inline constexpr double farthest_extrapolation = 2;
/// More rows are averaged within cells; the loss is below a tenth of an interval.
inline constexpr int max_rows = 600;
/// Rows for hyperparameters: twice as many change them by a fraction of their error.
inline constexpr int max_fitted_rows = 160;
/// Hyperparameters proposed at twice that number of rows, t-distributed like noise, which balances importance weights.
inline constexpr int proposals = 10;

}  // namespace mileage::prior
