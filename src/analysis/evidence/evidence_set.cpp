#include "analysis/evidence/evidence_set.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <set>

#include "analysis/evidence/by_series.h"
#include "analysis/evidence/labels.h"
#include "analysis/evidence/runs.h"
#include "analysis/evidence/yardstick_judge.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

using Visits = std::vector<const JudgedVisit*>;
using SeriesSet = std::set<Series, SeriesOrder>;

/// Visits of one series, by place on the axis and block.
using CellVisits = std::map<double, std::map<int, Visits>>;

CellVisits cells_of(const Visits& visits) {
  CellVisits cells;
  for (const JudgedVisit* one : visits) cells[one->x][one->block].push_back(one);
  return cells;
}

double mean_log_ms(const Visits& visits) {
  double sum = 0;
  for (const JudgedVisit* one : visits) sum += std::log(one->typical_ms);
  return sum / static_cast<double>(visits.size());
}

double mean_order(const Visits& visits) {
  double sum = 0;
  for (const JudgedVisit* one : visits) sum += one->visit->order;
  return sum / static_cast<double>(visits.size());
}

/// A block that holds less than half as many cells as the fullest one (time ran out in it) would count as a repetition
/// and be none.
void leave_out_thin_blocks(Eigen::ArrayXXd& table) {
  const auto present = (table == table).cast<int>().colwise().sum().eval();
  const int fullest = present.maxCoeff();
  for (Eigen::Index block = 0; block < table.cols(); ++block) {
    if (2 * present(block) < fullest) table.col(block).setConstant(std::numeric_limits<double>::quiet_NaN());
  }
}

/// Mean log times of a half of the probes of some visits, above the fast level.
double mean_level(const Visits& visits, double YardstickReading::*half, const YardstickJudge& judge) {
  double sum = 0;
  for (const JudgedVisit* one : visits) {
    const YardstickReading& reading = *one->visit->yardstick;
    sum += std::log(reading.*half / *judge.fast_ns(YardstickJudge::kind_of(reading)));
  }
  return sum / static_cast<double>(visits.size());
}

/// NaN where the table of costs has no visit.
LevelTables levels_of(const CellVisits& cells, const std::vector<int>& blocks, const Eigen::ArrayXXd& costs,
                      const YardstickJudge& judge) {
  LevelTables levels{costs, costs, costs};
  Eigen::Index row = 0;
  for (const auto& [x, by_block] : cells) {
    for (const auto& [block, visits] : by_block) {
      const auto column = std::lower_bound(blocks.begin(), blocks.end(), block) - blocks.begin();
      if (std::isnan(costs(row, column))) continue;
      levels.one_half(row, column) = mean_level(visits, &YardstickReading::one_half_ns, judge);
      levels.other_half(row, column) = mean_level(visits, &YardstickReading::other_half_ns, judge);
    }
    ++row;
  }
  levels.level = (levels.one_half + levels.other_half) / 2;
  return levels;
}

void fill_tables(const CellVisits& cells, const std::vector<int>& blocks, SeriesEvidence& evidence) {
  evidence.log_ms.setConstant(static_cast<Eigen::Index>(cells.size()), static_cast<Eigen::Index>(blocks.size()),
                              std::numeric_limits<double>::quiet_NaN());
  evidence.order.setZero(evidence.log_ms.rows(), evidence.log_ms.cols());
  for (const auto& [x, by_block] : cells) {
    const auto row = static_cast<Eigen::Index>(evidence.x.size());
    evidence.x.push_back(x);
    for (const auto& [block, visits] : by_block) {
      const auto column = std::lower_bound(blocks.begin(), blocks.end(), block) - blocks.begin();
      evidence.log_ms(row, column) = mean_log_ms(visits);
      evidence.order(row, column) = mean_order(visits);
    }
  }
  leave_out_thin_blocks(evidence.log_ms);
}

bool have_yardstick(const Visits& visits) {
  return std::all_of(visits.begin(), visits.end(), [](const JudgedVisit* one) { return one->visit->yardstick; });
}

/// Whether any place has visits in two blocks.
bool is_repeated(const Eigen::ArrayXXd& table) {
  for (Eigen::Index row = 0; row < table.rows(); ++row)
    if ((table.row(row) == table.row(row)).count() > 1) return true;
  return false;
}

/// Half of log(high / low) of the widest reading by eye.
double widest_reading(const Visits& visits) {
  double widest = 0;
  for (const JudgedVisit* one : visits) widest = std::max(widest, one->visit->read_share.value_or(0));
  return widest;
}

/// What repetition does not show and must be assumed.
void assume_errors(const EvidenceSet& set, const BlocksOfRuns& runs, bool within_runs, SeriesEvidence& evidence) {
  if (set.head.made_by == MadeBy::tables && (runs.are_few() || !is_repeated(evidence.log_ms)))
    evidence.assumed_error = std::hypot(assumed_visit_deviation, assumed_block_deviation);
  if (runs.are_few() && !within_runs) evidence.between_runs = assumed_visit_deviation;
  if (const double read = widest_reading(evidence.visits); read > 0)
    evidence.assumed_error = std::hypot(evidence.assumed_error.value_or(0), read / t_factor(assumed_blocks));
}

/// Whether the frames of a visit are known without what they waited for a core: those of linked variants, and of
/// programs that record themselves.
bool tells_waiting(const Head& head, const Visit& visit) {
  return head.made_by == MadeBy::program ||
         (head.made_by == MadeBy::commands && visit.yardstick && !visit.yardstick->program.empty());
}

double load_doubt(const Head& head, const Visits& visits) {
  double sum = 0;
  for (const JudgedVisit* one : visits) {
    const auto& load = one->visit->load;
    if (load && load->waiting_share && !tells_waiting(head, *one->visit)) sum += std::log1p(*load->waiting_share);
  }
  return sum / static_cast<double>(visits.size());
}

/// What a visit's frames took in all: by the clock, without waiting for a core, and of processors.
struct Took {
  double wall_ms = 0, own_ms = 0, processor_ms = 0;
};

/// Nothing where the system does not tell of processors.
std::optional<Took> took(const Visit& visit) {
  if (!visit.processor_ms || *visit.processor_ms <= 0 || visit.samples_ns.empty()) return std::nullopt;
  Took all{0, 0, *visit.processor_ms};
  for (std::size_t sample = 0; sample < visit.samples_ns.size(); ++sample) {
    all.wall_ms += 1e-6 * static_cast<double>(visit.samples_ns[sample]);
    all.own_ms += 1e-6 * static_cast<double>(own_ns(visit, sample));
  }
  return all;
}

/// Cores that the frames keep busy at the place where they keep most, while they do not wait for one.
int most_cores(const CellVisits& cells) {
  double most = 1;
  for (const auto& [x, by_block] : cells) {
    std::vector<double> cores;
    for (const auto& [block, visits] : by_block)
      for (const JudgedVisit* one : visits)
        if (const auto all = took(*one->visit)) cores.push_back(all->processor_ms / all->own_ms);
    if (!cores.empty()) most = std::max(most, median(cores));
  }
  return static_cast<int>(std::lround(most));
}

/// How much longer than on free cores a frame may have taken, log scale: between what it took and its processor time
/// shared evenly by so many cores, as far as others had some of them.
double lost_cores(const Visit& visit, int cores) {
  const auto all = took(visit);
  if (!all || !visit.load || !visit.load->waiting_share) return 0;
  if (visit.load->busy_cores - all->processor_ms / all->wall_ms < others_on_cores) return 0;
  const double lacking = std::clamp(
      (*visit.load->waiting_share - cores_may_lack_from) / (cores_lack_from - cores_may_lack_from), 0.0, 1.0);
  return lacking * std::max(0.0, std::log(all->own_ms * cores / all->processor_ms));
}

/// Of every place; empty where frames use one core.
std::vector<double> lost_cores(const CellVisits& cells) {
  const int cores = most_cores(cells);
  std::vector<double> lost;
  if (cores < 2) return lost;
  for (const auto& [x, by_block] : cells) {
    double sum = 0, visits = 0;
    for (const auto& [block, made] : by_block)
      for (const JudgedVisit* one : made) {
        sum += lost_cores(*one->visit, cores);
        ++visits;
      }
    lost.push_back(sum / visits);
  }
  return lost;
}

int rank_of(const Scenario& scenario, const std::string& variant) {
  const auto found = std::find_if(scenario.variants.begin(), scenario.variants.end(),
                                  [&](const VariantFacts& facts) { return facts.name == variant; });
  return static_cast<int>(found - scenario.variants.begin());
}

/// Judges all visits by the level of the whole study.
YardstickJudge judge_all(std::vector<JudgedVisit>& visits, const BlocksOfRuns& runs, const Head& head) {
  YardstickJudge judge(head);
  for (const JudgedVisit& one : visits) judge.add(*one.visit);
  for (JudgedVisit& one : visits) {
    one.block = runs.block_of(one.block);
    one.is_evidence = is_evidence(*one.visit, judge);
    if (one.is_evidence) one.typical_ms = typical_frame_ms(*one.visit);
  }
  return judge;
}

/// The series of the plan, then any that evidence alone names, in the order of their first visit.
std::vector<Series> series_of(const EvidenceSet& set) {
  std::vector<Series> all = set.head.plan.series;
  SeriesSet known(all.begin(), all.end());
  for (const JudgedVisit& one : set.visits)
    if (one.is_evidence && known.insert(one.series).second) all.push_back(one.series);
  return all;
}

std::vector<int> blocks_of(const std::vector<JudgedVisit>& visits) {
  std::set<int> blocks;
  for (const JudgedVisit& one : visits)
    if (one.is_evidence) blocks.insert(one.block);
  return {blocks.begin(), blocks.end()};
}

SeriesSet without_an_answer(const std::vector<Agreement>& agreements) {
  SeriesSet series;
  for (const Agreement& one : agreements)
    if (!one.may_answer()) series.insert(one.series);
  return series;
}

void gather_series(const std::vector<Series>& all, const BlocksOfRuns& runs, bool within_runs,
                   const YardstickJudge& judge, EvidenceSet& set) {
  BySeries<const JudgedVisit*> by_series;
  for (const JudgedVisit& one : set.visits)
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
    evidence.visits = by_series.of(one);
    const CellVisits cells = cells_of(evidence.visits);
    fill_tables(cells, set.blocks, evidence);
    if (have_yardstick(evidence.visits)) {
      const YardstickJudge::Kind kind = YardstickJudge::kind_of(*evidence.visits.back()->visit->yardstick);
      evidence.levels = levels_of(cells, set.blocks, evidence.log_ms, judge);
      evidence.fast_level_deviation = judge.fast_deviation(kind);
      evidence.probed_by = kind;
    }
    evidence.load_doubt = load_doubt(set.head, evidence.visits);
    evidence.lost_cores = lost_cores(cells);
    assume_errors(set, runs, within_runs, evidence);
    set.series.push_back(std::move(evidence));
  }
}

}  // namespace

EvidenceSet gather_evidence(const Study& study, const EvidenceWanted& wanted) {
  EvidenceSet set;
  set.study = &study;
  set.agreements = agreements_of(study);
  StudyOnAxis on = put_on_axis(study, wanted.axis, set.agreements);
  set.axis = std::move(on.axis);
  set.head = std::move(on.head);
  set.visits = std::move(on.visits);
  const BlocksOfRuns runs = blocks_of_runs(study);
  set.runs = runs.runs;
  const YardstickJudge judge = judge_all(set.visits, runs, study.head);
  set.quiet = quietness_of(set.visits, judge);
  set.blocks = blocks_of(set.visits);
  const std::vector<Series> series = series_of(set);
  gather_series(series, runs, wanted.within_runs, judge, set);
  set.failures = failures_among(set.visits, series);
  set.bounds = bounds_among(set.visits, series);
  return set;
}

}  // namespace mileage
