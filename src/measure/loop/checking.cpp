#include "measure/loop/checking.h"

#include "analysis/evidence/agreement.h"
#include "measure/loop/check_plan.h"

namespace mileage {
namespace {

/// Share of the time allowed in which outcomes are compared at one count, and how much smaller a count is taken where
/// they would take longer.
constexpr double share_for_checks = 0.1;
constexpr std::int64_t smaller_check = 4;
/// Of all checks. Beyond it only the plain ones are made, a variant once each, and those with several workers are not.
constexpr double share_for_all_checks = 0.12;

bool has_time_for_more(const StudyState& state) {
  return state.plan.time_s <= 0 || state.recorder.visits_s() < share_for_all_checks * state.plan.time_s;
}

/// False when the first world took too long for all of them to be made, and a smaller count may be taken.
bool check_at(StudyState& state, std::int64_t count, bool may_be_smaller) {
  Progress progress;
  progress.checking = true;
  const std::vector<Check> checks = checks_at(state.head.scenario, state.plan, count);
  progress.cells = checks.size();
  for (const Check& one : checks) {
    if (state.is_stop_asked()) return true;
    if (!(one.varied == Knobs{}) && !has_time_for_more(state)) return true;
    const Visit visit = state.recorder.make({one.series, one.varied, one.count, -1, VisitStatus::check}, progress);
    const double all_s = visit.took_s * static_cast<double>(checks.size());
    const double allowed_s = share_for_checks * state.plan.time_s;
    if (&one == &checks.front() && may_be_smaller && allowed_s > 0 && all_s > allowed_s) return false;
  }
  return true;
}

void exclude_what_differs(StudyState& state) {
  const std::vector<Agreement> agreements = agreements_of(state.recorder.study());
  for (std::size_t series = 0; series < agreements.size(); ++series) {
    state.is_excluded[series] = !agreements[series].may_answer();
    if (!state.is_excluded[series]) continue;
    for (const std::int64_t count : state.plan.counts) state.leave_out(series, count, LeftOutWhy::outcome_differs);
  }
}

}  // namespace

void check_outcomes(StudyState& state) {
  const std::vector<std::int64_t> counts = counts_checked(state.plan);
  for (std::int64_t count : counts)
    while (!check_at(state, count, count / smaller_check > counts.front())) count /= smaller_check;
  exclude_what_differs(state);
}

}  // namespace mileage
