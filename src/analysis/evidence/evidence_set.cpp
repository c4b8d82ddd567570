#include "analysis/evidence/evidence_set.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <set>

#include "analysis/evidence/by_series.h"
#include "analysis/evidence/labels.h"
#include "analysis/evidence/process_blocks.h"
#include "analysis/evidence/other_load.h"
#include "analysis/evidence/disturbance_filter.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

using Runs = std::vector<const JudgedRun*>;
using SeriesSet = std::set<Series, SeriesOrder>;
using PlacesOfSeries = std::map<Series, std::set<double>, SeriesOrder>;

/// Runs of one series, by place on the axis and block.
using CellRuns = std::map<double, std::map<int, Runs>>;

CellRuns cells_of(const Runs& runs) {
  CellRuns cells;
  for (const JudgedRun* one : runs) cells[one->x][one->block].push_back(one);
  return cells;
}

/// The runs of each place.
std::vector<Runs> by_place(const CellRuns& cells) {
  std::vector<Runs> places;
  for (const auto& [x, by_block] : cells) {
    places.emplace_back();
    for (const auto& [block, runs] : by_block) places.back().insert(places.back().end(), runs.begin(), runs.end());
  }
  return places;
}

double mean_log_ms(const Runs& runs) {
  double sum = 0;
  for (const JudgedRun* one : runs) sum += std::log(one->typical_ms);
  return sum / static_cast<double>(runs.size());
}

double mean_order(const Runs& runs) {
  double sum = 0;
  for (const JudgedRun* one : runs) sum += one->run->order;
  return sum / static_cast<double>(runs.size());
}

/// A block that holds less than half as many cells as the usual one (time ran out in it) would count as a repetition
/// and be none. The fullest one is no measure: it may be the first, before its counts were too many for the time.
void leave_out_thin_blocks(Eigen::ArrayXXd& table) {
  const Eigen::ArrayXi present = (table == table).cast<int>().colwise().sum();
  std::vector<int> sizes;
  for (const int size : present)
    if (size > 0) sizes.push_back(size);
  if (sizes.empty()) return;
  const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>((sizes.size() - 1) / 2);
  std::nth_element(sizes.begin(), middle, sizes.end());
  for (Eigen::Index block = 0; block < table.cols(); ++block) {
    if (2 * present(block) < *middle) table.col(block).setConstant(std::numeric_limits<double>::quiet_NaN());
  }
}

/// Share of the frames' time in which any thread ran: a slow machine stretches that, and no sleep. 1 where it is not
/// known.
double running_share(const Run& run) {
  const double own_ms = measured_wall_ms(run, true);
  if (!run.processor_ms || own_ms <= 0) return 1;
  const double share = *run.processor_ms / own_ms;
  return share >= runs_all_the_time ? 1 : std::max(0.0, share);
}

/// Mean log slowdown in one half of the probes of these runs, scaled by the share of time that threads ran.
double mean_slowdown(const Runs& runs, double YardstickReading::*half, const DisturbanceFilter& judge) {
  double sum = 0;
  for (const JudgedRun* one : runs) {
    const YardstickReading& reading = *one->run->yardstick;
    sum += running_share(*one->run) * std::log(reading.*half / *judge.fast_ns(DisturbanceFilter::kind_of(reading)));
  }
  return sum / static_cast<double>(runs.size());
}

double average_excess(const Runs& runs) {
  double sum = 0;
  for (const JudgedRun* one : runs) sum += running_share(*one->run) * one->run->yardstick->log_mean_excess();
  return sum / static_cast<double>(runs.size());
}

/// Milliseconds of frames between two moments at which probes were made; 0 where none were made between frames.
double probe_spacing_ms(const Runs& runs) {
  double frames_ms = 0;
  int moments = 0;
  for (const JudgedRun* one : runs) {
    frames_ms += measured_wall_ms(*one->run);
    moments += one->run->yardstick->moments;
  }
  return moments > 0 ? frames_ms / moments : 0;
}

/// NaN where the table of costs has no run.
SlowdownTables slowdowns_of(const CellRuns& cells, const std::vector<int>& blocks, const Eigen::ArrayXXd& costs,
                            const DisturbanceFilter& judge) {
  SlowdownTables slowdowns{costs, costs, costs, costs, Eigen::ArrayXd(costs.rows()), Eigen::ArrayXd(costs.rows())};
  Eigen::Index row = 0;
  for (const auto& [x, by_block] : cells) {
    for (const auto& [block, runs] : by_block) {
      const auto column = std::lower_bound(blocks.begin(), blocks.end(), block) - blocks.begin();
      if (std::isnan(costs(row, column))) continue;
      slowdowns.one_half(row, column) = mean_slowdown(runs, &YardstickReading::one_half_ns, judge);
      slowdowns.other_half(row, column) = mean_slowdown(runs, &YardstickReading::other_half_ns, judge);
      slowdowns.mean_excess(row, column) = average_excess(runs);
    }
    slowdowns.log_x(row) = std::log(x);
    ++row;
  }
  const std::vector<Runs> places = by_place(cells);
  std::transform(places.begin(), places.end(), slowdowns.probe_spacing_ms.begin(), probe_spacing_ms);
  if ((slowdowns.probe_spacing_ms <= 0).any()) slowdowns.probe_spacing_ms.resize(0);
  if (!slowdowns.log_x.allFinite()) slowdowns.log_x.resize(0);
  slowdowns.slowdown = (slowdowns.one_half + slowdowns.other_half) / 2;
  return slowdowns;
}

void fill_tables(const CellRuns& cells, const std::vector<int>& blocks, SeriesEvidence& evidence) {
  evidence.log_ms.setConstant(static_cast<Eigen::Index>(cells.size()), static_cast<Eigen::Index>(blocks.size()),
                              std::numeric_limits<double>::quiet_NaN());
  evidence.order.setZero(evidence.log_ms.rows(), evidence.log_ms.cols());
  for (const auto& [x, by_block] : cells) {
    const auto row = static_cast<Eigen::Index>(evidence.x.size());
    evidence.x.push_back(x);
    for (const auto& [block, runs] : by_block) {
      const auto column = std::lower_bound(blocks.begin(), blocks.end(), block) - blocks.begin();
      evidence.log_ms(row, column) = mean_log_ms(runs);
      evidence.order(row, column) = mean_order(runs);
    }
  }
  leave_out_thin_blocks(evidence.log_ms);
}

bool have_yardstick(const Runs& runs) {
  return std::all_of(runs.begin(), runs.end(), [](const JudgedRun* one) { return one->run->yardstick; });
}

/// Whether any place has runs in two blocks.
bool is_repeated(const Eigen::ArrayXXd& table) {
  for (Eigen::Index row = 0; row < table.rows(); ++row)
    if ((table.row(row) == table.row(row)).count() > 1) return true;
  return false;
}

/// Half of log(high / low) of the widest reading by eye.
double widest_reading(const Runs& runs) {
  double widest = 0;
  for (const JudgedRun* one : runs) widest = std::max(widest, one->run->read_share.value_or(0));
  return widest;
}

/// What repetition does not show and must be assumed.
void assume_errors(const EvidenceSet& set, const ProcessBlocks& process_blocks, bool within_processes,
                   SeriesEvidence& evidence) {
  if (set.head.made_by == MadeBy::tables && (process_blocks.are_few() || !is_repeated(evidence.log_ms)))
    evidence.assumed_error = std::hypot(assumed_run_sd, assumed_block_sd);
  if (process_blocks.are_few() && !within_processes) evidence.between_processes_sd = assumed_run_sd;
  if (const double read = widest_reading(evidence.runs); read > 0)
    evidence.assumed_error = std::hypot(evidence.assumed_error.value_or(0), read / t_factor(assumed_blocks));
}

int rank_of(const Scenario& scenario, const std::string& variant) {
  const auto found = std::find_if(scenario.variants.begin(), scenario.variants.end(),
                                  [&](const VariantFacts& facts) { return facts.name == variant; });
  return static_cast<int>(found - scenario.variants.begin());
}

/// Judges all runs by the slowdown of the whole study.
DisturbanceFilter judge_all(std::vector<JudgedRun>& runs, const ProcessBlocks& process_blocks, const Head& head,
                            CostOf what) {
  DisturbanceFilter judge(head);
  for (const JudgedRun& one : runs) judge.add(*one.run);
  for (JudgedRun& one : runs) {
    one.block = process_blocks.block_of(one.block);
    one.is_evidence = is_evidence(*one.run, judge);
    const auto cost_ms = one.is_evidence ? typical_cost_ms(*one.run, what) : std::nullopt;
    one.is_evidence = cost_ms.has_value();
    one.typical_ms = cost_ms.value_or(0);
  }
  return judge;
}

/// Runs that failed and were not made again well right after (a machine that stood still).
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

/// A variant that failed at a count has no cost there, and none beyond that anybody should rely on.
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

/// Costs of series whose frames are uneven become means.
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

/// The series of the plan, then any that evidence alone names, in the order of their first run.
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

std::vector<int> blocks_of(const std::vector<JudgedRun>& runs) {
  std::set<int> blocks;
  for (const JudgedRun& one : runs)
    if (one.is_evidence) blocks.insert(one.block);
  return {blocks.begin(), blocks.end()};
}

/// Neighbouring blocks become one where there are very many: leaving out a group at a time shows the same spread.
void pool_blocks(const std::vector<int>& blocks, std::vector<JudgedRun>& runs) {
  const std::size_t size = blocks.size();
  if (size <= max_blocks_left_out) return;
  for (JudgedRun& one : runs) {
    if (!one.is_evidence) continue;
    const auto rank =
        static_cast<std::size_t>(std::lower_bound(blocks.begin(), blocks.end(), one.block) - blocks.begin());
    const std::size_t group = rank * max_blocks_left_out / size;
    one.block = blocks[(group * size + max_blocks_left_out - 1) / max_blocks_left_out];
  }
}

SeriesSet without_an_answer(const std::vector<Agreement>& agreements) {
  SeriesSet series;
  for (const Agreement& one : agreements)
    if (!one.may_answer()) series.insert(one.series);
  return series;
}

void gather_series(const std::vector<Series>& all, const ProcessBlocks& process_blocks, bool within_processes,
                   const DisturbanceFilter& judge, EvidenceSet& set) {
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
    const CellRuns cells = cells_of(evidence.runs);
    fill_tables(cells, set.blocks, evidence);
    if (have_yardstick(evidence.runs)) {
      const DisturbanceFilter::Kind kind = DisturbanceFilter::kind_of(*evidence.runs.back()->run->yardstick);
      evidence.slowdowns = slowdowns_of(cells, set.blocks, evidence.log_ms, judge);
      evidence.full_speed_sd = judge.full_speed_sd(kind);
      evidence.probed_by = kind;
    }
    evidence.load_uncertainty = load_uncertainty(set.head, evidence.runs);
    evidence.taken_cores = taken_cores(by_place(cells));
    assume_errors(set, process_blocks, within_processes, evidence);
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
  const ProcessBlocks process_blocks = find_process_blocks(study);
  set.processes = process_blocks.processes;
  const DisturbanceFilter judge = judge_all(set.runs, process_blocks, study.head, wanted.cost_of);
  if (set.cost_of == CostOf::energy) set.power_w = usual_power_w(set.runs);
  const PlacesOfSeries failed = exclude_what_failed(set);
  const auto uneven = take_means_of_uneven(set);
  set.quiet = machine_condition(set.runs, judge);
  const std::vector<int> made = blocks_of(set.runs);
  set.blocks_made = made.size();
  pool_blocks(made, set.runs);
  set.blocks = blocks_of(set.runs);
  const std::vector<Series> series = select_series(series_of(set), wanted.selection);
  drop_unselected(wanted.selection, set);
  gather_series(series, process_blocks, wanted.within_processes, judge, set);
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
