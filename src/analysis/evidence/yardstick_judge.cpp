#include "analysis/evidence/yardstick_judge.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "analysis/evidence/judged_visit.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/level_adjustment.h"

namespace mileage {

bool is_of_a_block(const Visit& visit) {
  return visit.status == VisitStatus::kept || visit.status == VisitStatus::disturbed;
}

YardstickJudge::YardstickJudge(const Head& head)
    : YardstickJudge(head.remembered_yardstick_ns, head.yardstick_version) {
  for (const auto& [cores, ns] : head.remembered_on_cores_ns) remembered_ns_[{"", std::atoi(cores.c_str())}] = ns;
}

void YardstickJudge::add(const Visit& visit) {
  if (!visit.yardstick) return;
  // A program that was linked with another version probes with other work: only the study itself tells its levels.
  const bool is_own = visit.yardstick->program.empty();
  if (is_own && version_ != 0 && visit.yardstick->version != version_) remembered_ns_.clear();
  std::vector<double>& fast = fast_of_visits_[kind_of(*visit.yardstick)];
  fast.insert(std::upper_bound(fast.begin(), fast.end(), visit.yardstick->fast_ns), visit.yardstick->fast_ns);
}

std::optional<double> YardstickJudge::shown_by(double share, const Kind& kind) const {
  const auto found = fast_of_visits_.find(kind);
  if (found == fast_of_visits_.end()) return std::nullopt;
  const std::vector<double>& fast = found->second;
  return fast[static_cast<std::size_t>(share * static_cast<double>(fast.size() - 1))];
}

std::optional<double> YardstickJudge::own_fast_ns(const Kind& kind) const { return shown_by(fast_visits_share, kind); }

std::optional<double> YardstickJudge::usual_fast_ns(const Kind& kind) const {
  return shown_by(visits_of_a_fast_study, kind);
}

std::optional<double> YardstickJudge::remembered_ns(const Kind& kind) const {
  const auto found = remembered_ns_.find(kind);
  return found == remembered_ns_.end() ? std::nullopt : std::optional(found->second);
}

std::optional<double> YardstickJudge::fast_ns(const Kind& kind) const {
  const auto usual = usual_fast_ns(kind);
  const auto remembered = remembered_ns(kind);
  return usual && remembered && *usual > *remembered / same_speed_within ? remembered : own_fast_ns(kind);
}

double YardstickJudge::fast_deviation(const Kind& kind) const {
  const auto usual = usual_fast_ns(kind);
  const auto remembered = remembered_ns(kind);
  if (usual && !remembered)
    return std::clamp(std::log(*usual / *own_fast_ns(kind)), fast_level_deviation, most_level_deviation);
  const bool rests_on_memory = usual && *usual > *remembered * fast_level_seen_within;
  return rests_on_memory ? remembered_level_deviation : fast_level_deviation;
}

YardstickJudge::Kind YardstickJudge::main_kind() const {
  return fast_of_visits_.empty() || fast_of_visits_.count({}) > 0 ? Kind{} : fast_of_visits_.begin()->first;
}

std::map<int, double> YardstickJudge::own_fast_by_cores_ns() const {
  std::map<int, double> levels;
  for (const auto& [kind, fast] : fast_of_visits_)
    if (kind.program.empty()) levels[kind.cores] = *own_fast_ns(kind);
  return levels;
}

bool YardstickJudge::is_slow_throughout() const {
  const auto usual = usual_fast_ns(main_kind());
  const auto remembered = remembered_ns();
  return usual && remembered && *usual > same_speed_within * *remembered;
}

std::optional<double> YardstickJudge::slowness(const Visit& visit) const {
  if (!visit.yardstick) return std::nullopt;
  const auto fast = fast_ns(kind_of(*visit.yardstick));
  return fast ? std::optional(visit.yardstick->level_ns() / *fast) : std::nullopt;
}

bool YardstickJudge::condemns(const Visit& visit) const {
  if (visit.load && visit.load->stolen_share > stolen_beyond && visit.took_s >= load_told_from_s) return true;
  if (!visit.yardstick) return false;
  const Kind kind = kind_of(*visit.yardstick);
  const auto fast = fast_ns(kind);
  if (!fast) return false;
  // A machine that is slow throughout is measured as it is.
  return visit.yardstick->level_ns() > condemned_beyond * std::max(*fast, *usual_fast_ns(kind));
}

double YardstickJudge::rough_fast_ms(const Visit& visit) const {
  return typical_frame_ms(visit) * std::exp(-usual_log_slower_at(std::log(slowness(visit).value_or(1))));
}

double YardstickJudge::rough_fast_deviation(const Visit& visit) const {
  return usual_slower_deviation_at(std::log(slowness(visit).value_or(1)));
}

bool is_evidence(const Visit& visit, const YardstickJudge& of_whole_study) {
  return is_of_a_block(visit) && !visit.samples_ns.empty() && !of_whole_study.condemns(visit);
}

std::vector<const Visit*> evidence_visits(const Study& study) {
  YardstickJudge judge(study.head);
  for (const Visit& visit : study.visits) judge.add(visit);
  std::vector<const Visit*> visits;
  for (const Visit& visit : study.visits)
    if (is_evidence(visit, judge)) visits.push_back(&visit);
  return visits;
}

}  // namespace mileage
