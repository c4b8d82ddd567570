#include "analysis/evidence.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <set>

#include "analysis/agreement.h"
#include "analysis/labels.h"
#include "analysis/runs.h"
#include "analysis/statistics.h"
#include "analysis/visits_by_series.h"
#include "analysis/yardstick_judge.h"

namespace mileage {
namespace {

/// Kept visits of one series, by place on the axis and block.
using CellVisits = std::map<double, std::map<int, std::vector<const Visit*>>>;

CellVisits cells_of(const std::vector<const Visit*>& visits) {
  CellVisits cells;
  for (const Visit* visit : visits) cells[visit->place()][visit->block].push_back(visit);
  return cells;
}

double mean_log_ms(const std::vector<const Visit*>& visits) {
  double sum = 0;
  for (const Visit* visit : visits) sum += std::log(typical_frame_ms(*visit));
  return sum / static_cast<double>(visits.size());
}

double mean_order(const std::vector<const Visit*>& visits) {
  double sum = 0;
  for (const Visit* visit : visits) sum += visit->order;
  return sum / static_cast<double>(visits.size());
}

std::optional<double> median_setup_ms(const std::map<int, std::vector<const Visit*>>& by_block) {
  std::vector<double> times;
  for (const auto& [block, visits] : by_block)
    for (const Visit* visit : visits)
      if (visit->setup_ms) times.push_back(*visit->setup_ms);
  return times.empty() ? std::nullopt : std::optional(median(std::move(times)));
}

std::vector<int> blocks_of(const std::vector<const Visit*>& evidence) {
  std::set<int> blocks;
  for (const Visit* visit : evidence) blocks.insert(visit->block);
  return {blocks.begin(), blocks.end()};
}

/// A block that holds less than half as many cells as the fullest one (time ran out in it) would count as a repetition and
/// be none.
void leave_out_thin_blocks(Eigen::ArrayXXd& table) {
  const auto present = (table == table).cast<int>().colwise().sum().eval();
  const int fullest = present.maxCoeff();
  for (Eigen::Index block = 0; block < table.cols(); ++block) {
    if (2 * present(block) < fullest) table.col(block).setConstant(std::numeric_limits<double>::quiet_NaN());
  }
}

SeriesEvidence table_of(const CellVisits& cells, const std::vector<int>& blocks) {
  SeriesEvidence evidence;
  evidence.log_ms.setConstant(static_cast<Eigen::Index>(cells.size()), static_cast<Eigen::Index>(blocks.size()),
                              std::numeric_limits<double>::quiet_NaN());
  evidence.order.setZero(evidence.log_ms.rows(), evidence.log_ms.cols());
  for (const auto& [x, by_block] : cells) {
    const auto row = static_cast<Eigen::Index>(evidence.x.size());
    evidence.x.push_back(x);
    evidence.setup_ms.push_back(median_setup_ms(by_block));
    for (const auto& [block, visits] : by_block) {
      const auto column = std::lower_bound(blocks.begin(), blocks.end(), block) - blocks.begin();
      evidence.log_ms(row, column) = mean_log_ms(visits);
      evidence.order(row, column) = mean_order(visits);
    }
  }
  leave_out_thin_blocks(evidence.log_ms);
  return evidence;
}

/// Whether any place has visits in two blocks.
bool is_repeated(const Eigen::ArrayXXd& table) {
  for (Eigen::Index row = 0; row < table.rows(); ++row)
    if ((table.row(row) == table.row(row)).count() > 1) return true;
  return false;
}

std::set<Series, SeriesOrder> not_answering(const Study& study) {
  std::set<Series, SeriesOrder> series;
  for (const Agreement& one : agreements_of(study))
    if (!one.may_answer()) series.insert(one.series);
  return series;
}

/// Half of log(high / low) of the widest reading by eye.
double widest_reading(const std::vector<const Visit*>& visits) {
  double widest = 0;
  for (const Visit* visit : visits) widest = std::max(widest, visit->read_share.value_or(0));
  return widest;
}

int rank_of(const Scenario& scenario, const std::string& variant) {
  const auto found = std::find_if(scenario.variants.begin(), scenario.variants.end(),
                                  [&](const VariantFacts& facts) { return facts.name == variant; });
  return static_cast<int>(found - scenario.variants.begin());
}

}  // namespace

double typical_frame_ms(const Visit& visit) {
  std::vector<double> times(visit.samples_ns.begin(), visit.samples_ns.end());
  return median(std::move(times)) / visit.frames_per_sample * 1e-6;
}

Evidence gather_evidence(const Study& study, bool within_runs) {
  const std::vector<const Visit*> visits = evidence_visits(study);
  Evidence evidence;
  evidence.blocks = blocks_of(visits);
  const std::size_t runs = runs_of(study);
  const bool few_runs = runs > 0 && runs < runs_for_an_interval;
  const std::vector<Series> series = series_of(study);
  const std::set<Series, SeriesOrder> differing = not_answering(study);
  const VisitsBySeries by_series(visits);
  for (const Series& one : series) {
    const CellVisits cells = cells_of(by_series.of(one));
    if (cells.empty() || differing.count(one) > 0) continue;
    SeriesEvidence table = table_of(cells, evidence.blocks);
    table.series = one;
    if (study.head.imported && (few_runs || !is_repeated(table.log_ms))) table.assumed_error = std::hypot(assumed_visit_deviation, assumed_block_deviation);
    if (few_runs && !within_runs) table.between_runs = assumed_visit_deviation;
    if (const double read = widest_reading(by_series.of(one)); read > 0)
      table.assumed_error = std::hypot(table.assumed_error.value_or(0), read / t_factor(assumed_blocks));
    table.label = label_of(one, series);
    table.rank = rank_of(study.head.scenario, one.variant);
    evidence.series.push_back(std::move(table));
  }
  for (const Visit& visit : study.visits)
    if (visit.status == VisitStatus::failed)
      evidence.failures.push_back({label_of(visit.series, series), visit.place(), visit.block, visit.failure});
  return evidence;
}

}  // namespace mileage
