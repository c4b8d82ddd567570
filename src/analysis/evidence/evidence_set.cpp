#include "analysis/evidence/evidence_set.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "analysis/evidence/by_series.h"
#include "analysis/evidence/labels.h"
#include "analysis/evidence/disturbance_filter.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

using SeriesSet = std::set<Series, SeriesOrder>;
using PlacesOfSeries = std::map<Series, std::set<double>, SeriesOrder>;

int rank_of(const Scenario& scenario, const std::string& variant) {
  const auto found = std::find_if(scenario.variants.begin(), scenario.variants.end(),
                                  [&](const VariantFacts& facts) { return facts.name == variant; });
  return static_cast<int>(found - scenario.variants.begin());
}

DisturbanceFilter judge_all(std::vector<JudgedRun>& runs, const Head& head, CostOf what) {
  DisturbanceFilter judge(head);
  for (const JudgedRun& one : runs) judge.add(*one.run);
  for (JudgedRun& one : runs) {
    one.is_evidence = is_evidence(*one.run, judge);
    one.log_slowdown = std::log(judge.slowness(*one.run).value_or(1));
    const auto cost_ms = one.is_evidence ? typical_cost_ms(*one.run, what) : std::nullopt;
    one.is_evidence = cost_ms.has_value();
    one.typical_ms = cost_ms.value_or(0);
  }
  return judge;
}

/// Failed runs that did not succeed when repeated right after.
std::set<const Run*> lasting_failures(const Study& study) {
  std::set<const Run*> failures;
  for (std::size_t i = 0; i < study.runs.size(); ++i) {
    const Run& run = study.runs[i];
    if (run.status != RunStatus::failed) continue;
    const Run* next = i + 1 < study.runs.size() ? &study.runs[i + 1] : nullptr;
    const bool is_made_again = next != nullptr && next->status != RunStatus::failed && next->block == run.block &&
                               next->count == run.count && next->series == run.series;
    if (!is_made_again) failures.insert(&run);
  }
  return failures;
}

/// No costs at or beyond the smallest failed count.
PlacesOfSeries exclude_what_failed(EvidenceSet& set) {
  const std::set<const Run*> failures = lasting_failures(*set.study);
  PlacesOfSeries failed;
  for (const JudgedRun& one : set.runs)
    if (failures.count(one.run) > 0) failed[one.series].insert(one.x);
  for (JudgedRun& one : set.runs) {
    const auto places = failed.find(one.series);
    if (places == failed.end()) continue;
    if (set.axis.name == count_axis ? one.x >= *places->second.begin() : places->second.count(one.x) > 0)
      one.is_evidence = false;
  }
  return failed;
}

std::map<Series, Unevenness, SeriesOrder> take_means_of_uneven(EvidenceSet& set) {
  std::map<Series, std::vector<const JudgedRun*>, SeriesOrder> runs;
  for (const JudgedRun& one : set.runs)
    if (one.is_evidence) runs[one.series].push_back(&one);
  std::map<Series, Unevenness, SeriesOrder> uneven;
  for (const auto& [series, of_series] : runs)
    if (const Unevenness found = unevenness_of(of_series); found != Unevenness::even) uneven[series] = found;
  for (JudgedRun& one : set.runs)
    if (one.is_evidence && uneven.count(one.series) > 0)
      one.typical_ms *= mean_frame_ms(*one.run) / typical_frame_ms(*one.run);
  return uneven;
}

/// Of the plan, then others in order of their first run.
std::vector<Series> series_of(const EvidenceSet& set) {
  std::vector<Series> all = set.head.plan.series;
  SeriesSet known(all.begin(), all.end());
  for (const JudgedRun& one : set.runs)
    if (one.is_evidence && known.insert(one.series).second) all.push_back(one.series);
  return all;
}

double usual_power_w(const std::vector<JudgedRun>& runs) {
  std::vector<double> powers;
  for (const JudgedRun& one : runs)
    if (const auto power_w = one.is_evidence ? power_of(*one.run) : std::nullopt) powers.push_back(*power_w);
  return powers.empty() ? 1 : median(powers);
}

/// Processes, if fewer than blocks; else 0.
std::size_t shared_processes(const Study& study) {
  std::set<std::int64_t> processes;
  std::set<int> blocks;
  for (const Run& run : study.runs) {
    if (run.block < 0 || run.samples_ns.empty()) continue;
    processes.insert(run.process);
    blocks.insert(run.block);
  }
  return processes.size() < blocks.size() ? processes.size() : 0;
}

std::vector<int> blocks_of(const std::vector<JudgedRun>& runs) {
  std::set<int> blocks;
  for (const JudgedRun& one : runs)
    if (one.is_evidence) blocks.insert(one.block);
  return {blocks.begin(), blocks.end()};
}

SeriesSet without_an_answer(const std::vector<Agreement>& agreements) {
  SeriesSet series;
  for (const Agreement& one : agreements)
    if (!one.may_answer()) series.insert(one.series);
  return series;
}

void gather_series(const std::vector<Series>& all, EvidenceSet& set) {
  BySeries<const JudgedRun*> by_series;
  for (const JudgedRun& one : set.runs)
    if (one.is_evidence) by_series.add(one.series, &one);
  const SeriesSet silent = without_an_answer(set.agreements);
  std::map<int, int> of_rank;
  for (const Series& one : all) {
    if (by_series.of(one).empty() || silent.count(one) > 0) continue;
    SeriesEvidence evidence;
    evidence.series = one;
    evidence.label = label_of(one, all);
    evidence.rank = rank_of(set.head.scenario, one.variant);
    evidence.of_variant = of_rank[evidence.rank]++;
    evidence.runs = by_series.of(one);
    std::set<double> places;
    for (const JudgedRun* run : evidence.runs) places.insert(run->x);
    evidence.x.assign(places.begin(), places.end());
    set.series.push_back(std::move(evidence));
  }
}

void drop_unselected(const Selection& selection, EvidenceSet& set) {
  if (selection.is_of_all()) return;
  std::erase_if(set.runs, [&](const JudgedRun& one) { return !selection.holds(one.series); });
  std::erase_if(set.agreements, [&](const Agreement& one) { return !selection.holds(one.series); });
}

}  // namespace

EvidenceSet gather_evidence(const Study& study, const EvidenceWanted& wanted) {
  EvidenceSet set;
  set.study = &study;
  set.cost_of = wanted.cost_of;
  set.agreements = agreements_of(study);
  StudyOnAxis on = put_on_axis(study, wanted.axis, set.agreements);
  set.axis = std::move(on.axis);
  set.head = std::move(on.head);
  set.runs = std::move(on.runs);
  set.processes = shared_processes(study);
  const DisturbanceFilter judge = judge_all(set.runs, study.head, wanted.cost_of);
  if (set.cost_of == CostOf::energy) set.power_w = usual_power_w(set.runs);
  const PlacesOfSeries failed = exclude_what_failed(set);
  const auto uneven = take_means_of_uneven(set);
  set.quiet = machine_condition(set.runs, judge);
  set.blocks = blocks_of(set.runs);
  const std::vector<Series> series = select_series(series_of(set), wanted.selection);
  drop_unselected(wanted.selection, set);
  gather_series(series, set);
  for (SeriesEvidence& one : set.series) {
    if (const auto places = failed.find(one.series); places != failed.end() && set.axis.name == count_axis)
      one.fails_from = *places->second.begin();
    if (const auto found = uneven.find(one.series); found != uneven.end()) one.unevenness = found->second;
  }
  set.failures = failures_among(set.runs, series);
  set.bounds = bounds_among(set.runs, series);
  return set;
}

}  // namespace mileage
