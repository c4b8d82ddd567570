#include "analysis/evidence/disturbance_filter.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "analysis/evidence/judged_run.h"
#include "analysis/statistics/constants.h"

namespace mileage {

bool is_of_a_block(const Run& run) { return run.status == RunStatus::kept || run.status == RunStatus::disturbed; }

DisturbanceFilter::DisturbanceFilter(const Head& head) : DisturbanceFilter(head.full_speed_ns, head.yardstick_version) {
  for (const auto& [cores, ns] : head.full_speed_on_cores_ns) remembered_ns_[{"", std::atoi(cores.c_str())}] = ns;
}

void DisturbanceFilter::add(const Run& run) {
  if (!run.yardstick) return;
  // A program linked with another version runs another yardstick.
  const bool is_own = run.yardstick->program.empty();
  if (is_own && version_ != 0 && run.yardstick->version != version_) remembered_ns_.clear();
  std::vector<double>& fast = fast_of_runs_[kind_of(*run.yardstick)];
  fast.insert(std::upper_bound(fast.begin(), fast.end(), run.yardstick->fast_ns), run.yardstick->fast_ns);
}

std::optional<double> DisturbanceFilter::shown_by(double share, const Kind& kind) const {
  const auto found = fast_of_runs_.find(kind);
  if (found == fast_of_runs_.end()) return std::nullopt;
  const std::vector<double>& fast = found->second;
  return fast[static_cast<std::size_t>(share * static_cast<double>(fast.size() - 1))];
}

std::optional<double> DisturbanceFilter::own_fast_ns(const Kind& kind) const { return shown_by(fast_runs_share, kind); }

std::optional<double> DisturbanceFilter::usual_fast_ns(const Kind& kind) const {
  return shown_by(runs_of_a_fast_study, kind);
}

std::optional<double> DisturbanceFilter::remembered_ns(const Kind& kind) const {
  const auto found = remembered_ns_.find(kind);
  return found == remembered_ns_.end() ? std::nullopt : std::optional(found->second);
}

std::optional<double> DisturbanceFilter::fast_ns(const Kind& kind) const {
  const auto usual = usual_fast_ns(kind);
  const auto remembered = remembered_ns(kind);
  return usual && remembered && *usual > *remembered / same_speed_within ? remembered : own_fast_ns(kind);
}

DisturbanceFilter::Kind DisturbanceFilter::main_kind() const {
  return fast_of_runs_.empty() || fast_of_runs_.count({}) > 0 ? Kind{} : fast_of_runs_.begin()->first;
}

std::map<int, double> DisturbanceFilter::own_fast_by_cores_ns() const {
  std::map<int, double> slowdowns;
  for (const auto& [kind, fast] : fast_of_runs_)
    if (kind.program.empty()) slowdowns[kind.cores] = *own_fast_ns(kind);
  return slowdowns;
}

bool DisturbanceFilter::is_slow_throughout() const {
  const auto usual = usual_fast_ns(main_kind());
  const auto remembered = remembered_ns();
  return usual && remembered && *usual > same_speed_within * *remembered;
}

std::optional<double> DisturbanceFilter::slowness(const Run& run) const {
  if (!run.yardstick) return std::nullopt;
  const auto fast = fast_ns(kind_of(*run.yardstick));
  return fast ? std::optional(run.yardstick->mean_ns() / *fast) : std::nullopt;
}

bool DisturbanceFilter::condemns(const Run& run) const {
  if (run.load && run.load->stolen_share > stolen_beyond && run.took_s >= load_known_from_s) return true;
  if (!run.yardstick) return false;
  const Kind kind = kind_of(*run.yardstick);
  const auto fast = fast_ns(kind);
  if (!fast) return false;
  // A machine that is always slow is measured as it is.
  return run.yardstick->mean_ns() > condemned_beyond * std::max(*fast, *usual_fast_ns(kind));
}

bool is_evidence(const Run& run, const DisturbanceFilter& of_whole_study) {
  return is_of_a_block(run) && !run.samples_ns.empty() && !of_whole_study.condemns(run);
}

std::vector<const Run*> evidence_runs(const Study& study) {
  DisturbanceFilter judge(study.head);
  for (const Run& run : study.runs) judge.add(run);
  std::vector<const Run*> runs;
  for (const Run& run : study.runs)
    if (is_evidence(run, judge)) runs.push_back(&run);
  return runs;
}

}  // namespace mileage
