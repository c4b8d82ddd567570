#include "measure/loop/measure_study.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>
#include <random>
#include <set>

#include <gtest/gtest.h>

#include "analysis/evidence/disturbance_filter.h"
#include "measure/loop/check_plan.h"
#include "measure/loop/plan.h"
#include "measure/loop/rounds.h"
#include "measure/runners/same_process_runner.h"
#include "support/scripted.h"
#include "types/error.h"

namespace mileage {
namespace {

using scripted::VirtualClock;

scripted::FrameTimes ns_each(std::int64_t ns) {
  return [ns](std::int64_t count, std::int64_t) { return ns * count; };
}

class MeasureStudy : public testing::Test {
 protected:
  Summary measure(std::vector<std::pair<std::string, scripted::FrameTimes>> variants, PlanRequest request) {
    catalogue_ = scripted::catalogue_of(clock_, std::move(variants));
    scripted::ScriptedYardstick yardstick(yardstick_ns_);
    SameProcessRunner runner(catalogue_, {&clock_, &yardstick});
    head_.scenario = catalogue_.scenarios().front();
    head_.plan = make_plan(head_.scenario, request);
    Watch watch;
    watch.keep = [&](const mileage::Run& run) { runs_.push_back(run); };
    watch.stop = [&] { return stop_after_ > 0 && static_cast<int>(runs_.size()) >= stop_after_; };
    return measure_study(head_, made_, runner, clock_, watch);
  }

  std::vector<mileage::Run> runs_of(RunStatus status, const std::string& variant = "") const {
    std::vector<mileage::Run> some;
    for (const mileage::Run& run : runs_)
      if (run.status == status && (variant.empty() || run.series.variant == variant)) some.push_back(run);
    return some;
  }

  static PlanRequest plan_request(std::vector<std::int64_t> counts, int blocks) {
    PlanRequest request;
    request.counts = std::move(counts);
    request.blocks = blocks;
    return request;
  }

  VirtualClock clock_;
  Catalogue catalogue_;
  Head head_;
  std::vector<mileage::Run> made_;
  std::function<double()> yardstick_ns_ = [] { return 100.0; };
  std::vector<mileage::Run> runs_;
  int stop_after_ = 0;
};

TEST_F(MeasureStudy, RunsEveryCellOnceABlock) {
  const Summary summary =
      measure({{"objects", ns_each(50)}, {"columns", ns_each(10)}}, plan_request({100, 1000, 10'000}, 4));
  EXPECT_EQ(summary.blocks, 4);
  EXPECT_EQ(summary.kept, 4U * 6U);
  std::set<std::tuple<int, std::string, std::int64_t>> cells;
  for (const mileage::Run& run : runs_of(RunStatus::kept)) cells.insert({run.block, run.series.variant, run.count});
  EXPECT_EQ(cells.size(), 24U);
}

TEST_F(MeasureStudy, ShufflesCountsAndKeepsTheSeriesOfACountSideBySide) {
  measure({{"objects", ns_each(50)}, {"columns", ns_each(10)}},
          plan_request({100, 300, 1000, 3000, 10'000, 30'000}, 6));
  const auto runs = runs_of(RunStatus::kept);
  std::set<std::vector<std::int64_t>> orders;
  std::set<std::string> first_of_pair;
  for (std::size_t block = 0; block < 6; ++block) {
    std::vector<std::int64_t> order;
    for (std::size_t i = 0; i < 12; i += 2) {
      const mileage::Run& one = runs[block * 12 + i];
      EXPECT_EQ(one.count, runs[block * 12 + i + 1].count);
      order.push_back(one.count);
      first_of_pair.insert(one.series.variant);
    }
    EXPECT_FALSE(std::is_sorted(order.begin(), order.end())) << "block " << block;
    orders.insert(order);
  }
  EXPECT_GT(orders.size(), 4U);
  EXPECT_EQ(first_of_pair.size(), 2U);
}

TEST_F(MeasureStudy, TheSeedFixesTheOrderAndTheWorlds) {
  measure({{"objects", ns_each(50)}}, plan_request({100, 1000, 10'000}, 2));
  const auto before = runs_;
  runs_.clear();
  measure({{"objects", ns_each(50)}}, plan_request({100, 1000, 10'000}, 2));
  ASSERT_EQ(runs_.size(), before.size());
  for (std::size_t i = 0; i < before.size(); ++i) {
    EXPECT_EQ(runs_[i].count, before[i].count);
    EXPECT_EQ(runs_[i].seed, before[i].seed);
  }
}

TEST_F(MeasureStudy, AllSeriesOfACountInABlockGetTheSameSeed) {
  measure({{"objects", ns_each(50)}, {"columns", ns_each(10)}}, plan_request({100, 1000}, 3));
  std::map<std::pair<int, std::int64_t>, std::set<std::uint64_t>> seeds;
  for (const mileage::Run& run : runs_of(RunStatus::kept)) seeds[{run.block, run.count}].insert(run.seed);
  std::set<std::uint64_t> all;
  for (const auto& [cell, values] : seeds) {
    EXPECT_EQ(values.size(), 1U);
    all.insert(*values.begin());
  }
  EXPECT_EQ(all.size(), 6U);
}

// At 1 us each, 10k fits; range finding ends beyond 16,667.
TEST_F(MeasureStudy, LeavesOutCountsFarOverTheBudgetForThatSeriesOnlyAndNamesThem) {
  PlanRequest request = plan_request({1000, 10'000, 25'000, 100'000, 1'000'000}, 2);
  request.aim = true;
  const Summary summary = measure({{"objects", ns_each(1000)}, {"columns", ns_each(10)}}, request);
  for (const mileage::Run& run : runs_of(RunStatus::kept, "objects")) EXPECT_LE(run.count, 25'000);
  EXPECT_FALSE(runs_of(RunStatus::kept, "columns").empty());
  std::map<std::int64_t, LeftOutWhy> of_objects;
  for (const LeftOut& one : summary.left_out)
    if (head_.plan.series[one.series].variant == "objects") of_objects[one.count] = one.why;
  EXPECT_EQ(of_objects, (std::map<std::int64_t, LeftOutWhy>{{25'000, LeftOutWhy::over_budget},
                                                            {100'000, LeftOutWhy::over_budget},
                                                            {1'000'000, LeftOutWhy::over_budget}}));
}

TEST_F(MeasureStudy, CountsThatWereListedAreMeasuredForEverySeries) {
  for (const double time_s : {0.0, 3.0, 60.0}) {
    PlanRequest request = plan_request({1000, 2000, 25'000, 40'000}, time_s > 0 ? 0 : 2);
    request.aim = request.listed = true;
    request.time_s = time_s;
    measure({{"objects", ns_each(1000)}, {"columns", ns_each(10)}}, request);
    for (const char* variant : {"objects", "columns"}) {
      std::set<std::int64_t> counts;
      for (const mileage::Run& run : runs_of(RunStatus::kept, variant)) counts.insert(run.count);
      for (const std::int64_t count : request.counts) EXPECT_EQ(counts.count(count), 1U) << variant << " " << count;
    }
    runs_.clear();
  }
}

/// All runs after the first few time out.
class SlowsDown : public Runner {
 public:
  SlowsDown(Runner& of, VirtualClock& clock, int well) : of_(of), clock_(clock), well_(well) {}
  MadeBy made_by() const override { return MadeBy::program; }
  std::vector<Scenario> describe() override { return of_.describe(); }
  mileage::Run run(const RunRequest& request, double limit_s) override {
    if (well_-- > 0) return of_.run(request, limit_s);
    clock_.pause_ns(static_cast<std::int64_t>(limit_s * 1e9) + 1);
    return failed_run(request, "took longer than its limit");
  }

 private:
  Runner& of_;
  VirtualClock& clock_;
  int well_;
};

TEST_F(MeasureStudy, EndsWhereNoCellMayBeMeasuredAnyMore) {
  catalogue_ = scripted::catalogue_of(clock_, {{"objects", ns_each(1000)}});
  scripted::ScriptedYardstick yardstick(yardstick_ns_);
  SameProcessRunner runner(catalogue_, {&clock_, &yardstick});
  SlowsDown slow(runner, clock_, 12);
  head_.scenario = catalogue_.scenarios().front();
  PlanRequest request = plan_request({1000}, 0);
  request.time_s = 60;
  head_.plan = make_plan(head_.scenario, request);
  const Summary summary = measure_study(head_, made_, slow, clock_, {});
  EXPECT_GT(summary.failed, 0U);
  EXPECT_LT(summary.blocks, 60) << "and not half a million without a cell";
  EXPECT_LT(summary.elapsed_s, 60);
  ASSERT_FALSE(summary.left_out.empty());
  EXPECT_EQ(summary.left_out.front().why, LeftOutWhy::over_limit);
}

TEST_F(MeasureStudy, AsGivenNothingIsLeftOut) {
  const std::vector<std::int64_t> counts{1000, 10'000, 100'000, 1'000'000};
  const Summary summary = measure({{"objects", ns_each(1000)}}, plan_request(counts, 2));
  std::set<std::int64_t> measured;
  for (const mileage::Run& run : runs_of(RunStatus::kept)) measured.insert(run.count);
  EXPECT_EQ(measured, std::set<std::int64_t>(counts.begin(), counts.end()));
  EXPECT_TRUE(summary.left_out.empty());
}

TEST_F(MeasureStudy, AVariantThatTheChecksExcludeIsMeasuredNoFurther) {
  PlanRequest request = plan_request({1000, 10'000}, 2);
  request.aim = true;
  const Summary summary =
      measure({{"objects", ns_each(1000)}, {scripted::other_work, ns_each(10)}, {"columns", ns_each(500)}}, request);
  for (const mileage::Run& run : runs_)
    EXPECT_TRUE(run.series.variant != scripted::other_work || run.status == RunStatus::check);
  EXPECT_GT(runs_of(RunStatus::kept, "columns").size(), 2U);
  ASSERT_EQ(std::count_if(summary.left_out.begin(), summary.left_out.end(),
                          [](const LeftOut& one) { return one.why == LeftOutWhy::outcome_differs; }),
            2);
}

TEST_F(MeasureStudy, OneSlowPlacingRunDoesNotCutASeriesShort) {
  int runs_at_10k = 0;
  const auto slow_once = [&](std::int64_t count, std::int64_t frame) {  // Checks run smaller worlds.
    if (count == 10'000 && frame == 0) ++runs_at_10k;
    return count * (count == 10'000 && runs_at_10k == 1 ? 4000 : 1000);
  };
  measure({{"objects", slow_once}}, plan_request({1000, 10'000, 30'000}, 2));
  std::int64_t largest = 0;
  for (const mileage::Run& run : runs_of(RunStatus::kept)) largest = std::max(largest, run.count);
  EXPECT_EQ(largest, 30'000);
}

TEST_F(MeasureStudy, AMachineSlowThroughoutIsMeasuredAsItIs) {
  head_.full_speed_ns = 50;
  const Summary summary = measure({{"objects", ns_each(50)}}, plan_request({100, 1000}, 2));
  EXPECT_EQ(summary.condemned, 0U);
  EXPECT_EQ(summary.kept, 4U);
}

// Frames of 2 s: three instead of twenty.
TEST_F(MeasureStudy, ACellFarOverTheBudgetGetsFewFrames) {
  measure({{"objects", [](std::int64_t count, std::int64_t) { return count < 1000 ? 1'000'000 : 2'000'000'000; }}},
          plan_request({100, 1000}, 1));
  for (const mileage::Run& run : runs_of(RunStatus::kept))
    EXPECT_EQ(run.samples_ns.size(), run.count == 100 ? 20U : 3U);
}

/// 1 us each with random slowness of up to `percent`.
scripted::FrameTimes restless(double percent) {
  const auto random = std::make_shared<std::mt19937>(5);  // Shared by all runs.
  return [percent, random, factor = 1.0](std::int64_t count, std::int64_t frame) mutable -> std::int64_t {
    if (frame == 0) factor = std::exp(std::normal_distribution<double>(0, percent / 100)(*random));
    return std::llround(1000.0 * factor * static_cast<double>(count));
  };
}

TEST_F(MeasureStudy, GoesOnUntilTheGoalIsPrecise) {
  PlanRequest request = plan_request({3000, 6000, 9000, 12'000, 15'000, 18'000, 21'000}, 0);
  request.precision = 0.02;
  std::vector<int> blocks;
  for (const double percent : {0.1, 5.0}) {
    const Summary summary = measure({{"objects", restless(percent)}}, request);
    ASSERT_TRUE(summary.reached);
    EXPECT_LE(*summary.reached, 0.02);
    EXPECT_EQ(summary.lacking_s, 0);
    blocks.push_back(summary.blocks);
    runs_.clear();
  }
  EXPECT_EQ(blocks[0], rounds_needed);
  EXPECT_GT(blocks[1], rounds_needed);
}

TEST_F(MeasureStudy, SaysWhatAPrecisionStillLacksWhenTimeEnds) {
  PlanRequest request = plan_request({3000, 6000, 9000, 12'000, 15'000, 18'000, 21'000}, 4);
  request.precision = 0.001;
  const Summary summary = measure({{"objects", restless(5)}}, request);
  EXPECT_EQ(summary.blocks, 4);
  EXPECT_GT(*summary.reached, 0.001);
  EXPECT_GT(*summary.lacking_s, 10 * summary.elapsed_s);
}

TEST_F(MeasureStudy, ColdAndWarmSeriesStandInTheSameBlocks) {
  PlanRequest request = plan_request({100, 1000}, 2);
  request.cold_bytes = {0, 64'000};
  measure({{"objects", ns_each(50'000)}}, request);
  std::map<std::pair<int, double>, int> runs;
  for (const mileage::Run& run : runs_of(RunStatus::kept)) ++runs[{run.block, run.series.cold_bytes}];
  EXPECT_EQ(runs,
            (std::map<std::pair<int, double>, int>{{{0, 0}, 2}, {{0, 64'000}, 2}, {{1, 0}, 2}, {{1, 64'000}, 2}}));
  EXPECT_EQ(runs_of(RunStatus::check).size(), 2U);  // Cold frames do the same work.
}

TEST_F(MeasureStudy, GoesOnWhereAnEarlierRunStopped) {
  const PlanRequest request = plan_request({100, 1000, 10'000}, 3);
  const auto variants = [&] {
    return std::vector<std::pair<std::string, scripted::FrameTimes>>{{"objects", ns_each(50)},
                                                                     {"columns", ns_each(10)}};
  };
  const Summary whole = measure(variants(), request);
  const std::vector<mileage::Run> all = runs_;
  for (const std::size_t stopped_after : {std::size_t{0}, std::size_t{1}, std::size_t{9}, all.size() - 1, all.size()}) {
    made_.assign(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(stopped_after));
    runs_.clear();
    const Summary rest = measure(variants(), request);
    ASSERT_EQ(runs_.size(), all.size() - stopped_after);
    for (std::size_t i = 0; i < runs_.size(); ++i) {
      EXPECT_EQ(runs_[i].order, all[stopped_after + i].order);
      EXPECT_EQ(runs_[i].series, all[stopped_after + i].series);
      EXPECT_EQ(runs_[i].count, all[stopped_after + i].count);
      EXPECT_EQ(runs_[i].seed, all[stopped_after + i].seed);
    }
    EXPECT_EQ(rest.kept, whole.kept);
  }
}

TEST_F(MeasureStudy, DoesNotGoOnFromRunsOfAnotherStudy) {
  measure({{"objects", ns_each(50)}}, plan_request({100, 1000}, 1));
  made_ = runs_;
  EXPECT_THROW(measure({{"objects", ns_each(50)}}, plan_request({200, 2000}, 1)), Error);
}

TEST_F(MeasureStudy, ChecksOutcomesBeforeAnythingIsTimed) {
  measure({{"objects", ns_each(50)}, {"columns", ns_each(10)}}, plan_request({100, 1000, 10'000}, 1));
  const auto checks = runs_of(RunStatus::check);
  ASSERT_EQ(checks.size(), 8U) << "two at two counts; later over as many frames as a run has, and at the largest count";
  EXPECT_EQ(checks[4].check_frames, 20'000) << "20 ms of frames of a microsecond";
  EXPECT_EQ(checks[6].count, 10'000);
  for (std::size_t i = 0; i < 4; ++i) {
    const mileage::Run& run = checks[i];
    EXPECT_LT(run.order, 4);
    EXPECT_EQ(run.outcome.quantities().front().value, check_frames);
    EXPECT_EQ(run.seed, checks[run.count == checks[0].count ? 0 : 2].seed);
  }
}

TEST_F(MeasureStudy, PlacingRunsStandBeforeTheBlocksAndAreNoEvidence) {
  const Summary summary = measure({{"objects", ns_each(50)}}, plan_request({100, 1000}, 1));
  const auto range_finding = runs_of(RunStatus::range_finding);
  ASSERT_EQ(range_finding.size(), 2U);
  for (const mileage::Run& run : range_finding) {
    EXPECT_EQ(run.block, -1);
    EXPECT_LT(run.order, 2 + 2);  // After two checks.
    EXPECT_FALSE(run.samples_ns.empty()) << "they have frames,";
    EXPECT_FALSE(is_of_a_block(run)) << "and are none all the same";
  }
  EXPECT_EQ(summary.kept, 2U) << "the two runs of the block alone";
}

TEST_F(MeasureStudy, ARunThatFailsCostsItsCellAndNothingElse) {
  const auto failing = [](std::int64_t count, std::int64_t) -> std::int64_t {
    if (count == 1000) throw std::runtime_error("the string tore");
    return 1'000'000;
  };
  const Summary summary =
      measure({{"objects", failing}, {"columns", ns_each(10)}}, plan_request({100, 1000, 10'000}, 2));
  EXPECT_EQ(runs_of(RunStatus::failed).size(), 2U);  // Check and range finding.
  EXPECT_EQ(summary.failed, 2U);
  EXPECT_EQ(runs_of(RunStatus::kept, "objects").size(), 4U);
  EXPECT_EQ(runs_of(RunStatus::kept, "columns").size(), 6U);
}

TEST_F(MeasureStudy, StopsCleanlyWhenAsked) {
  stop_after_ = 5;
  const Summary summary = measure({{"objects", ns_each(50)}, {"columns", ns_each(10)}}, plan_request({100, 1000}, 9));
  EXPECT_TRUE(summary.stopped);
  EXPECT_EQ(runs_.size(), 5U);
}

TEST_F(MeasureStudy, UsesTheTimeUpToTheLastRunThatFits) {
  for (const double time_s : {2.0, 10.0}) {
    PlanRequest request = plan_request({1000, 3000, 10'000}, 0);
    request.time_s = time_s;  // 5 ms set-up, up to 13 frames of 10 ms.
    const Summary summary = measure({{"objects", ns_each(1000)}}, request);
    EXPECT_GE(summary.blocks, 3 * time_s / 2);
    EXPECT_LE(summary.elapsed_s, time_s);
    EXPECT_GE(summary.elapsed_s, 0.9 * time_s);
    runs_.clear();
  }
}

TEST_F(MeasureStudy, EndsWithTheTimeEvenInItsFirstBlockAndNamesWhatItDidNotReach) {
  PlanRequest request = plan_request({1000, 2000, 4000, 8000, 10'000}, 0);
  request.time_s = 0.6;
  const Summary summary = measure({{"objects", ns_each(1000)}}, request);
  EXPECT_LE(summary.elapsed_s, 1.1 * request.time_s);
  EXPECT_EQ(summary.blocks, 0);
  ASSERT_FALSE(summary.left_out.empty());
  EXPECT_EQ(summary.left_out.front().why, LeftOutWhy::not_reached);
}

// 1 us each: capacity 16,667; the ladder has only 10k and 30k around it.
TEST_F(MeasureStudy, PutsCountsAroundACapacity) {
  PlanRequest request = plan_request({100, 1000, 3000, 10'000, 30'000}, 3);
  request.aim = true;
  measure({{"objects", ns_each(1000)}}, request);
  std::set<std::int64_t> counts;
  for (const mileage::Run& run : runs_of(RunStatus::kept)) counts.insert(run.count);
  const auto near = std::count_if(counts.begin(), counts.end(),
                                  [](std::int64_t count) { return count > 16'667 / 1.4 && count < 16'667 * 1.4; });
  EXPECT_EQ(near, 5);
  EXPECT_EQ(counts.count(30'000), 0U);  // Expensive and useless.
  EXPECT_EQ(counts.count(10'000), 1U);
}

TEST_F(MeasureStudy, ReachesBeyondItsCountsForABudgetThatIsNotCrossed) {
  PlanRequest request = plan_request({100, 1000, 5000}, 1);
  request.aim = true;
  measure({{"objects", ns_each(1000)}}, request);
  std::int64_t largest = 0;
  for (const mileage::Run& run : runs_of(RunStatus::kept)) largest = std::max(largest, run.count);
  EXPECT_GT(largest, 16'667);
  EXPECT_LT(largest, 25'000);
}

// 1 us each against 2 ms + 0.2 us each: break-even at 2,500.
TEST_F(MeasureStudy, PutsCountsOfBothAroundABreakEven) {
  PlanRequest request = plan_request({100, 1000, 10'000}, 2);
  request.aim = true;
  request.goal = {"breakeven", 0, {"objects", "columns"}};
  measure({{"objects", ns_each(1000)},
           {"columns", [](std::int64_t count, std::int64_t) { return 2'000'000 + 200 * count; }}},
          request);
  for (const char* variant : {"objects", "columns"}) {
    std::set<std::int64_t> near;
    for (const mileage::Run& run : runs_of(RunStatus::kept, variant))
      if (run.count > 1700 && run.count < 3600) near.insert(run.count);
    EXPECT_GE(near.size(), 5U) << variant;
  }
}

// A third of full speed during range finding.
TEST_F(MeasureStudy, CorrectsAnAimThatWasMissed) {
  PlanRequest request = plan_request({100, 1000, 3000, 10'000, 30'000, 60'000}, 6);
  request.aim = true;
  measure({{"objects", [&](std::int64_t count,
                           std::int64_t) { return (runs_of(RunStatus::kept).empty() ? 3000 : 1000) * count; }}},
          request);
  std::map<std::int64_t, int> near;
  for (const mileage::Run& run : runs_of(RunStatus::kept))
    if (run.count > 16'667 / 1.4 && run.count < 16'667 * 1.4) ++near[run.count];
  EXPECT_GE(near.size(), 5U);
  EXPECT_GE(near.rbegin()->second, 4);
}

// All first runs seem over budget.
TEST_F(MeasureStudy, CorrectsAnAimThatLiesTooHigh) {
  PlanRequest request = plan_request({1000, 3000, 10'000, 30'000, 60'000}, 0);
  request.aim = true;
  request.time_s = 20;
  request.goal.figure = "capacity";
  measure({{"objects", [&](std::int64_t count,
                           std::int64_t) { return (runs_of(RunStatus::kept).empty() ? 1000 : 2500) * count; }}},
          request);
  int below = 0, above = 0;
  for (const mileage::Run& run : runs_of(RunStatus::kept)) {
    below += run.count > 6667 / 1.4 && run.count < 6667;
    above += run.count >= 6667 && run.count < 6667 * 1.4;
  }
  EXPECT_GE(below, 5);
  EXPECT_GE(above, 5);
}

// A third of full speed for three blocks: their figures are far too low.
TEST_F(MeasureStudy, CountsFollowAFigureThatTheFirstBlocksMissed) {
  const auto is_slow = [&] { return runs_of(RunStatus::kept).size() < 27; };
  yardstick_ns_ = [&] { return is_slow() ? 300.0 : 100.0; };
  PlanRequest request = plan_request({100, 1000, 3000, 10'000, 30'000, 60'000}, 9);
  request.aim = true;
  measure({{"objects", [&](std::int64_t count, std::int64_t) { return (is_slow() ? 3000 : 1000) * count; }}}, request);
  std::map<int, std::set<std::int64_t>> near_by_block;
  const Study study{head_, runs_, {}, {}};
  for (const mileage::Run* run : evidence_runs(study))
    if (run->count > 16'667 / 1.4 && run->count < 16'667 * 1.4) near_by_block[run->block].insert(run->count);
  EXPECT_GE(near_by_block[8].size(), 5U);
}

TEST_F(MeasureStudy, WorldsTooDearForTheTimeAreComparedAtASmallerCount) {
  PlanRequest request = plan_request({10, 3000}, 1);
  request.time_s = 60;
  measure({{"objects", ns_each(1'000'000)}, {"columns", ns_each(1'000'000)}},
          request);  // 60 s for twenty frames of 3,000.
  std::vector<std::int64_t> counts;
  for (const mileage::Run& run : runs_of(RunStatus::check, "columns")) counts.push_back(run.count);
  EXPECT_EQ(counts, (std::vector<std::int64_t>{10, 149}));  // 3 s, and the same for objects.
}

}  // namespace
}  // namespace mileage
