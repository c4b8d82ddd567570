// What each answer shows.
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

// For every answer: failures, bounds, agreement, machine, corrections, time spent.
Answer facts_view(const About& about);
/// For the verdict: unoptimized builds, variants excluded for wrong results.
std::vector<std::string> cautions(const About& about);
/// Failures and warnings.
std::vector<Note> notes_of(const About& about);
/// "drift.study.jsonl: 7 blocks, 164 runs, 3 discarded; machine 11 % slow, corrected (--more)". `more` adds machine,
/// build and method.
std::string source_text(const About& about, bool more);
/// One line per series and reason, at most `max` and a count of the rest.
std::vector<std::string> failure_lines(const std::vector<Failure>& failures, const Axis& axis, std::size_t max = 8);
/// "drift.study.jsonl: 6 blocks, 312 runs".
std::string evidence_text(const About& about);
/// Slowdown and correction, discarded runs, load.
std::vector<std::string> condition_lines(const About& about);
/// Time of measuring; may be empty.
std::vector<std::string> spent_lines(const About& about);
/// Caches exceeded by each walk: "cold 8MB: walked between frames, outside their time; more than L1 (32 KiB); more than
/// L2 (1 MiB); less than L3 (33 MiB), which stays warm".
std::vector<std::string> cold_lines(const About& about);
/// Machine, build or commands, one line each; for imports that nothing is known.
std::vector<std::string> origin_lines(const Head& head);

// `capacity`: "At 60 Hz (16.7 ms): jobs 3.19M lanterns, columns 1.62M."
std::string capacity_sentence(const About& about, const CapacityAnswer& answer, double budget_ms);
/// By budget, with notes and commands for what is missing. `limits`: for the first budget.
Answer capacity_view(const About& about, const CapacityAnswer& answer, const LimitsAnswer& limits);
/// "341k (331k to 354k)", "more than 300k", "below 1k".
Entry capacity_cell(const About& about, const Capacity& capacity);
/// Commands for capacities beyond extrapolation.
std::vector<std::string> missing_measurements(const About& about, const CapacityAnswer& answer);

// `breakeven`: "Switch from records to columns at 9.3k lanterns, and to jobs at 71.7k."
std::string break_even_sentence(const About& about, const BreakEvenAnswer& answer);
Answer break_even_view(const About& about, const BreakEvenAnswer& answer);

// `cost`: "At 50k lanterns: jobs 0.291 ms, columns 0.519, objects 2.42. All fit 16.7 ms."
std::string cost_sentence(const About& about, const GroupCosts& group, const PlaceCosts& place,
                          const CostAnswer& answer);
/// By count, with traits and effort.
Answer cost_view(const About& about, const CostAnswer& answer);

// `curve`: "48.5 ns x N", "0.79 us + 10.5 ns x N", "N^0.96", "48.5 ns x N, 1.8x steeper above 20k".
std::string law_text(const NamedLaw& law, const Axis& axis);
/// "1.8x steeper above 20k", "flat below 500".
std::string knee_text(double at, double slope_below, double slope_above, const Axis& axis);
/// Points only with --more.
Answer growth_view(const About& about, const GrowthAnswer& answer);
Table points_table(const About& about, const GrowthAnswer& answer);

// Relative to a baseline, as part of `curve`.
Answer against_view(const About& about, const std::vector<SeriesAgainst>& answer);

// `choose`: "Use objects up to 9k lanterns, columns up to 71.7k, jobs up to 3.19M. Above that nothing measured fits
// 16.7 ms."
std::string choice_sentence(const About& about, const ChoiceAnswer& answer, const GroupChoice& group);
/// Members in use anywhere, and the first.
std::vector<std::size_t> chosen_series(const GroupChoice& group);
/// Advice, ranges with a strip, effort; with --more the loss of single variants.
Answer choice_view(const About& about, const ChoiceAnswer& answer, const CapacityAnswer& capacities);

// Rows: knob values; columns: places; cells: variant, "any", "(over)" or empty.
Answer choice_map_view(const About& about, const ChoiceAnswer& answer, const std::vector<ChoiceMap>& maps);

// Next to another system: what fits, which to improve first, map.
Answer shared_frame_view(const About& about, const SharedFrameAnswer& answer);

// Part of `capacity`: worst frames and arrival sizes; may be empty.
Answer arrivals_view(const About& about, const ArrivalsAnswer& answer, const CapacityAnswer& capacities);

// "main thread", "all 2 cores", "memory traffic"; may be empty.
std::string limited_by(const About& about, const LimitsAnswer& answer, std::size_t series);
/// Capacity by resource (--more), memory, ticks.
Answer limits_view(const About& about, const LimitsAnswer& answer);

// Threads, phases, counters and memory, a table per series.
Answer parts_view(const About& about, const PartsAnswer& answer);
/// Processor and device; may be empty.
Answer devices_view(const About& about, const PartsAnswer& answer);

// `cost --between`: differences, parts, counters, frames without a phase.
Answer breakdown_view(const About& about, const BreakdownAnswer& answer);

// `frames`: spikes, frames over budget, warm-up, workers.
Answer frames_view(const About& about, const FramesAnswer& answer);

// `tune`: "At 100k lanterns: batch 16384 is fastest (1.31 ms), but anything from 16 to 16384 is within noise. Keep the
// default (4096)."
std::string tuning_sentence(const About& about, const TuningAnswer& answer, const TunedAt& at);
/// With scaling over workers.
Answer tuning_view(const About& about, const TuningAnswer& answer);

// `ladder`: "At 100k lanterns, 4 changes together: 13.9 → 1.01 ms (0.07x, 0.07 to 0.08)."
std::string ladder_sentence(const About& about, const LadderAnswer& answer);
/// On top, alone, and removed from the last.
Answer ladder_view(const About& about, const LadderAnswer& answer);

// Lines and effort of the variants of these series.
Table effort_table(const About& about, const std::vector<std::size_t>& series);
Table effort_table(const About& about);

}  // namespace mileage
