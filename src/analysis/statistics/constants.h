// Constants of answers and evidence; those of the joint model are in model/priors.h. Chosen by judgement where no
// source is given; `bench/coverage` checks the whole. Shares, ratios and log values have no unit.
#pragma once

#include <cstddef>
#include <cstdint>

namespace mileage {
/// 97.5 % point of the normal distribution.
inline constexpr double normal_95 = 1.96;

// ---- Agreement ----

/// Relative tolerance of updates per frame, for a reference that always makes the same number,
inline constexpr double same_updates = 1e-3;
/// and for one that varies.
inline constexpr double similar_updates = 0.02;
/// Share of frame time above which threads count as always running: resolution of CPU clocks.
inline constexpr double runs_all_the_time = 0.9;

// ---- Uneven frames ----

/// Mean / typical frame. Flips between full speed and 2.3x give 1.09, noise of 30 % gives 1.05, work deferred to every
/// second frame 1.4.
inline constexpr double uneven_beyond = 1.25;
/// Spikes excluded from it; the 99th percentile covers them.
inline constexpr double rare_frames_share = 0.01;
/// Share of frames over budget from which the mean decides.
inline constexpr double many_frames_over = 0.05;
/// Last quarter of a run / first, after warm-up.
inline constexpr double rise_ratio = 1.5;
/// Share of runs that must show it.
inline constexpr double max_runs_share = 0.75;
/// Load disturbs two runs by chance, three hardly.
inline constexpr std::size_t runs_to_see_unevenness = 3;
/// One in twenty is 5 %.
inline constexpr std::size_t frames_to_see_kinds = 20;
/// Quarters of five frames.
inline constexpr std::size_t frames_to_see_a_climb = 20;

// ---- Disturbed runs ----

/// Slowdown. On recorded noise, 1.34 and 1.6 discarded more than half of the runs without better coverage.
inline constexpr double condemned_beyond = 2.0;
/// Ratio to the remembered full speed. Frequencies drift by less.
inline constexpr double same_speed_within = 1.15;
/// Runs that show full speed. Over 22 recorded studies of one machine, it varied by 8 %, that of 25 % by 11 %.
inline constexpr double fast_runs_share = 0.05;
/// Runs that must be near the remembered full speed: more than a few lucky ones.
inline constexpr double runs_of_a_fast_study = 0.25;
/// Share of CPU time taken by the host.
inline constexpr double stolen_beyond = 0.25;
/// Run time for which 10 ms steps of the system's clock are 5 %.
inline constexpr double load_known_from_s = 0.2;
/// d log cost / d log slowdown: mean of 19 recorded slopes (0.25 to 0.70).
inline constexpr double usual_slope = 0.55;
/// Frame time halfway between one machine state and an average of many: about three times the duration of states
/// recorded on a shared core (1 to 5 ms).
inline constexpr double states_last_ms = 2.25;
/// Of samples, at each end: then 2 % of frames at 5x shift nothing.
inline constexpr double cut_share = 0.05;

// ---- Few repetitions ----

/// t of two is 12.7.
inline constexpr std::size_t min_processes_for_interval = 3;
/// Fewer are warned about.
inline constexpr std::size_t blocks_for_trust = 5;

// ---- Growth ----

/// Places of the growth at the large end: three counts of a span.
inline constexpr double large_end_within = 5;
/// Of the smallest cost; smaller ones are omitted.
inline constexpr double share_of_a_fixed_cost = 1e-3;

// ---- 99th percentile of frames ----

/// Ten are beyond it.
inline constexpr std::size_t frames_for_tail = 1000;
/// Ratio of places.
inline constexpr double tail_pooled_within = 1.35;
/// Two are always on one.
inline constexpr int tail_places_for_a_line = 3;
/// Ratio of places. 3.5 biased percentiles on a loaded machine by 0.5 %.
inline constexpr double tail_line_within = 2;
/// Measuring the capacity for 99 %: five blocks of three runs,
inline constexpr double runs_for_99 = 5 * 3;
/// warm-up included,
inline constexpr double frames_of_a_run_for_99 = 110;
/// in the blocks' share of a study's time,
inline constexpr double share_of_blocks = 2.0 / 3;
/// rounded up.
inline constexpr double times_in_steps_of_s = 5;

// ---- Resolution of answers ----

inline constexpr int break_even_places = 200;
inline constexpr int choice_places = 240;
inline constexpr int loss_places = 120;
/// Multiple of the minimum saving that may be lost while waiting for a simpler variant.
inline constexpr double choice_patience = 2;

// ---- Load ----

/// Mean slowdown from which the note comes first: a neighbour for a third of the time.
inline constexpr double busy_machine_beyond = 1.25;
/// Cores used by others from which they may have been missing: half a core, in 10 ms steps.
inline constexpr double others_on_cores = 0.4;
/// Share of time waited. Two workers on two free cores wait for up to 0.6,
inline constexpr double cores_may_lack_from = 0.6;
/// next to two programs for 0.88 to 1.
inline constexpr double cores_lack_from = 0.85;
/// Share of time waited; an idle desktop has less.
inline constexpr double load_reported_beyond = 0.05;
/// Beyond any memory.
inline constexpr double axis_max_count = 1e9;

// ---- Memory growth ----

inline constexpr double growth_that_counts_bytes = 256.0 * 1024.0;
inline constexpr std::size_t runs_for_growth = 3;
/// A variant that allocates every frame grew over the first eight.
inline constexpr std::int64_t frames_for_growth = 10;
/// Second half / first.
inline constexpr double goes_on_share = 0.25;

// ---- Waiting and devices ----

/// Device time / time waited; drivers without timers report little,
inline constexpr double min_timer_share = 0.5;
/// and none more.
inline constexpr double max_timer_share = 1.05;
/// Busy share of wall time; others may take half a core.
inline constexpr double frames_wait_below = 0.5;
/// The same relative to the busiest series.
inline constexpr double waits_more_than_others_below = 0.85;

// ---- What is named with a result ----

/// Ratio of memory at a knee to the cache.
inline constexpr double about_a_cache = 2;
/// Ratio of a knee to the knob's value.
inline constexpr double about_a_knob = 1.25;
/// Smaller values match almost any count.
inline constexpr double smallest_knob_named = 8;
/// Ratio of counts that are not recorded again.
inline constexpr double recording_close_by = 1.15;
inline constexpr double recording_step_beyond = 2;
/// Median / period of a capped display.
inline constexpr double cap_holds_within = 1.01;
/// Ratio to the settled frame.
inline constexpr double calm_within = 1.1;
/// Ratio of arrival sizes pooled; below a doubling.
inline constexpr double alike_sizes_within = 1.5;
/// Ratio of places to the crossing.
inline constexpr double near_an_arrival = 2;
/// Up to this number all are shown.
inline constexpr std::size_t few_places = 4;
/// Above it, a table shows one place.
inline constexpr std::size_t max_rows_shown = 15;
/// Columns that fit a terminal.
inline constexpr std::size_t max_map_places = 7;
/// Ratio of places for phases and counters.
inline constexpr double same_place_within = 1.25;
/// Ratio of largest to smallest; set-up times scatter by less.
inline constexpr double trait_differs_from = 1.2;

// ---- Spikes ----

/// Ratio to the frames around and to the typical one.
inline constexpr double spike_over = 1.5;
/// On each side: spikes last up to five frames.
inline constexpr std::ptrdiff_t frames_around = 5;
/// Shown in figures.
inline constexpr std::size_t frames_of_beginning = 60;
/// Shown in figures.
inline constexpr std::size_t max_sorted = 400;
/// Low, since many cells are tested.
inline constexpr double period_p_value = 0.001;
inline constexpr std::size_t shortest_period = 3;
inline constexpr std::size_t hits_for_a_period = 3;
/// Of the period.
inline constexpr double early_or_late_share = 0.02;
/// The search is quadratic.
inline constexpr std::size_t max_events_of_a_run = 200;

// ---- Limits ----

/// Share of a resource. Threads switch, clocks differ by a few percent.
inline constexpr double used_up = 0.8;
/// The same of a bare pass over memory.
inline constexpr double used_up_traffic = 0.7;
inline constexpr double mostly = 0.5;
/// Cores used from which a frame is parallel.
inline constexpr double many_cores_from = 1.25;
/// Share of the frame.
inline constexpr double waits_from = 0.25;
/// Of the ideal saving.
inline constexpr double useful_share_of_a_worker = 0.3;
/// Ratio of CPU time with more workers.
inline constexpr double grows_with_workers = 1.3;

// ---- Tuning ----

inline constexpr std::size_t values_to_tune = 3;
/// One more than terms.
inline constexpr std::size_t values_for_scaling = 4;
/// Share of the time.
inline constexpr double min_saved_by_a_worker = 0.05;
/// Cores used beyond the workers asked for.
inline constexpr double workers_within = 0.2;
inline constexpr int places_of_a_map = 9;

// ---- Breakdown ----

/// Relative deviation of counters.
inline constexpr double expected_within = 0.005;
/// Per frame.
inline constexpr double reported_page_faults = 0.5;
/// Without a larger one a frame would take no time.
inline constexpr double max_share_of_a_phase = 0.98;

// ---- Numerics ----

inline constexpr int steps_of_a_curve = 160;
/// Exponents or knees tried before refining: between neighbours there is one minimum.
inline constexpr int shapes_looked_at = 24;
/// For the jackknife: the number of slow periods in a run.
inline constexpr int parts_of_a_run = 10;

}  // namespace mileage
