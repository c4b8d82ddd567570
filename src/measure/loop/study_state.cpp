#include "measure/loop/study_state.h"

#include <algorithm>

namespace mileage {

StudyState::StudyState(const Head& of_study, const std::vector<Visit>& made, Runner& runner, Clock& clock,
                       const Watch& watched_by)
    : head(of_study),
      plan(of_study.plan),
      watch(watched_by),
      recorder(of_study, made, runner, clock, watched_by),
      costs(plan.series.size()) {}

bool StudyState::is_stop_asked() {
  if (watch.stop && watch.stop()) summary.stopped = true;
  return summary.stopped;
}

std::size_t StudyState::index_of(const Series& series) const {
  return static_cast<std::size_t>(std::find(plan.series.begin(), plan.series.end(), series) - plan.series.begin());
}

}  // namespace mileage
