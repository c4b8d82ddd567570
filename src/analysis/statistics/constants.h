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
/// Variance of a series' costs that no slowdown tells, per unit of the mean slowdown, log scale, the slowdown from
/// which on, and the most that it comes to. Others also take caches and memory, and for hours: a study only shows how
/// they come and go, and by how much does not go with how much of the core they have. Recorded: over 50 studies of
/// seven hours, 91 % of pairs agree without it, and 94 % with it; without a most, 91 % of pairs of the faster half of
/// them.
inline constexpr double unexplained_from = 0.03;
/// Milliseconds of a frame that lies halfway between those of one state of the machine and those that average over
/// many. Simulated: about three times the time for which states of a shared core stay alike, of which fast stretches of
/// 1 to 5 ms and slow ones of 1 ms were recorded.
inline constexpr double states_last_ms = 2.25;

/// Share of a run's samples cut off at each end of their order. Simulated: 2 % of frames that take five times as long
/// then shift nothing.
inline constexpr double cut_share = 0.05;

// ---- Means of cells: rows and blocks, spikes clipped ----

// ---- What is assumed where too little was repeated ----

/// Processes from which their spread gives an interval of its own. Calculated: t of two is 12.7.
inline constexpr std::size_t min_processes_for_interval = 3;
/// Blocks below which a warning says that intervals lean on few. Simulated: 5 blocks
/// and more cover 94 to 97 %.
inline constexpr std::size_t blocks_for_trust = 5;

// ---- Drift of the machine during a study ----

// ---- Laws ----

/// Factor below the largest place within which the growth at the large end is read. Chosen: three counts of a span.
inline constexpr double large_end_within = 5;
/// Share of the least cost that a fixed cost has to be to be named. Chosen: no noise is so small.
inline constexpr double share_of_a_fixed_cost = 1e-3;

// ---- Reading near a place: local fits and interpolation ----

// ---- Steps: jumps in cost between two neighbouring counts ----

// ---- The 99 % end of frames ----

/// Pooled frames from which the end is known. Calculated: ten frames lie beyond it.
inline constexpr std::size_t frames_for_tail = 1000;
/// Factor within which frames of places are pooled. Chosen: aimed counts share one end.
inline constexpr double tail_pooled_within = 1.35;
/// Places from which the end follows a line over counts. Calculated: two always lie on one.
inline constexpr int tail_places_for_a_line = 3;
/// Factor within which places tell where the end lies at one of them. Simulated: with 3.5, ends beside a loaded
/// neighbour lay half a per cent too high.
inline constexpr double tail_line_within = 2;

// ---- Crossings: capacities and break-evens ----

/// What the capacity for 99 % of frames takes: five blocks of three runs of this number of frames, warm-up included, in
/// the share of the time that checks, range finding and aiming leave to blocks. Calculated; tests measure so long and
/// get an answer.
inline constexpr double runs_for_99 = 5 * 3;
inline constexpr double frames_of_a_run_for_99 = 110;
inline constexpr double share_of_blocks = 2.0 / 3;
inline constexpr double times_in_steps_of_s = 5;
/// Places at which two variants are compared with each other. Chosen.
inline constexpr int break_even_places = 200;

// ---- Choosing ----

/// Places at which variants are chosen between, and at which losses are known. Chosen.
inline constexpr int choice_places = 240;
inline constexpr int loss_places = 120;
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
/// Numbers of workers from which a serial share has an interval: one more than there are terms.
inline constexpr std::size_t values_for_scaling = 4;
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

/// Exponents and places of a knee that are looked at before the best is polished: between neighbours the sum of squares
/// has one minimum.
inline constexpr int shapes_looked_at = 24;
/// Parts of each run that are left out in turn, one after the other: as many as slow stretches of a machine.
inline constexpr int parts_of_a_run = 10;

}  // namespace mileage
