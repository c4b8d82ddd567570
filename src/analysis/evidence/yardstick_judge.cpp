#include "analysis/evidence/yardstick_judge.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "analysis/evidence/judged_run.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/level_adjustment.h"

namespace mileage {

bool is_of_a_block(const Run& run) {
  return run.status == RunStatus::kept || run.status == RunStatus::disturbed;
}

YardstickJudge::YardstickJudge(const Head& head)
    : YardstickJudge(head.remembered_yardstick_ns, head.yardstick_version) {
  for (const auto& [cores, ns] : head.remembered_on_cores_ns) remembered_ns_[{"", std::atoi(cores.c_str())}] = ns;
}

void YardstickJudge::add(const Run& run) {
  if (!run.yardstick) return;
  // A program that was linked with another version probes with other work: only the study itself tells its levels.
  const bool is_own = run.yardstick->program.empty();
  if (is_own && version_ != 0 && run.yardstick->version != version_) remembered_ns_.clear();
  std::vector<double>& fast = fast_of_runs_[kind_of(*run.yardstick)];
  fast.insert(std::upper_bound(fast.begin(), fast.end(), run.yardstick->fast_ns), run.yardstick->fast_ns);
}

std::optional<double> YardstickJudge::shown_by(double share, const Kind& kind) const {
  const auto found = fast_of_runs_.find(kind);
  if (found == fast_of_runs_.end()) return std::nullopt;
  const std::vector<double>& fast = found->second;
  return fast[static_cast<std::size_t>(share * static_cast<double>(fast.size() - 1))];
}

std::optional<double> YardstickJudge::own_fast_ns(const Kind& kind) const { return shown_by(fast_runs_share, kind); }

std::optional<double> YardstickJudge::usual_fast_ns(const Kind& kind) const {
  return shown_by(runs_of_a_fast_study, kind);
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
  return fast_of_runs_.empty() || fast_of_runs_.count({}) > 0 ? Kind{} : fast_of_runs_.begin()->first;
}

std::map<int, double> YardstickJudge::own_fast_by_cores_ns() const {
  std::map<int, double> levels;
  for (const auto& [kind, fast] : fast_of_runs_)
    if (kind.program.empty()) levels[kind.cores] = *own_fast_ns(kind);
  return levels;
}

bool YardstickJudge::is_slow_throughout() const {
  const auto usual = usual_fast_ns(main_kind());
  const auto remembered = remembered_ns();
  return usual && remembered && *usual > same_speed_within * *remembered;
}

std::optional<double> YardstickJudge::slowness(const Run& run) const {
  if (!run.yardstick) return std::nullopt;
  const auto fast = fast_ns(kind_of(*run.yardstick));
  return fast ? std::optional(run.yardstick->level_ns() / *fast) : std::nullopt;
}

bool YardstickJudge::condemns(const Run& run) const {
  if (run.load && run.load->stolen_share > stolen_beyond && run.took_s >= load_told_from_s) return true;
  if (!run.yardstick) return false;
  const Kind kind = kind_of(*run.yardstick);
  const auto fast = fast_ns(kind);
  if (!fast) return false;
  // A machine that is slow throughout is measured as it is.
  return run.yardstick->level_ns() > condemned_beyond * std::max(*fast, *usual_fast_ns(kind));
}

double YardstickJudge::rough_fast_ms(const Run& run) const {
  return typical_frame_ms(run) * std::exp(-usual_log_slower_at(std::log(slowness(run).value_or(1))));
}

double YardstickJudge::rough_fast_deviation(const Run& run) const {
  return usual_slower_deviation_at(std::log(slowness(run).value_or(1)));
}

bool is_evidence(const Run& run, const YardstickJudge& of_whole_study) {
  return is_of_a_block(run) && !run.samples_ns.empty() && !of_whole_study.condemns(run);
}

std::vector<const Run*> evidence_runs(const Study& study) {
  YardstickJudge judge(study.head);
  for (const Run& run : study.runs) judge.add(run);
  std::vector<const Run*> runs;
  for (const Run& run : study.runs)
    if (is_evidence(run, judge)) runs.push_back(&run);
  return runs;
}

}  // namespace mileage
