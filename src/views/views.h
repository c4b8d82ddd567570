// What each answer shows, a function per answer.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/against.h"
#include "analysis/answers/arrivals.h"
#include "analysis/answers/break_even.h"
#include "analysis/answers/breakdown.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/choice.h"
#include "analysis/answers/choice_map.h"
#include "analysis/answers/cost.h"
#include "analysis/answers/frames.h"
#include "analysis/answers/growth.h"
#include "analysis/answers/ladder.h"
#include "analysis/answers/limits.h"
#include "analysis/answers/parts.h"
#include "analysis/answers/shared_frame.h"
#include "analysis/answers/tuning.h"
#include "views/answer.h"

namespace mileage {

// What every answer is followed by: failures, warnings, and what it rests on.
/// What the JSON of every answer holds: failures, bounds, agreement, the machine's condition, corrections, time spent.
Answer facts_view(const About& about);
/// What changes how an answer reads, for its verdict: a build without optimization, variants excluded for wrong
/// results.
std::vector<std::string> cautions(const About& about);
/// Runs that failed and warnings, as notes.
std::vector<Note> notes_of(const About& about);
/// What an answer rests on, in one line: "drift.study.jsonl: 7 blocks, 164 runs, 3 discarded; machine 11 % slow,
/// corrected (--more)". With `more` also machine, build and method.
std::string source_text(const About& about, bool more);
/// One line per series and reason for which runs failed, at most `max` of them and a line that counts the rest.
std::vector<std::string> failure_lines(const std::vector<Failure>& failures, const Axis& axis, std::size_t max = 8);
/// "drift.study.jsonl: 6 blocks, 312 runs".
std::string evidence_text(const About& about);
/// Slowdown of the machine with its correction, discarded runs, load.
std::vector<std::string> condition_lines(const About& about);
/// Where the time of measuring went; nothing where runs do not say.
std::vector<std::string> spent_lines(const About& about);
/// For every size that was walked between frames, which caches it exceeds: "cold 8MB: walked between frames, outside
/// their time; more than L1 (32 KiB); more than L2 (1 MiB); less than L3 (33 MiB), which stays warm".
std::vector<std::string> cold_lines(const About& about);
/// The machine, and how what was measured was built or which commands were measured: a line each. For recordings from
/// elsewhere one line that says that nothing is known of either.
std::vector<std::string> origin_lines(const Head& head);

// The answer of `capacity`.
/// "At 60 Hz (16.7 ms): jobs 3.19M lanterns, columns 1.62M."
std::string capacity_sentence(const About& about, const CapacityAnswer& answer, double budget_ms);
/// Capacities and headroom budget by budget, notes on how they were read, and the commands that measure what is
/// missing. `limits` are those of the first budget.
Answer capacity_view(const About& about, const CapacityAnswer& answer, const LimitsAnswer& limits);
/// "341k (331k to 354k)", or how far the capacity is known to go: "more than 300k", "below 1k".
Entry capacity_cell(const About& about, const Capacity& capacity);
/// Commands that measure what a capacity lacks where extrapolating ends.
std::vector<std::string> missing_measurements(const About& about, const CapacityAnswer& answer);

// The answer of `breakeven`.
/// "Switch from records to columns at 9.3k lanterns, and to jobs at 71.7k." Where nothing pays off, what is the case.
std::string break_even_sentence(const About& about, const BreakEvenAnswer& answer);
/// From where a switch pays off, and where curves cross.
Answer break_even_view(const About& about, const BreakEvenAnswer& answer);

// The answer of `cost`.
/// "At 50k lanterns: jobs 0.291 ms, columns 0.519, objects 2.42. All fit 16.7 ms."
std::string cost_sentence(const About& about, const GroupCosts& group, const PlaceCosts& place,
                          const CostAnswer& answer);
/// Costs by count, what else differs between the variants, and their effort.
Answer cost_view(const About& about, const CostAnswer& answer);

// The answer of `curve`: laws, exponents, knees, steps, points.
/// "48.5 ns x N", "0.79 us + 10.5 ns x N", "N^0.96", "48.5 ns x N, 1.8x steeper above 20k".
std::string law_text(const NamedLaw& law, const Axis& axis);
/// "1.8x steeper above 20k", "flat below 500".
std::string knee_text(double at, double slope_below, double slope_above, const Axis& axis);
/// Growth by series. Points are left to --more.
Answer growth_view(const About& about, const GrowthAnswer& answer);
/// Every measured count of every series.
Table points_table(const About& about, const GrowthAnswer& answer);

// Series relative to one variant, count by count: a part of `curve`.
Answer against_view(const About& about, const std::vector<SeriesAgainst>& answer);

// The answer of `choose`.
/// "Use objects up to 9k lanterns, columns up to 71.7k, jobs up to 3.19M. Above that nothing measured fits 16.7 ms."
std::string choice_sentence(const About& about, const ChoiceAnswer& answer, const GroupChoice& group);
/// The members of a group that are used anywhere, and the first.
std::vector<std::size_t> chosen_series(const GroupChoice& group);
/// Advice at the places asked for, what to use where with its strip, effort, and what one variant everywhere would lose
/// (--more).
Answer choice_view(const About& about, const ChoiceAnswer& answer, const CapacityAnswer& capacities);

// What to use over count and knob: as a table and a figure.
/// A row for each value of the knob, a column for each place, and in it the variant to use there: "any" where no
/// difference pays off, "(over)" where none fits, empty where nothing was measured.
Answer choice_map_view(const About& about, const ChoiceAnswer& answer, const std::vector<ChoiceMap>& maps);

// How far series go next to another system of the same frame: a map, as a table and a figure.
/// What fits next to the other system at the place asked for, which of both to improve first, and the map.
Answer shared_frame_view(const About& about, const SharedFrameAnswer& answer);

// Frames in which entities arrive, as a part of `capacity`.
/// Capacity by the worst frames, and what arrivals of each size cost; nothing where none arrived.
Answer arrivals_view(const About& about, const ArrivalsAnswer& answer, const CapacityAnswer& capacities);

// What runs out first at a capacity; memory limits and fixed ticks.
/// The resource that ends a series: "main thread", "all 2 cores", "memory traffic"; empty where it is not known.
std::string limited_by(const About& about, const LimitsAnswer& answer, std::size_t series);
/// Capacity by resource with its evidence (--more); memory and ticks where they were asked for.
Answer limits_view(const About& about, const LimitsAnswer& answer);

// Where the time of frames goes, count by count, and which of processor and device ends them.
/// Threads, phases, counters and memory; a table per series.
Answer parts_view(const About& about, const PartsAnswer& answer);
/// Processor and device; nothing where no device is at work.
Answer devices_view(const About& about, const PartsAnswer& answer);

// The answer of `cost --between`: what a difference is made of.
/// Pair by pair: the difference, its parts, counters that differ; then what frames would take without each phase.
Answer breakdown_view(const About& about, const BreakdownAnswer& answer);

// The answer of `frames`: spikes, frames over the budget, warm-up, work by worker.
Answer frames_view(const About& about, const FramesAnswer& answer);

// The answer of `tune`: best values, what is as good, what defaults lose; workers.
/// "At 100k lanterns: batch 16384 is fastest (1.31 ms), but anything from 16 to 16384 is within noise. Keep the default
/// (4096)."
std::string tuning_sentence(const About& about, const TuningAnswer& answer, const TunedAt& at);
/// Values by count, scaling with workers.
Answer tuning_view(const About& about, const TuningAnswer& answer);

// The answer of `ladder`: what each change brings, and what they come to.
/// "At 100k lanterns, 4 changes together: 13.9 → 1.01 ms (0.07x, 0.07 to 0.08)."
std::string ladder_sentence(const About& about, const LadderAnswer& answer);
/// What each change brings on top of those before it, alone, and removed from the last.
Answer ladder_view(const About& about, const LadderAnswer& answer);

// What a variant costs to write: lines and effort, as its scenario says.
/// Of the variants of these series, each once.
Table effort_table(const About& about, const std::vector<std::size_t>& series);
/// Of all variants of the study.
Table effort_table(const About& about);

}  // namespace mileage
