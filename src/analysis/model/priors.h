// What the joint model assumes before it sees a run. Each with its unit, its meaning and its reason.
#pragma once

#include <cstddef>

namespace mileage::prior {

/// A parameter on the log scale: median and standard deviation of its logarithm.
struct LogNormal {
  double median;
  double log_sd;
};

// Noise of runs.
/// Degrees of freedom of Student's t. Few enough that one run at 5 sd moves a mean by less than its standard error.
inline constexpr double noise_df = 4;
/// Noise of a run at full speed, log scale: 2 % is what repeated processes scatter by; 1 to 4 % within one sd.
inline constexpr LogNormal noise{0.02, 0.7};
/// Further noise of a run per unit of log slowdown: programs respond to what the probe does not see.
inline constexpr LogNormal noise_of_slowdown{0.08, 0.8};
/// The same of runs that nothing probed: how slow the machine was is part of it.
inline constexpr LogNormal noise_without_probes{0.05, 0.7};
constexpr const LogNormal& noise_of_runs(bool are_probed) { return are_probed ? noise : noise_without_probes; }
/// Luck that the runs of one process share (where memory is), log scale; without probes, how slow the machine was too.
inline constexpr double process_luck = 0.012;
constexpr double luck_of_process(bool are_probed) { return are_probed ? process_luck : noise_without_probes.median; }

// Curves: log ms over log count.
/// Standard deviation of a curve's height: anything from microseconds to minutes.
inline constexpr double height_sd = 5;
/// Slope of a curve, its exponent: linear, from constant to quadratic within three sd.
inline constexpr double slope_mean = 1;
inline constexpr double slope_sd = 0.35;
/// Change of the exponent over a factor e of the count: 0.25 is a knee of 1.5 within a factor of 2 or so.
inline constexpr LogNormal bend{0.25, 0.7};

// Response to slowdown: log cost over log slowdown of the probe.
/// Slope up to a slowdown of 1.5, and beyond; frames respond less than the probe, which is arithmetic alone.
inline constexpr double response_mean = 0.75;
inline constexpr double far_response_mean = 0.55;
/// How these differ from machine to machine (shared by all variants),
inline constexpr double response_sd = 0.18;
inline constexpr double far_response_sd = 0.25;
/// from variant to variant,
inline constexpr double response_of_variant_sd = 0.15;
/// and along the count: small counts are in a cache.
inline constexpr LogNormal response_along_count{0.12, 0.5};
/// Log distance over which that changes: a factor of 4, as from cache to cache.
inline constexpr double response_length = 1.386;
/// Log slowdown at which the slope changes: 1.5.
inline constexpr double response_knee = 0.405;
/// Share of the slope's variance that changes with the slowdown itself, so that what is seen of slow runs extrapolates
/// to full speed in part only.
inline constexpr double response_change = 0.4;

// Response to waiting: log cost over the time that threads waited for a core, relative to the frames' own. What they
// find cold after others had the core costs up to a fifth of what the others took.
inline constexpr double waiting_response_mean = 0.08;
inline constexpr double waiting_response_sd = 0.05;
inline constexpr double waiting_response_of_variant_sd = 0.03;

// Drift of the machine during a study, log scale: shared, and of each variant.
inline constexpr LogNormal drift{0.01, 1};
inline constexpr LogNormal drift_of_variant{0.01, 1};
/// How long half of its variance lasts, in blocks; the other half is that of whole blocks.
inline constexpr double drift_blocks = 4;

// Full speed, log scale.
/// Error of a remembered one: it differs between hours of one idle machine.
inline constexpr double remembered_full_speed_sd = 0.015;
/// How much slower than full speed the fastest runs of a study are, on average.
inline constexpr double fastest_slowdown = 0.02;
/// The same of a machine that was steady: frequencies drift by this over hours.
inline constexpr double least_fastest_slowdown = 0.009;
/// Error of the fastest probes.
inline constexpr double probe_error = 0.004;

// Latent slowdown.
/// Largest log slowdown expected of a machine whose cores are shared by two: nearly 2, or 5 % above what is seen.
inline constexpr double min_largest_slowdown = 0.642;

// Steps.
/// Standard deviation of a step, log scale, and the log Bayes factor from which one is accepted: odds of 100 to 1, for
/// one of the gaps of a study has one by chance else.
inline constexpr double step_sd = 0.3;
inline constexpr double step_evidence = 4.6;
/// Log width of a gap that a step is looked for in: wider ones hide any shape.
inline constexpr double max_step_gap = 1.792;

// Names.
/// By how much real programs differ from any law, log scale; where none comes so close, by how much at most.
/// Curves known worse than that have no name: N and N log N differ by as much over a factor of ten.
inline constexpr double law_deviations[] = {0.03, 0.1};

// Verdicts and numerics.
/// A verdict needs this share of draws; intervals are between it and its complement: 95 %.
inline constexpr double sure_share = 0.975;
/// Draws: the share beyond an end of an interval is known within a fifth.
inline constexpr int draws = 1000;
/// Places from which a curve goes on beyond the last, and how far: at twice the count nothing is known any more of
/// knees and jumps that may come.
inline constexpr std::size_t places_to_extrapolate = 3;
inline constexpr double farthest_extrapolation = 2;
/// Rows that curves are drawn from: more runs than this are averaged within cells first. What that loses of how frames
/// respond to slowdown is below a tenth of an interval.
inline constexpr int max_rows = 600;
/// Rows that hyperparameters are found on: from twice as many they change by a fraction of their error.
inline constexpr int max_fitted_rows = 160;
/// Hyperparameters are proposed this many times, by a t distribution as wide as that of noise, so that no importance
/// weight is far above the others.
inline constexpr int proposals = 10;

}  // namespace mileage::prior
