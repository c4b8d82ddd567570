#include "measure/loop/check_costs.h"

#include <algorithm>
#include <string>
#include <utility>
#include <vector>

#include <gtest/gtest.h>

#include "measure/loop/checking.h"
#include "measure/loop/range_finding.h"
#include "measure/loop/rounds.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

using Variants = std::vector<std::pair<std::string, scripted::FrameTimes>>;

/// Quadratic reference and a linear variant.
Variants dear_reference(std::int64_t ns_a_pair) {
  return {{"pairs", [ns_a_pair](std::int64_t count, std::int64_t) { return ns_a_pair * count * count; }},
          {"grid", [](std::int64_t count, std::int64_t) { return 50 * count; }}};
}

PlanRequest for_seconds(double time_s, std::vector<std::string> variants = {}) {
  PlanRequest request = scripted::counts({100, 1000, 100'000}, 0);
  request.variants = std::move(variants);
  request.time_s = time_s;
  return request;
}

std::int64_t largest_check(const scripted::ScriptedState& state, const std::string& variant) {
  std::int64_t largest = 0;
  for (const mileage::Run& run : state.runs())
    if (run.status == RunStatus::check && run.series.variant == variant) largest = std::max(largest, run.count);
  return largest;
}

TEST(CheckCosts, AReferenceThatIsNotMeasuredIsCheckedAsFarAsItsTimeGoes) {
  scripted::ScriptedState state(dear_reference(1), for_seconds(20, {"grid"}));  // 10 s per frame at 100,000.
  check_outcomes(*state);
  find_ranges(*state);
  find_cells(*state);
  const double before_s = state->recorder.runs_s();
  check_what_is_measured(*state);
  EXPECT_LE(state->recorder.runs_s() - before_s, 0.15 * 20);
  EXPECT_GE(largest_check(state, "grid"), 6000) << "40 ms a frame of the reference";
  EXPECT_LT(largest_check(state, "pairs"), 50'000);
  EXPECT_FALSE(state->is_excluded[0]);
}

TEST(CheckCosts, ACheapReferenceThatIsNotMeasuredIsCheckedAtTheLargestCount) {
  scripted::ScriptedState state({{"objects", 50}, {scripted::narrow_index, 10}},
                                for_seconds(20, {scripted::narrow_index}));
  check_outcomes(*state);
  find_ranges(*state);
  find_cells(*state);
  check_what_is_measured(*state);
  EXPECT_EQ(largest_check(state, "objects"), 100'000);
  EXPECT_TRUE(state->is_excluded[0]) << "work that ends beyond 65,535";
}

TEST(CheckCosts, GrowByThePowerAtWhichTheyGrew) {
  scripted::ScriptedState state(dear_reference(10), for_seconds(60));
  const auto frame_ms = [&](std::size_t series, std::int64_t count) {
    return 1e3 * check_cost(*state, state->plan.series[series], count)->frame_s;
  };
  EXPECT_FALSE(check_cost(*state, state->plan.series[0], 1000)) << "nothing is known";
  check_outcomes(*state);
  find_ranges(*state);
  EXPECT_NEAR(frame_ms(0, 1000), 10, 0.5);
  EXPECT_NEAR(frame_ms(0, 100'000) / 1e5, 1, 0.1) << "with the square";
  EXPECT_NEAR(frame_ms(1, 1'000'000), 50, 3) << "in proportion";
}

}  // namespace
}  // namespace mileage
