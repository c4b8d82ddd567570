// All constants of the analysis, as one table: value, unit, what it decides, and how it was found.
// - Simulated: intervals covered and names held with it in simulated studies; `bench/coverage` checks the whole.
// - Calculated: it follows from what is said beside it.
// - Chosen: by judgement; nothing but `bench/coverage` speaks for just this value.
// Factors, shares and log values have no unit.
#pragma once

#include <cstddef>
#include <cstdint>

namespace mileage {

/// 97.5 % point of the normal distribution: half-width of a 95 % interval in standard errors.
inline constexpr double normal_95 = 1.96;

// ---- Agreement: whether variants do the same work ----

/// Relative differences of updates a frame that are none: where every run of the reference makes the same number of
/// them, and where they vary. Chosen.
inline constexpr double same_updates = 1e-3;
inline constexpr double similar_updates = 0.02;

/// Blocks that are excluded one by one; of more, neighbours are pooled. Calculated: t of 29 degrees of freedom is 4 %
/// above that of infinitely many.
inline constexpr std::size_t max_blocks_left_out = 30;

/// Share of a frame's time from which its threads run all the time: clocks of processor time are coarser than this.
inline constexpr double runs_all_the_time = 0.9;

// ---- Uneven frames: where a mean describes them, and no typical one ----

/// Ratio of mean to typical frame from which frames are of several kinds. Calculated: a machine that flips between full
/// speed and 2.3x for half of the time makes 1.09, noise of 30 % makes 1.05; work put off to every second frame makes
/// 1.4 and more where the others take up to a tenth of it.
inline constexpr double uneven_beyond = 1.25;
/// Share of frames that are spikes, and no kind of frame: 99 % of frames is the figure for them.
inline constexpr double rare_frames_share = 0.01;
/// Share of frames over the budget from which the typical frame says too little. Chosen: one in twenty is seen.
inline constexpr double many_frames_over = 0.05;
/// Last quarter of a run relative to its first. Chosen: a machine that changes its speed in the middle of most runs is
/// not met; warm-up is over by then.
inline constexpr double rise_ratio = 1.5;
inline constexpr double max_runs_share = 0.75;
/// Chosen: a loaded machine disturbs two runs of a place by chance, three hardly.
inline constexpr std::size_t runs_to_see_unevenness = 3;
/// Calculated: one frame in twenty is 5 %; quarters of five frames have means.
inline constexpr std::size_t frames_to_see_kinds = 20;
inline constexpr std::size_t frames_to_see_a_climb = 20;

// ---- The yardstick: which runs are disturbed ----

/// Factor over the machine's full speed above which a run is disturbed. Simulated: on recorded noise, 1.34 and 1.6
/// throw away 1.6 to 1.9 runs for each that is kept and cover no better; where the machine is never fast, they leave
/// a third of small studies without an answer.
inline constexpr double condemned_beyond = 2.0;
/// Factor over the remembered full speed from which a study counts as slow throughout, and under it from which the
/// machine counts as another. Chosen: frequencies drift by
/// less.
inline constexpr double same_speed_within = 1.15;
/// Of the runs, the share that shows full speed of a study. Recorded: over 22 studies of one machine, the slowdown
/// of a quarter of the runs moved with how busy it was, within 11 %, that of a twentieth within 8 %.
inline constexpr double fast_runs_share = 0.05;
/// Of the runs, the share whose slowdown says whether a study was fast at all. Chosen: a few lucky runs do not make it
/// fast, and a machine that is slow for half of the time has this many.
inline constexpr double runs_of_a_fast_study = 0.25;
/// Share of all cores' time, taken by the machine's host, above which a run is disturbed. Chosen.
inline constexpr double stolen_beyond = 0.25;
/// Seconds of a run from which its load counts. Calculated: the system counts in steps of 10 ms, 5 % of it.
inline constexpr double load_known_from_s = 0.2;

// ---- Adjusting by the yardstick: bringing runs to full speed ----

/// Change of log cost per unit of log slowdown by which moments of long frames are averaged, before a series has told
/// its own: the mean of 19 recorded slopes (0.25 to 0.70).
inline constexpr double usual_slope = 0.55;
/// Slowdown from which on the slope may be another, log scale. Recorded: at 1.5 times full speed a neighbour is on the
/// core all the time. Up to there the share of his time counts, and beyond it what he does.
inline constexpr double bend_slowdown = 0.4;
/// The slopes up to the bend and beyond it, and their standard deviations, before anything is known of a series; counts
/// are placed by them, too. Recorded: means of 0.55, 0.85 and 0.95 on three machines, 0.1 to 1.4 each, and 0.15 to 0.5
/// beyond the bend beside a neighbour; time that the host takes away has 1 everywhere. Simulated: with them, intervals
/// also hold where one slope between 0 and 1.1 goes all the way.
inline constexpr double slope_prior_mean = 0.8;
inline constexpr double slope_prior_sd = 0.22;
inline constexpr double slope_prior_mean_beyond_bend = 0.45;
inline constexpr double slope_prior_sd_beyond_bend = 0.44;
/// Mean slowdown from which its parts below and beyond the bend are known; up to it, all lies below. Chosen: about the
/// deviation of full speed.
inline constexpr double min_mean_level = 0.01;
/// Standard deviation by which slopes differ between places of a series, and the factor between places at which they
/// still correlate by 0.61. Recorded: 1.25 at small counts and 0.9 at large ones, 1.0 and 0.6, 1.1 and 0.9, 1.05 and
/// 0.5.
inline constexpr double place_slope_sd = 0.2;
inline constexpr double slopes_alike_within = 50;
/// Share of its variance that a place has for itself. Simulated: with a thousandth, 91 % of 99 % capacities held where
/// the machine was slow half of the time.
inline constexpr double min_independent_slope_variance_share = 0.015;
/// Variance of a series' costs that no slowdown tells, per unit of the mean slowdown, log scale, the slowdown from
/// which on, and the most that it comes to. Others also take caches and memory, and for hours: a study only shows how
/// they come and go, and by how much does not go with how much of the core they have. Recorded: over 50 studies of
/// seven hours, 91 % of pairs agree without it, and 94 % with it; without a most, 91 % of pairs of the faster half of
/// them.
inline constexpr double unexplained_by_slowdown = 0.003;
inline constexpr double unexplained_from = 0.03;
inline constexpr double max_unexplained = 0.00035;
/// Share of the variance of all points from which one way of moving together counts in the uncertainty of an exponent.
/// Chosen: the rest is a tenth of it at most.
inline constexpr double min_mode_variance_share = 0.01;
/// Standard deviation of blocks beside what the slowdown does to them, log scale. Simulated.
inline constexpr double block_sd_beside_slowdown = 0.04;
/// Noise of a run, at least, that slopes are compared with, log scale. Simulated.
inline constexpr double min_slope_noise = 0.02;
/// Slowdown at which a run counts half, log scale. Simulated: with 0.3, runs of which the slowdown was read too low by
/// chance counted too much, and costs of long frames came out half a per cent too high beside a loaded neighbour.
inline constexpr double half_weight_slowdown = 0.6;
/// Milliseconds of a frame that lies halfway between those of one state of the machine and those that average over
/// many. Simulated: about three times the time for which states of a shared core stay alike, of which fast stretches of
/// 1 to 5 ms and slow ones of 1 ms were recorded.
inline constexpr double states_last_ms = 2.25;
/// How far probes see the very frames beside them, where frames between two probes are short against that: share of
/// what the reliability by both halves lacks to 1. Simulated: 0.5 at 1 ms between probes, 0.1 to 0.15 at 10 ms.
inline constexpr double seen_beside_probes = 0.72;
/// Runs by which the reliability of a row's slowdowns is drawn to that of the whole table. Chosen: as many as a short
/// study has.
inline constexpr double runs_for_reliability = 4;
/// The same of blocks, which are drawn to being reliable: they mostly hold many runs. Simulated.
inline constexpr double blocks_for_reliability = 0.5;
/// Fits of the slope: noise is known by what the last one leaves. Chosen: the third changes nothing.
inline constexpr int slope_rounds = 3;
/// Standard deviation of full speed, log scale: where the study itself was fast, where it rests on what is
/// remembered of the machine, and at most where nothing is remembered: then it is what both shares of runs above
/// differ by. Simulated: with 0.007, 92 % of capacities hold where frames follow the yardstick steeply. Recorded:
/// slowdowns of 22 studies of one machine differed by 0.026, and both shares in them by 0.027.
inline constexpr double min_full_speed_sd = 0.009;
inline constexpr double remembered_full_speed_sd = 0.02;
inline constexpr double max_full_speed_sd = 0.03;
/// Factor over the remembered full speed within which a study was fast itself. Chosen: what frequencies drift by.
inline constexpr double full_speed_seen_within = 1.03;

/// Share of a run's samples cut off at each end of their order. Simulated: 2 % of frames that take five times as long
/// then shift nothing.
inline constexpr double cut_share = 0.05;

// ---- Means of cells: rows and blocks, spikes clipped ----

/// Robust deviations at which a residual is pulled in. Simulated: halves the bias that 5 % of spiked runs cause.
inline constexpr double clip_at_deviations = 2.0;
/// Refits at most. Chosen: by cost.
inline constexpr int clipping_rounds = 60;
/// Change of the log mean below which a fit has settled. Chosen: far below what any clock tells.
inline constexpr double converged_within = 1e-10;
/// Share of a row inside the limit, at least, in its variance. Calculated: no more than half can be spikes.
inline constexpr double min_share_inside = 0.5;
/// Runs of a row from which it tells a spike from its value. Calculated: of two, none is the odd one.
inline constexpr double min_runs_for_spikes = 3;

// ---- What is assumed where too little was repeated ----

/// Standard deviations between runs and between blocks, on the log scale. Chosen: typical of quiet machines; the
/// answer says that they are assumed.
inline constexpr double assumed_run_sd = 0.04;
inline constexpr double assumed_block_sd = 0.05;
/// Blocks of which such intervals take Student's t. Chosen: as careful as a usual study.
inline constexpr std::size_t assumed_blocks = 5;
inline constexpr double assumed_degrees = assumed_blocks - 1;
/// Processes from which their spread gives an interval of its own. Calculated: t of two is 12.7.
inline constexpr std::size_t min_processes_for_interval = 3;
/// Blocks below which a warning says that intervals lean on few. Simulated: 5 blocks
/// and more cover 94 to 97 %.
inline constexpr std::size_t blocks_for_trust = 5;
/// Standard deviation on the log scale below which differences mean nothing. Chosen: no clock is that good.
inline constexpr double min_sd = 1e-6;

// ---- Drift of the machine during a study ----

/// Residuals and blocks from which a drift is looked for. Chosen: fewer show one by chance too often.
inline constexpr std::size_t drift_fewest_runs = 12;
inline constexpr std::size_t drift_fewest_blocks = 3;
/// Robust deviations beyond which a residual is a spike and no drift. Calculated: 1.2 % of normal noise lies outside.
inline constexpr double drift_spike_beyond = 2.5;
/// Factor over the variance of a mean of independent runs from which something speaks for a drift. Simulated: three
/// of four series of independent runs show less.
inline constexpr double drift_more_than_chance = 1.5;
/// Independent stretches of drift that a study is taken to have seen. Chosen: not known, and few.
inline constexpr std::size_t stretches_of_drift = 3;

// ---- Laws ----

/// p-value below which a law is rejected. Simulated: names at most 1 % of simple laws wrongly; 5 % names up to 3.2 %.
inline constexpr double law_rejected_below = 0.01;
/// Where noise rejects every law up to one knee, a law is tested against noise and deviations from the law of this size
/// at each place; where they reject it too, the simplest one within the nearer share of every point names the curve, or
/// else within the farther one. A richer law must cut the largest deviation to this share of a simpler one. Simulated:
/// with 15 % and a half, clean sums of a line and a square became squares in 84 to 90 % of studies; with these, laws
/// are named as well with deviations from the law of 3 % as without.
inline constexpr double law_deviation_sd = 0.03;
inline constexpr double near_law_within = 0.1;
inline constexpr double rough_law_within = 0.2;
inline constexpr double richer_law_share = 1.0 / 3;
/// Standard errors of a mean that no law is blamed for. Calculated: 95 % of them.
inline constexpr double errors_of_a_mean = 2;
/// Factor below the largest place within which the growth at the large end is read. Chosen: three counts of a span.
inline constexpr double large_end_within = 5;
/// Share of the least cost that a fixed cost has to be to be named. Chosen: no noise is so small.
inline constexpr double share_of_a_fixed_cost = 1e-3;
/// Blocks and places from which laws are tested. Calculated: fewer tell too little noise, or are fitted by any law.
inline constexpr int blocks_for_laws = 3;
inline constexpr int places_for_laws = 3;
/// Largest factor beyond the counts measured that a law is trusted to. Simulated: unforeseen knees and jumps of a
/// factor of two and more make a third to a half of intervals miss already there.
inline constexpr double farthest_extrapolation = 2.0;
/// What widens an interval beyond the counts measured: its upper end at once and for each doubling; the distance of its
/// lower end from the range shrinks by the knee that may come. Simulated: with these, 98 to 100 % of intervals hold
/// where a knee of 1.25 or 1.5 comes at a random place, 3 to 49 % without.
inline constexpr double beyond_range_high = 1.02;
inline constexpr double beyond_range_each_doubling = 0.03;
inline constexpr double knee_beyond_range = 1.4;
/// Factor beyond the counts measured up to which ends of such intervals are looked for. Chosen: farther ones are open.
inline constexpr double ends_looked_for = 64;
/// Exponents of a power that are tried, from, to, and how many to start with. Chosen: 6 is beyond what a frame can
/// bear.
inline constexpr double min_exponent = 0.02;
inline constexpr double max_exponent = 6.0;
inline constexpr int exponents_looked_at = 24;
/// Places of a knee looked at between two neighbouring points, for one knee and for two. Chosen: by cost of the search.
inline constexpr int looks_for_one_knee = 4;
inline constexpr int looks_for_two_knees = 1;
/// Steps of a fit whose shape is given, and of a first look at a shape. Chosen: by cost.
inline constexpr int steps_to_the_end = 60;
inline constexpr int steps_of_a_look = 4;
/// Share of the squared residuals that a coefficient must save to count as present. Chosen: rounding is smaller.
inline constexpr double saves_nothing = 1e-9;
/// Columns of a law's matrix and free parameters of a law, at most. Calculated: two knees have fixed, three slopes, two
/// places. On the stack, since fits make millions of them.
inline constexpr int law_columns = 4;
inline constexpr int law_parameters = 6;

// ---- Reading near a place: local fits and interpolation ----

/// A window holds this many points within this factor, else the smaller number within the smaller factor. Simulated: a
/// quadratic on the log scale through 5 counts within 30 % covers 93 to 97 %. The factors: chosen around that, and so
/// that a value a tenth beside the middle one of three counts around a figure is read from all of them.
inline constexpr std::size_t many_points = 5;
inline constexpr double many_within = 1.6;
inline constexpr std::size_t few_points = 3;
inline constexpr double few_within = 1.4;
/// Share of the runs of the best measured point from which a point belongs to the window. Chosen.
inline constexpr double few_runs_share = 0.5;
/// Factor within which two places stand side by side. Chosen.
inline constexpr double side_by_side = 1.05;
/// p-value below which points scatter around the local fit by more than noise. Chosen: the usual one.
inline constexpr double scatters_below = 0.05;
/// Degrees of freedom that usual deviations from the law of places (law_deviation_sd) count beside how points scatter.
/// Chosen: a single degree of freedom has a t-factor of 12.7, and told a capacity within a factor of two where its cost
/// was known to 6 %.
inline constexpr int degrees_of_law_deviation = 3;
/// Standard deviation of the bend of a local reading before points tell it: what the square of the log of the count
/// counts in the log cost. Simulated: with it, intervals hold as often as with a free bend, and are 5 to 24 % narrower;
/// with 0.1, 81 % of capacities held between two knees on a quiet machine.
inline constexpr double local_bend_sd = 0.2;
/// Factor outside its window up to which a local reading is taken. Chosen.
inline constexpr double outside_window_by = 1.25;
/// Distance on the log scale within which a law must lie from every point to lend its shape between them. Chosen.
inline constexpr double near_a_point = 0.1;
/// Factor within which points make one group of the interpolant, and the gap above which a group of few runs stays.
/// Chosen: counts of a span stand about 2.2 apart.
inline constexpr double close_together = 1.25;
inline constexpr double wide_gap = 4;

/// Variances by noise that are subtracted the square of a bend of a difference; of a single curve it is one. Simulated:
/// with one, shares of two series held 97.1 to 97.8 % of the truths, with this many 96.1 to 97.
inline constexpr double bend_of_two_beyond = normal_95 * normal_95;

// ---- Steps: jumps in cost between two neighbouring counts ----

/// Factor beyond what the neighbouring gaps let expect from which a gap is a step, and how many times the 95 % limit of
/// that by noise. Simulated: at most 0.1 % of smooth gaps are called steps, 28 to 82 % of jumps by 1.2 and 92 to 100 %
/// of those by 1.5 are; with 1.36 times the limit, 92.6 % of intervals beside jumps hold on a machine that drifts.
inline constexpr double step_beyond_neighbours = 1.15;
inline constexpr double step_beyond_noise = 1.15;
/// Factor between two places up to which a rise between them may be a step. Chosen: simulated up to 2.4; over wider
/// gaps costs bend.
inline constexpr double widest_step = 2.5;
/// Share of the weight of the best measured place from which a place has steps, and runs of one while a study is
/// made. Calculated: with fewer, one spike looks like a step.
inline constexpr double often_measured_share = 1.0 / 3;
inline constexpr int min_runs_for_steps = 2;
/// Places that a step takes. Calculated: two on either side.
inline constexpr int min_places_around_a_step = 4;
/// Degrees of freedom of an assumed noise. Calculated: t of this many is the normal distribution.
inline constexpr int degrees_of_known_noise = 1000;

// ---- The 99 % end of frames ----

/// Share of frames that lie below the end. What "99 % of frames" means.
inline constexpr double tail_share = 0.99;
/// Pooled frames from which the end is known. Calculated: ten frames lie beyond it.
inline constexpr std::size_t frames_for_tail = 1000;
/// Factor within which frames of places are pooled. Chosen: aimed counts share one end.
inline constexpr double tail_pooled_within = 1.35;
/// Places from which the end follows a line over counts. Calculated: two always lie on one.
inline constexpr int tail_places_for_a_line = 3;
/// Factor within which places tell where the end lies at one of them. Simulated: with 3.5, ends beside a loaded
/// neighbour lay half a per cent too high.
inline constexpr double tail_line_within = 2;
/// Half-width of a 99 % end from runs that are fast in part and slow in part, as a share of how far the bend of their
/// slopes deviates from a straight line. Simulated: with 0.5, 90 % hold beside a neighbour.
inline constexpr double uncertainty_of_bend = 1.2;

// ---- Crossings: capacities and break-evens ----

/// Places looked at for a change of sign. Chosen: by cost.
inline constexpr int crossing_places = 400;
/// Halvings at most. Calculated: double precision ends long before.
inline constexpr int steps_of_a_search = 200;
/// Accuracy of a root and of an interval's end, on the log scale. Chosen: far below any interval.
inline constexpr double root_is_known_within = 1e-11;
inline constexpr double end_is_known_within = 1e-6;
/// What the capacity for 99 % of frames takes: five blocks of three runs of this number of frames, warm-up included, in
/// the share of the time that checks, range finding and aiming leave to blocks. Calculated; tests measure so long and
/// get an answer.
inline constexpr double runs_for_99 = 5 * 3;
inline constexpr double frames_of_a_run_for_99 = 110;
inline constexpr double share_of_blocks = 2.0 / 3;
inline constexpr double times_in_steps_of_s = 5;
/// Between the only two counts of a series the shape is not known: the reading is that of the straight line in log-log,
/// and its interval holds all laws of a constant plus such a power. Chosen: what systems of games grow with.
inline constexpr double smallest_power = 0.5;
inline constexpr double largest_power = 2;
/// Log slope that a flatter cost is taken to have, so that its capacity is wide instead of none. Chosen.
inline constexpr double min_slope = 0.05;
/// Places at which two variants are compared with each other. Chosen.
inline constexpr int break_even_places = 200;
/// Factor up to which the counts close around a crossing have it. Chosen.
inline constexpr double break_even_close_within = 1.12;

// ---- Choosing ----

/// Places at which variants are chosen between, and at which losses are known. Chosen.
inline constexpr int choice_places = 240;
inline constexpr int loss_places = 120;
/// Places along the range at which it is known from where on a change pays off, and halvings between two of
/// them. Chosen: 2 % apart over two decades, then to less than a millionth.
inline constexpr int pays_off_places = 200;
inline constexpr int pays_off_search_steps = 15;
/// How often the stated worth may be lost by staying while every change that is simple gains less. Chosen.
inline constexpr double choice_patience = 2;

// ---- What is known besides ----

/// Mean slowdown of the runs over the fast one from which answers say first that the machine was busy. Chosen: a
/// neighbour for a third of the time.
inline constexpr double busy_machine_beyond = 1.25;
/// Cores that others kept busy during a run, from which they may have had those that its frames use. Chosen: the
/// system counts in steps of 10 ms, half a core of a short run.
inline constexpr double others_on_cores = 0.4;
/// Shares of time in which something waited for a core: from the first on, cores may have been lacking; from the second
/// on they were. Measured: ways of two workers on two free cores make up to 0.6 by themselves, and beside two other
/// programs 0.88 to 1.
inline constexpr double cores_may_lack_from = 0.6;
inline constexpr double cores_lack_from = 0.85;
/// Share of time that something waits for a core, from which it is said. Chosen: a desktop at rest shows less.
inline constexpr double load_reported_beyond = 0.05;

/// Largest count alive at once that the axis takes. Chosen: beyond any memory.
inline constexpr double axis_max_count = 1e9;

/// Bytes and runs from which growth of memory within runs is known. Chosen.
inline constexpr double growth_that_counts_bytes = 256.0 * 1024.0;
inline constexpr std::size_t runs_for_growth = 3;
/// Frames of a run from which growth of its memory is the variant's. Recorded: a variant that allocates and frees all
/// its copies in each frame grew over the first eight frames, and not in 400.
inline constexpr std::int64_t frames_for_growth = 10;
/// Growth of a second half against the first from which growth goes on. Chosen.
inline constexpr double goes_on_share = 0.25;
/// Shares of what was waited for that timers of a device may tell. Chosen: software devices and drivers that do not
/// time tell little of it, and none can tell much more.
inline constexpr double min_timer_share = 0.5;
inline constexpr double max_timer_share = 1.05;
/// Share of their wall time that all threads of a variant must be busy in its frames; below it they wait. Chosen: work
/// on any number of threads shows at least one, and half of a core may be taken by others.
inline constexpr double frames_wait_below = 0.5;
/// The same, as a share of what the busiest series of the study shows: others on the machine keep all of them waiting
/// alike. Chosen: a worker or two that finish late wait for less.
inline constexpr double waits_more_than_others_below = 0.85;
/// Factor between a cache and the entities at a knee within which they are said to fill it. Chosen.
inline constexpr double about_a_cache = 2;
/// Factor between a knee and the value of a knob within which the knob is named beside it. Chosen.
inline constexpr double about_a_knob = 1.25;
/// Smallest value of a knob that is named so. Chosen: below it nearly any count is near some knob.
inline constexpr double smallest_knob_named = 8;
/// Factor within which a count was recorded already, and the step to a count beyond all. Chosen.
inline constexpr double recording_close_by = 1.15;
inline constexpr double recording_step_beyond = 2;
/// A frame capped at a rate holds that rate's budget: frames wait for the display, and the median lies about its period
/// by so much. Chosen.
inline constexpr double cap_holds_within = 1.01;
/// After an arrival, frames have settled that stay within this factor of the settled frame. Chosen.
inline constexpr double calm_within = 1.1;
/// Arrivals are known together whose sizes lie within this factor. Chosen: doublings stand apart.
inline constexpr double alike_sizes_within = 1.5;
/// What arrivals add is known of those within this factor of where their worst frames pass the budget. Chosen.
inline constexpr double near_an_arrival = 2;
/// This many measured places in all are all shown. Chosen.
inline constexpr std::size_t few_places = 4;
/// A table of costs at more places than that many rows is one of a single place, unless places were asked for. Chosen:
/// an answer is read in 25 lines.
inline constexpr std::size_t max_rows_shown = 15;
/// A map of choices shows this many places along the axis at most. Chosen: they fit a line of the terminal.
inline constexpr std::size_t max_map_places = 7;
/// Factor within which a cell tells what else differs at a place. Chosen: phases and counters change little within it.
inline constexpr double same_place_within = 1.25;
/// Ratio of the largest to the smallest from which a trait differs. Chosen: set-up times scatter by as much.
inline constexpr double trait_differs_from = 1.2;
/// A frame is a spike from this many times the frames around it on, and the typical one. Chosen: a machine that shares
/// its core takes 1.2 to 1.6 times as long for milliseconds, but then for the frames around it too.
inline constexpr double spike_over = 1.5;
/// Frames on either side that a spike is compared with. Chosen: a spike of up to five frames is one still.
inline constexpr std::ptrdiff_t frames_around = 5;
/// Frames after an arrival that are laid over each other, and times that all frames sorted are thinned to. Chosen: what
/// a figure shows.
inline constexpr std::size_t frames_of_beginning = 60;
inline constexpr std::size_t max_sorted = 400;
/// Probability at which events without order would look as if they came back: a period is known below. Chosen: many
/// cells are looked at.
inline constexpr double period_p_value = 0.001;
/// Shortest period looked for, and places of it that must hold an event. Chosen: fewer tell nothing.
inline constexpr std::size_t shortest_period = 3;
inline constexpr std::size_t hits_for_a_period = 3;
/// An event may be early or late by this share of the period, and by 1. Chosen: frames differ by that.
inline constexpr double early_or_late_share = 0.02;
/// Events of a run that are looked at. Chosen: the search takes their square.
inline constexpr std::size_t max_events_of_a_run = 200;
/// A resource runs out where so much of it is used. Chosen: threads change over, and clocks differ by a few per cent.
inline constexpr double used_up = 0.8;
/// The same of a bare pass over memory. Chosen: no frame moves its bytes as well as that does.
inline constexpr double used_up_traffic = 0.7;
/// Share of a frame that handing work to a device takes to be what ends it. Chosen.
inline constexpr double mostly = 0.5;
/// Cores used from which frames are taken to share their work. Chosen.
inline constexpr double many_cores_from = 1.25;
/// Share of a frame that threads wait to be what ends it. Chosen.
inline constexpr double waits_from = 0.25;
/// More workers help where they save this share of what they could at best. Chosen.
inline constexpr double useful_share_of_a_worker = 0.3;
/// Times that processor time grows by with more workers, from which they are in each other's way. Chosen.
inline constexpr double grows_with_workers = 1.3;
/// Values of a knob at a count from which a best one is looked for. Chosen: of two, `cost` tells which is faster.
inline constexpr std::size_t values_to_tune = 3;
/// A value without an interval is the best from this many times below all that another one may cost. Chosen: two runs
/// may lie a tenth off.
inline constexpr double far_below_an_interval = 1.1;
/// Numbers of workers from which a serial share has an interval: one more than there are terms.
inline constexpr std::size_t values_for_scaling = 4;
/// Draws from which the interval of a serial share is known, and their seed. Chosen: 10 lie beyond either end.
inline constexpr int serial_draws = 400;
/// Move of a log time that tells how a serial share follows it. Chosen: far above rounding.
inline constexpr double small_move = 1e-4;
/// A worker more is useful where it saves this share of the time, and no more than this many are tried. Chosen.
inline constexpr double min_saved_by_a_worker = 0.05;
/// Cores used beyond the workers asked for, as a share of these, that their number is honoured with. Chosen.
inline constexpr double workers_within = 0.2;
/// Places of another system that a map of both is read at. Chosen: a table of this many rows is read.
inline constexpr int places_of_a_map = 9;
/// Share of what a counter is expected to come to, within which it does. Chosen: counts are exact, arrivals are not.
inline constexpr double expected_within = 0.005;
/// Page faults a frame from which a difference of them is known. Chosen: one in two frames is next to nothing.
inline constexpr double reported_page_faults = 0.5;
/// Share of a frame beyond which a phase is taken to be so much: without it, a frame would take next to nothing, and no
/// capacity could be told. Chosen.
inline constexpr double max_share_of_a_phase = 0.98;
/// Steps between the places of a drawn curve. Chosen: a figure shows no more.
inline constexpr int steps_of_a_curve = 160;

}  // namespace mileage
