#include "analysis/answers/warnings.h"

#include <algorithm>
#include <cmath>
#include <map>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/answers/cell_details.h"
#include "analysis/evidence/labels.h"
#include "analysis/evidence/other_load.h"
#include "analysis/model/priors.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"
#include "types/notation.h"
#include "types/text.h"

namespace mileage {
namespace {

void warn_of_build_and_machine(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  const Build& build = evidence.head.scenario.build;
  const std::string& governor = evidence.head.machine.governor;
  if (build.known && !build.optimized)
    warnings.push_back("built without optimization: these times say nothing about a release build.");
  if (evidence.head.machine.debugger) warnings.push_back("a debugger was attached, which slows programs down.");
  if (!governor.empty() && governor != "performance")
    warnings.push_back(fmt::format("the CPU frequency may change (governor {}).", governor));
}

/// A software device shares the cores with everything else.
void warn_of_devices(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  std::map<std::string, std::vector<std::string>> by_device;
  for (const VariantFacts& facts : evidence.head.scenario.variants) {
    const bool measured = std::any_of(evidence.series.begin(), evidence.series.end(),
                                      [&](const SeriesEvidence& one) { return one.series.variant == facts.name; });
    if (facts.device.empty() || !measured) continue;
    by_device[facts.device + (facts.software_device
                                  ? " (software: it uses the CPU cores and says nothing about a graphics card)"
                                  : "")]
        .push_back(facts.name);
  }
  for (const auto& [device, variants] : by_device)
    warnings.push_back(fmt::format("{} drawn on {}.", fmt::join(variants, ", "), device));
}

bool is_answered(const EvidenceSet& evidence, const Series& series) {
  return std::any_of(evidence.series.begin(), evidence.series.end(),
                     [&](const SeriesEvidence& one) { return one.series == series; });
}

/// A missing number was not stated, or stated as none.
std::string disagreement_text(const Disagreement& one) {
  if (std::isnan(one.found)) return fmt::format("it states no {}, expected {:.6g}", one.quantity, one.expected);
  if (std::isnan(one.expected))
    return fmt::format("it states {} {:.6g}, which the reference does not state", one.quantity, one.found);
  return fmt::format("{} is {:.6g}, expected {:.6g} (tolerance {:.2g})", one.quantity, one.found, one.expected,
                     one.tolerance);
}

/// Processes left behind disturb later runs.
void warn_of_leftovers(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  std::map<std::string, std::pair<int, int>> left;  // Runs and processes.
  for (const JudgedRun& one : evidence.runs) {
    const Run& run = *one.run;
    if (run.left_behind == 0) continue;
    auto& [runs, processes] = left[label_of(one.series, evidence.head.plan.series)];
    ++runs;
    processes += run.left_behind;
  }
  for (const auto& [label, count] : left)
    warnings.push_back(fmt::format("{} leaves processes running: {} were ended after {} run{}.", label, count.second,
                                   count.first, count.first == 1 ? "" : "s"));
}

/// Other float modes change the work and its speed near zero.
void warn_of_float_modes(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  std::map<std::string, std::string> modes;
  for (const JudgedRun& one : evidence.runs)
    if (!one.run->float_mode.empty()) modes[label_of(one.series, evidence.head.plan.series)] = one.run->float_mode;
  for (const auto& [label, mode] : modes)
    warnings.push_back(
        fmt::format("{} uses another floating-point mode ({}): near zero its results and speed differ.", label, mode));
}

/// Frames without a running thread for half of the time, or clearly more than in other series, are waiting.
void warn_of_waiting(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  std::map<std::string, std::vector<double>> busy;
  for (const JudgedRun& one : evidence.runs) {
    const VariantFacts* facts = evidence.head.scenario.find(one.series.variant);
    if (!one.run->processor_ms || (facts != nullptr && !facts->device.empty())) continue;
    const double frames_ms = measured_wall_ms(*one.run, true);
    if (frames_ms > 0)
      busy[label_of(one.series, evidence.head.plan.series)].push_back(*one.run->processor_ms / frames_ms);
  }
  double busiest = 0;
  for (const auto& [label, shares] : busy) busiest = std::max(busiest, std::min(1.0, median(shares)));
  const double expected = std::max(frames_wait_below, waits_more_than_others_below * busiest);
  for (const auto& [label, shares] : busy)
    if (const double share = median(shares); share < expected)
      warnings.push_back(fmt::format("{} is blocked for {:.0f} % of its frames (sleep, lock or file).", label,
                                     100 * (1 - std::max(0.0, share))));
}

void warn_of_outcomes(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  const std::vector<Series>& all = evidence.head.plan.series;
  for (const Agreement& one : evidence.agreements) {
    const std::string label = label_of(one.series, all);
    const std::string worst =
        !one.worst ? "" : fmt::format("{} at {}{}", disagreement_text(*one.worst), one.count, knobs_text(one.varied));
    if (one.verdict == AgreementVerdict::differs)
      warnings.push_back(fmt::format("{} is excluded: its outcome differs from {}: {}.", label,
                                     reference_of(evidence.head.scenario), worst));
    if (one.verdict == AgreementVerdict::unstable)
      warnings.push_back(fmt::format("{} is excluded: its outcome differs from check to check: {}.", label, worst));
    if (one.verdict == AgreementVerdict::unchecked && evidence.head.made_by == MadeBy::commands &&
        is_answered(evidence, one.series))
      warnings.push_back(fmt::format("{} states no outcome, so its results were not compared.", label));
    if (one.verdict == AgreementVerdict::approximate)
      warnings.push_back(
          fmt::format("{} is approximate: off by up to {:.3g} of a quantity ({}).", label, one.largest_error, worst));
  }
}

void warn_of_excluded_counts(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  for (const SeriesEvidence& one : evidence.series)
    if (one.fails_from)
      warnings.push_back(fmt::format("{} is excluded at {} and above, where it failed.", one.label,
                                     place_text(*one.fails_from, evidence.axis)));
}

void warn_of_uneven_frames(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  for (const SeriesEvidence& one : evidence.series) {
    if (one.unevenness == Unevenness::mixed)
      warnings.push_back(
          fmt::format("{} has frames of several kinds; its costs are means (total time / frames).", one.label));
    if (one.unevenness == Unevenness::rising)
      warnings.push_back(fmt::format(
          "{} gets slower within each run; its costs are means, and longer runs would show more.", one.label));
  }
}

void warn_of_growth(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  for (const SeriesEvidence& one : evidence.series) {
    double max = 0;
    for (const CellDetail& cell : details_of(one))
      max = std::max(max, cell.growth_bytes_per_frame.value_or(0) / (evidence.axis.is_whole ? cell.x : 1));
    if (max > 0)
      warnings.push_back(fmt::format("{} leaks: its memory grows by {} bytes {}frame.", one.label, three_digits(max),
                                     evidence.axis.is_whole ? "per " + evidence.axis.thing + " and " : "per "));
  }
}

void warn_of_expectations(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  for (const Expectation& expected : evidence.head.scenario.expects)
    for (const SeriesEvidence& series : evidence.series) {
      std::vector<double> found;
      for (const JudgedRun* one : series.runs)
        if (const auto sum = one->run->counters.find(expected.counter); sum != one->run->counters.end())
          found.push_back(sum->second / static_cast<double>(one->run->measured_frames() * one->run->count));
      if (found.empty() || series.series.is_floor()) continue;
      const double typical = median(found);
      if (std::fabs(typical - expected.per_entity) > expected_within * expected.per_entity)
        warnings.push_back(fmt::format("{} makes {:.3g} {} per {} and frame, expected {:.3g}.", series.label, typical,
                                       expected.counter, evidence.axis.thing, expected.per_entity));
    }
}

bool has_probes(const EvidenceSet& evidence) { return evidence.quiet.fast_ns.has_value(); }

/// Runs of one process share its memory layout and what else ran.
void warn_of_few_processes(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  if (evidence.processes == 0) return;
  warnings.push_back(
      fmt::format("{} made these runs: intervals assume a spread of {:.0f} % between processes.",
                  evidence.processes == 1 ? "one process" : fmt::format("{} processes", evidence.processes),
                  100 * prior::luck_of_process(has_probes(evidence))));
}

/// One line per series and reason.
void warn_of_bounds(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  for (auto from = evidence.bounds.begin(); from != evidence.bounds.end();) {
    const auto end = std::find_if(from, evidence.bounds.end(), [&](const Bound& one) {
      return one.label != from->label || one.reason != from->reason;
    });
    std::vector<std::string> at_most;
    for (auto one = from; one != end; ++one)
      at_most.push_back(fmt::format("at most {:.3g} ms at {:.6g}", one->at_most_ms, one->x));
    warnings.push_back(
        fmt::format("{} is only bounded ({}): its {}.", from->label, fmt::join(at_most, ", "), from->reason));
    from = end;
  }
}

void warn_of_evidence(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  const bool is_repeated = std::any_of(evidence.series.begin(), evidence.series.end(),
                                       [](const SeriesEvidence& one) { return one.runs.size() > one.x.size(); });
  if (!is_repeated)
    warnings.push_back(fmt::format("nothing was measured twice: intervals assume that runs differ by {:.0f} %.",
                                   100 * prior::noise_of_runs(has_probes(evidence))));
  else if (evidence.blocks.size() < blocks_for_trust)
    warnings.push_back(fmt::format("only {} blocks: intervals are from few repetitions (five or more are better).",
                                   evidence.blocks.size()));
  warn_of_few_processes(evidence, warnings);
}

void warn_of_load(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  const MachineCondition& quiet = evidence.quiet;
  double uncertainty = 0;
  for (const SeriesEvidence& one : evidence.series) {
    double unseen = 0;
    for (const JudgedRun* run : one.runs) unseen += unseen_waiting(evidence.head, *run->run);
    uncertainty = std::max(uncertainty, unseen / static_cast<double>(one.runs.size()));
  }
  if (uncertainty > load_reported_beyond)
    warnings.push_back(fmt::format(
        "other programs were running: threads waited for a core {:.0f} % of the time, and it is unknown how much of "
        "that was in these frames. Intervals are wider for it. mileage/framelog.h records it.",
        100 * std::expm1(uncertainty)));
  if (quiet.waited_share > load_reported_beyond)
    warnings.push_back(
        fmt::format("other programs were running: threads waited for a core {:.0f} % of the frame time, which is "
                    "subtracted.",
                    100 * quiet.waited_share));
  for (const SeriesEvidence& one : evidence.series) {
    const std::map<const Run*, double> lacking = lacking_cores(one.runs);
    std::map<double, std::pair<double, int>> by_place;  // Sum and number of runs.
    for (const JudgedRun* run : one.runs) {
      const auto found = lacking.find(run->run);
      by_place[run->x].first += found == lacking.end() ? 0 : found->second;
      ++by_place[run->x].second;
    }
    double max = 0;
    int places = 0;
    for (const auto& [x, lost] : by_place) {
      max = std::max(max, lost.first / lost.second);
      places += lost.first / lost.second > load_reported_beyond;
    }
    if (places == 0) continue;
    warnings.push_back(fmt::format(
        "other programs used cores that {} needs at {} of {} counts: on an idle machine it may take down to "
        "{:.0f} % of the times shown there. Intervals there include that.",
        one.label, places, one.x.size(), 100 * std::exp(-max)));
  }
  if (quiet.slow_throughout)
    warnings.push_back(
        fmt::format("the machine ran {:.2f}x slower than usual during the whole study. Times are corrected for it; "
                    "intervals are wider.",
                    *quiet.slowness));
  else if (quiet.slowness.value_or(1) > busy_machine_beyond)
    warnings.push_back(fmt::format(
        "the machine ran {:.2f}x slower than at full speed. Times are corrected for it; intervals are wider.",
        *quiet.slowness));
}

/// Costs other than frame time.
void warn_of_cost(const EvidenceSet& evidence, std::vector<std::string>& warnings) {
  if (evidence.cost_of == CostOf::frame_thread)
    warnings.push_back("all times are busy time of the main thread, not the length of the frame.");
  if (evidence.cost_of == CostOf::energy)
    warnings.push_back(fmt::format(
        "all costs are energy of the whole machine, mJ per frame; the budget is what a frame of that length uses at "
        "{:.3g} W.",
        evidence.power_w));
  if (evidence.cost_of == CostOf::processor)
    warnings.push_back("all times are processor time of all threads, not the length of the frame.");
}

}  // namespace

std::vector<std::string> warnings_of(const EvidenceSet& evidence) {
  std::vector<std::string> warnings;
  warn_of_cost(evidence, warnings);
  warn_of_build_and_machine(evidence, warnings);
  warn_of_devices(evidence, warnings);
  warn_of_outcomes(evidence, warnings);
  warn_of_excluded_counts(evidence, warnings);
  warn_of_uneven_frames(evidence, warnings);
  warn_of_growth(evidence, warnings);
  warn_of_expectations(evidence, warnings);
  warn_of_float_modes(evidence, warnings);
  warn_of_waiting(evidence, warnings);
  warn_of_leftovers(evidence, warnings);
  warnings.insert(warnings.end(), evidence.study->warnings.begin(), evidence.study->warnings.end());
  warnings.insert(warnings.end(), evidence.head.notes.begin(), evidence.head.notes.end());
  warn_of_bounds(evidence, warnings);
  warn_of_evidence(evidence, warnings);
  warn_of_load(evidence, warnings);
  return warnings;
}

}  // namespace mileage
