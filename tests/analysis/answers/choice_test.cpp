#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/analysis.h"
#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

using made::choices_of;
using made::flat;
using made::setting_of;
using made::steep;

TEST(Choice, NeverChangesForLessThanIsWorthIt) {
  // Where columns start to save enough, jobs already do.
  const Study study = made::study_of(setting_of({{"objects", [](double n) { return 4.76e-5 * n; }},
                                                 {"records", [](double n) { return 4.59e-5 * n; }},
                                                 {"columns", [](double n) { return 1.07e-5 * n; }},
                                                 {"jobs", [](double n) { return 0.002 + 0.95e-5 * n; }}},
                                                0.003));
  const Analysis analysis = analyse(study);
  const ChoiceAnswer answer = choice_answer(analysis, {});
  const auto& group = answer.groups.at(0);
  ASSERT_GE(group.stretches.size(), 3U);
  EXPECT_EQ(group.stretches[0].use, 0U);
  EXPECT_EQ(group.stretches[1].use, 2U);
  for (std::size_t i = 1; i < group.stretches.size(); ++i) {
    const ChosenStretch& before = group.stretches[i - 1];
    const ChosenStretch& after = group.stretches[i];
    if (before.use == after.use) continue;
    const auto cost_ms = [&](std::size_t series) { return analysis.curves[series].cost_at(after.from * 1.05)->ms; };
    EXPECT_GT(cost_ms(before.use) - cost_ms(after.use), answer.min_saving_ms) << "at " << after.from;
  }
}

TEST(Choice, StaysWithTheSimplestUntilALaterOneIsWorthIt) {
  const ChoiceAnswer answer = choices_of(setting_of({{"objects", steep}, {"columns", flat}}, 0.01));
  const auto& stretches = answer.groups.at(0).stretches;
  ASSERT_GE(stretches.size(), 2U);
  EXPECT_EQ(stretches.front().use, 0U);
  EXPECT_EQ(stretches.back().use, 1U);
  // columns save 0.333 ms from 10,417 on, well above the break-even
  const double change = stretches.back().from;
  EXPECT_GT(change, 6250);
  EXPECT_TRUE(std::any_of(stretches.begin(), stretches.end(), [](const ChosenStretch& one) {
    return one.use == 1 && std::fabs(std::log(one.from / 10'417)) < 0.1;
  })) << change;
}

TEST(Choice, NoWayOverTheBudgetIsInUseWhereAnotherFits) {
  made::Setting setting;
  setting.truths = {{"objects", [](double) { return 16.8; }}, {"columns", [](double) { return 16.5; }}};
  setting.counts = {50'000};
  setting.run_noise = 0.001;
  const ChoiceAnswer answer = choices_of(setting);
  const ChosenStretch& one = answer.groups.at(0).stretches.at(0);
  EXPECT_LT(16.8 - 16.5, answer.min_saving_ms) << "too little to change for, if both were within";
  EXPECT_EQ(one.use, 1U);
  EXPECT_TRUE(one.to_fit);
  EXPECT_TRUE(one.fits);
}

TEST(Choice, ItsBordersHaveTheIntervalsFromWhichTheChangeIsWorthIt) {
  const Study study = made::study_of(setting_of({{"objects", steep}, {"columns", flat}}, 0.01));
  const Analysis analysis = analyse(study);
  Questions questions;
  questions.at = {1000};
  const ChoiceAnswer answer = choice_answer(analysis, questions);
  const ComparedPair pair = break_even_answer(analysis, questions).pairs.front();
  const GroupChoice& group = answer.groups.at(0);
  const auto border = std::find_if(group.stretches.begin(), group.stretches.end(),
                                   [](const ChosenStretch& one) { return one.use == 1; });
  ASSERT_NE(border, group.stretches.end());
  ASSERT_TRUE(pair.worth);
  EXPECT_DOUBLE_EQ(border->from, pair.worth->at) << "one answer to one question";
  ASSERT_TRUE(border->from_interval.closed());
  EXPECT_DOUBLE_EQ(*border->from_interval.low, *pair.worth->interval.low);
  EXPECT_DOUBLE_EQ(*group.advice.at(0).next_from_interval.high, *pair.worth->interval.high);
  EXPECT_FALSE(group.stretches.front().from_interval.low) << "nothing was in use before";
}

TEST(Choice, SaysNothingWhereNothingWasMeasured) {
  Study study = made::study_of(setting_of({{"objects", steep}, {"columns", flat}}, 0.01));
  const auto is_apart = [](const mileage::Run& run) {
    return run.series.variant == "objects" ? run.count > 1000 : run.count < 10'000;
  };
  std::erase_if(study.runs, is_apart);
  const auto stretches = choice_answer(analyse(study), {}).groups.at(0).stretches;
  ASSERT_EQ(stretches.size(), 2U);
  EXPECT_LE(stretches[0].to, 1000);
  EXPECT_GE(stretches[1].from, 9'000) << "no stretch in between";
  EXPECT_TRUE(stretches[0].alone);
  EXPECT_TRUE(stretches[1].alone) << "nothing to hold it against";
}

TEST(Choice, AdvisesNoChangeToWhatIsMeasuredAlone) {
  Study study = made::study_of(setting_of({{"objects", steep}, {"columns", flat}}, 0.01));
  Questions questions;
  questions.at = {20'000};
  const auto advice = [&] { return choice_answer(analyse(study), questions).groups.at(0).advice.at(0); };
  ASSERT_EQ(advice().use, 1U) << "columns pay off there";
  std::erase_if(study.runs,
                [](const mileage::Run& run) { return run.series.variant == "columns" && run.count > 50'000; });
  EXPECT_EQ(advice().use, 1U);
  EXPECT_FALSE(advice().next) << "objects beyond have nothing to be compared with";
}

TEST(Choice, AdvisesNoChangeToWhatOnlyStandsInForTheBest) {
  const auto slightly_flatter = [](double n) { return 0.7 * steep(n); };
  Study study =
      made::study_of(setting_of({{"objects", steep}, {"records", slightly_flatter}, {"columns", flat}}, 0.01));
  std::erase_if(study.runs,
                [](const mileage::Run& run) { return run.series.variant == "columns" && run.count > 50'000; });
  Questions questions;
  questions.at = {20'000};
  const GroupChoice group = choice_answer(analyse(study), questions).groups.at(0);
  ASSERT_EQ(group.advice.at(0).use, 2U) << "columns pay off there";
  EXPECT_FALSE(group.advice.at(0).next) << "columns beyond may be as good";
  const ChosenStretch& beyond = *stretch_at(group, 70'000);
  EXPECT_NE(beyond.use, 2U);
  EXPECT_EQ(beyond.not_measured, 2U);
  EXPECT_FALSE(beyond.alone);
  EXPECT_FALSE(stretch_at(group, 20'000)->not_measured);
}

TEST(Choice, MarksWhereNothingFits) {
  const ChoiceAnswer answer = choices_of(setting_of({{"objects", steep}}, 0));
  const auto& stretches = answer.groups.at(0).stretches;
  EXPECT_TRUE(stretches.front().fits);
  EXPECT_FALSE(stretches.back().fits);
}

TEST(Choice, PassesTheBudgetAtTheCapacityWithItsInterval) {
  const Study study = made::study_of(setting_of({{"objects", steep}}, 0.02));
  const Analysis analysis = analyse(study);
  const Capacity capacity = capacity_answer(analysis, {}).capacities.at(0).capacity;
  const ChosenStretch over = choice_answer(analysis, {}).groups.at(0).stretches.back();
  ASSERT_FALSE(over.fits);
  EXPECT_TRUE(over.past_budget);
  EXPECT_DOUBLE_EQ(over.from, capacity.at.value()) << "one answer to one question";
  EXPECT_DOUBLE_EQ(over.from_interval.low.value(), capacity.interval.low.value());
  EXPECT_DOUBLE_EQ(over.from_interval.high.value(), capacity.interval.high.value());
}

TEST(Choice, LeavesWhatPassesTheBudgetAtItsCapacity) {
  const auto nearly_as_dear = [](double n) { return 0.985 * steep(n); };
  const Study study = made::study_of(setting_of({{"objects", steep}, {"records", nearly_as_dear}}, 0.001));
  const Analysis analysis = analyse(study);
  const auto stretches = choice_answer(analysis, {}).groups.at(0).stretches;
  const auto records = std::find_if(stretches.begin(), stretches.end(), [](const auto& one) { return one.use == 1; });
  ASSERT_NE(records, stretches.end());
  EXPECT_TRUE(records->to_fit) << "they save too little to change for anything else";
  EXPECT_DOUBLE_EQ(records->from, capacity_answer(analysis, {}).capacities.at(0).capacity.at.value());
  EXPECT_TRUE(records->from_interval.closed());
}

TEST(Choice, MayBeByEnergy) {
  Study study = made::study_of(
      made::setting_of({{"plain", made::steep}, {"jobs", [](double n) { return made::steep(n) / 2; }}}, 0.01));
  const auto choose_by_energy = [&] {
    const AnalysedStudy analysed(study, {.cost_of = CostOf::energy});
    Questions questions;
    questions.at = {100'000};
    return choice_answer(analysed.analysis(), questions);
  };
  EXPECT_THROW(choose_by_energy(), Error) << "no run tells of it";
  for (mileage::Run& run : study.runs) {
    double wall_ms = 0;
    for (const std::int64_t ns : run.samples_ns) wall_ms += static_cast<double>(ns) * 1e-6;
    run.counters["joules"] = wall_ms * 1e-3 * (run.series.variant == "jobs" ? 50 : 20);
  }
  const ChoiceAnswer answer = choose_by_energy();
  const Advice& advice = answer.groups.at(0).advice.at(0);
  EXPECT_NEAR(advice.costs_ms.at(0).second, 200, 8) << "10 ms at 20 W, in millijoules";
  EXPECT_NEAR(advice.costs_ms.at(1).second, 250, 10) << "5 ms at 50 W";
  EXPECT_EQ(advice.use, 0U);
  EXPECT_NEAR(answer.budget_ms, 1000.0 / 60 * 35, 40) << "what a frame of the budget uses at 35 W, the usual power";
}

TEST(Choice, MayBeByTheThreadOrByProcessorTime) {
  Study study = made::study_of(
      made::setting_of({{"plain", made::steep}, {"jobs", [](double n) { return made::steep(n) / 2; }}}, 0.01));
  for (mileage::Run& run : study.runs) {
    double wall_ms = 0;
    for (const std::int64_t ns : run.samples_ns) wall_ms += static_cast<double>(ns) * 1e-6;
    const bool is_jobs = run.series.variant == "jobs";
    run.thread_busy_ms = (is_jobs ? 0.4 : 1) * wall_ms;
    run.processor_ms = (is_jobs ? 3 : 1) * wall_ms;
  }
  const auto cost_at = [&](CostOf what) {
    const AnalysedStudy analysed(study, {.cost_of = what});
    Questions questions;
    questions.at = {100'000};
    return choice_answer(analysed.analysis(), questions).groups.at(0).advice.at(0);
  };
  EXPECT_EQ(cost_at(CostOf::frame).use, 1U);
  EXPECT_NEAR(cost_at(CostOf::frame).costs_ms.at(1).second, 5, 0.2);
  EXPECT_NEAR(cost_at(CostOf::frame_thread).costs_ms.at(1).second, 2, 0.1);
  EXPECT_EQ(cost_at(CostOf::processor).use, 0U) << "15 ms instead of 10";
  for (mileage::Run& run : study.runs) run.processor_ms.reset();
  EXPECT_THROW(cost_at(CostOf::processor), Error);
}

}  // namespace
}  // namespace mileage
