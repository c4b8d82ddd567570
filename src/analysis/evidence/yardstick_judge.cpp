#include "analysis/evidence/yardstick_judge.h"

#include <algorithm>
#include <iterator>

#include "analysis/statistics/constants.h"

namespace mileage {
namespace {}  // namespace

bool is_of_a_block(const Visit& visit) {
  return visit.status == VisitStatus::kept || visit.status == VisitStatus::disturbed;
}

void YardstickJudge::add(const Visit& visit) {
  if (!visit.yardstick) return;
  level_.reset();
  std::vector<double>& sorted = is_of_a_block(visit) ? in_blocks_ : early_;
  const double reading = visit.yardstick->level_ns();
  sorted.insert(std::upper_bound(sorted.begin(), sorted.end(), reading), reading);
}

std::optional<double> YardstickJudge::level_ns() const {
  if (level_) return level_;
  std::vector<double> all;
  if (in_blocks_.size() < readings_of_blocks)
    std::merge(in_blocks_.begin(), in_blocks_.end(), early_.begin(), early_.end(), std::back_inserter(all));
  const std::vector<double>& sorted = all.empty() ? in_blocks_ : all;
  if (sorted.empty()) return std::nullopt;
  const double third = sorted[(sorted.size() - 1) / machine_speed_one_in];
  level_ = *std::lower_bound(sorted.begin(), sorted.end(), third / same_speed_within);
  return level_;
}

bool YardstickJudge::is_slow_throughout() const {
  const auto level = level_ns();
  return level && remembered_ns_ && *level > same_speed_within * *remembered_ns_;
}

std::optional<double> YardstickJudge::limit_ns() const {
  const auto level = level_ns();
  return level ? std::optional(condemned_beyond * *level) : std::nullopt;
}

bool YardstickJudge::condemns(const Visit& visit) const {
  if (visit.load && visit.load->stolen_share > stolen_beyond && visit.took_s >= load_told_from_s) return true;
  const auto level = level_ns();
  if (!level || !visit.yardstick) return false;
  const double reading = visit.yardstick->level_ns();
  return reading > *level * condemned_beyond || reading < *level / condemned_beyond;
}

bool is_evidence(const Visit& visit, const YardstickJudge& of_whole_study) {
  return is_of_a_block(visit) && !visit.samples_ns.empty() && !of_whole_study.condemns(visit);
}

std::vector<const Visit*> evidence_visits(const Study& study) {
  YardstickJudge judge(study.head.remembered_yardstick_ns);
  for (const Visit& visit : study.visits) judge.add(visit);
  std::vector<const Visit*> visits;
  for (const Visit& visit : study.visits)
    if (is_evidence(visit, judge)) visits.push_back(&visit);
  return visits;
}

}  // namespace mileage
