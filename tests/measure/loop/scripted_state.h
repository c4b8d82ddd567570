#pragma once

#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "measure/loop/plan.h"
#include "measure/loop/study_state.h"
#include "measure/runners/same_process_runner.h"
#include "support/scripted.h"

namespace mileage::scripted {

/// For the phases of the loop: variants with given nanoseconds per entity, on a virtual clock.
class ScriptedState {
 public:
  ScriptedState(const std::vector<std::pair<std::string, std::int64_t>>& ns_each, const PlanRequest& request)
      : ScriptedState(in_proportion(ns_each), request) {}
  /// The first variant is the reference.
  ScriptedState(std::vector<std::pair<std::string, FrameTimes>> variants, const PlanRequest& request) {
    catalogue_ = catalogue_of(clock, std::move(variants));
    head.scenario = catalogue_.scenarios().front();
    head.plan = make_plan(head.scenario, request);
    runner_ = std::make_unique<SameProcessRunner>(catalogue_, Instruments{&clock, &yardstick_, nullptr});
    state_ = std::make_unique<StudyState>(head, made_, *runner_, clock, watch);
  }

  StudyState& operator*() { return *state_; }
  StudyState* operator->() { return state_.get(); }
  const std::vector<Run>& runs() const { return state_->recorder.study().runs; }

  VirtualClock clock;
  Head head;
  Watch watch;
  double yardstick_ns = 100;

 private:
  static std::vector<std::pair<std::string, FrameTimes>> in_proportion(
      const std::vector<std::pair<std::string, std::int64_t>>& ns_each) {
    std::vector<std::pair<std::string, FrameTimes>> variants;
    for (const auto& [name, ns] : ns_each)
      variants.emplace_back(name, [ns = ns](std::int64_t count, std::int64_t) { return ns * count; });
    return variants;
  }

  ScriptedYardstick yardstick_{[this] { return yardstick_ns; }};
  Catalogue catalogue_;
  std::vector<Run> made_;
  std::unique_ptr<SameProcessRunner> runner_;
  std::unique_ptr<StudyState> state_;
};

inline PlanRequest counts(std::vector<std::int64_t> counts, int blocks = 3) {
  PlanRequest request;
  request.counts = std::move(counts);
  request.blocks = blocks;
  return request;
}

}  // namespace mileage::scripted
