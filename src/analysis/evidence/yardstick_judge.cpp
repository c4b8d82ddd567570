#include "analysis/evidence/yardstick_judge.h"

#include <algorithm>
#include <cmath>

#include "analysis/evidence/judged_visit.h"
#include "analysis/statistics/constants.h"

namespace mileage {

bool is_of_a_block(const Visit& visit) {
  return visit.status == VisitStatus::kept || visit.status == VisitStatus::disturbed;
}

void YardstickJudge::add(const Visit& visit) {
  if (!visit.yardstick) return;
  // A program that was linked with another version probes with other work: only the study itself tells its levels.
  if (version_ != 0 && visit.yardstick->version != version_) remembered_ns_.reset();
  const double fast_ns = visit.yardstick->fast_ns;
  fast_of_visits_.insert(std::upper_bound(fast_of_visits_.begin(), fast_of_visits_.end(), fast_ns), fast_ns);
}

std::optional<double> YardstickJudge::own_fast_ns() const {
  if (fast_of_visits_.empty()) return std::nullopt;
  return fast_of_visits_[static_cast<std::size_t>(fast_visits_share * static_cast<double>(fast_of_visits_.size() - 1))];
}

std::optional<double> YardstickJudge::fast_ns() const {
  const auto own = own_fast_ns();
  return own && remembered_ns_ && *own > *remembered_ns_ / same_speed_within ? remembered_ns_ : own;
}

double YardstickJudge::fast_deviation() const {
  const auto own = own_fast_ns();
  const bool rests_on_memory = own && remembered_ns_ && *own > *remembered_ns_ * fast_level_seen_within;
  return rests_on_memory ? remembered_level_deviation : fast_level_deviation;
}

bool YardstickJudge::is_slow_throughout() const {
  const auto own = own_fast_ns();
  return own && remembered_ns_ && *own > same_speed_within * *remembered_ns_;
}

std::optional<double> YardstickJudge::slowness(const Visit& visit) const {
  const auto fast = fast_ns();
  return fast && visit.yardstick ? std::optional(visit.yardstick->level_ns() / *fast) : std::nullopt;
}

bool YardstickJudge::condemns(const Visit& visit) const {
  if (visit.load && visit.load->stolen_share > stolen_beyond && visit.took_s >= load_told_from_s) return true;
  const auto fast = fast_ns();
  if (!fast || !visit.yardstick) return false;
  // A machine that is slow throughout is measured as it is.
  return visit.yardstick->level_ns() > condemned_beyond * std::max(*fast, *own_fast_ns());
}

double YardstickJudge::rough_fast_ms(const Visit& visit) const {
  return typical_frame_ms(visit) * std::pow(slowness(visit).value_or(1), -slope_prior);
}

bool is_evidence(const Visit& visit, const YardstickJudge& of_whole_study) {
  return is_of_a_block(visit) && !visit.samples_ns.empty() && !of_whole_study.condemns(visit);
}

std::vector<const Visit*> evidence_visits(const Study& study) {
  YardstickJudge judge(study.head.remembered_yardstick_ns, study.head.yardstick_version);
  for (const Visit& visit : study.visits) judge.add(visit);
  std::vector<const Visit*> visits;
  for (const Visit& visit : study.visits)
    if (is_evidence(visit, judge)) visits.push_back(&visit);
  return visits;
}

}  // namespace mileage
