#include "analysis/answers/ladder.h"

#include <gtest/gtest.h>

#include <map>

#include "analysis/analysis.h"
#include "analysis/answers/known_truths.h"
#include "types/error.h"

namespace mileage {
namespace {

Rung rung_of(const std::string& knob, double value) {
  Rung rung{knob, {}, ""};
  rung.knobs.set(knob, value);
  return rung;
}

/// "tidy" halves the cost, "paint" has no effect, "wings" and "feathers" save 40 % together.
double cost_of(const Series& series, double n) {
  const auto is_set = [&](const char* knob) { return series.knobs.number(knob) > 0; };
  double cost = 1e-4 * n;
  if (is_set("tidy")) cost *= 0.5;
  if (is_set("wings") && is_set("feathers")) cost *= 0.6;
  return cost;
}

Study ladder_study(double noise = 0.01) {
  Scenario scenario;
  scenario.name = "night";
  for (const char* knob : {"tidy", "paint", "wings", "feathers"})
    scenario.knobs.push_back(Knob::integer(knob, "", {.default_value = 0, .min = 0, .max = 1}));
  VariantFacts facts;
  facts.name = "plain";
  scenario.variants = {facts};
  Plan plan;
  plan.series = {{"plain", {}}};
  for (const Knob& knob : scenario.knobs) plan.series.front().knobs.set(knob.name, 0.0);
  plan.rungs = {rung_of("tidy", 1), rung_of("paint", 1), rung_of("wings", 1), rung_of("feathers", 1)};
  made::Setting setting = made::setting_of({}, noise);
  setting.counts = {10'000, 30'000, 100'000, 200'000, 300'000};
  for (const Series& one : Ladder(scenario, plan).all())
    setting.truths.push_back({"plain", [one](double n) { return cost_of(one, n); }, one.knobs});
  Study study = made::study_of(setting);
  study.head.scenario = scenario;
  study.head.plan.rungs = plan.rungs;
  return study;
}

LadderAnswer ladder_at(const Study& study, double x) {
  const AnalysedStudy analysed(study);
  Questions questions;
  questions.at = {x};
  return ladder_answer(analysed.analysis(), questions);
}

TEST(LadderSeries, RungsAreSetOnTopOfTheBase) {
  const Study study = ladder_study();
  const Ladder ladder(study.head.scenario, study.head.plan);
  EXPECT_EQ(ladder.up_to(0), study.head.plan.series.front());
  EXPECT_EQ(ladder.up_to(2).knobs.number("paint"), 1);
  EXPECT_EQ(ladder.up_to(2).knobs.number("wings"), 0);
  EXPECT_EQ(ladder.alone(2).knobs.number("tidy"), 0);
  EXPECT_EQ(ladder.without_rung(2).knobs.number("wings"), 0);
  EXPECT_EQ(ladder.without_rung(2).knobs.number("feathers"), 1);
}

TEST(LadderSeries, AnotherVariantHasItsOwnKnobs) {
  Scenario scenario;
  scenario.knobs = {Knob::real("scatter", "", {.default_value = 0, .min = 0, .max = 1}).affecting({"objects"})};
  VariantFacts objects, jobs;
  objects.name = "objects";
  jobs.name = "jobs";
  jobs.knobs = {Knob::integer("workers", "", {.default_value = 2, .min = 1, .max = 8})};
  scenario.variants = {objects, jobs};
  Plan plan;
  plan.series = {{"objects", {}}};
  plan.series.front().knobs.set("scatter", 1.0);
  Rung to_jobs{"variant=jobs", {}, "jobs"};
  plan.rungs = {to_jobs, rung_of("workers", 4)};
  const Ladder ladder(scenario, plan);
  EXPECT_EQ(ladder.up_to(1).knobs.values().count("scatter"), 0U) << "it does not touch jobs";
  EXPECT_EQ(ladder.up_to(1).knobs.number("workers"), 2) << "its default";
  EXPECT_EQ(ladder.up_to(2).knobs.number("workers"), 4);
  EXPECT_EQ(ladder.alone(1), plan.series.front()) << "objects have no workers";
}

TEST(LadderAnswers, EachRungIsToldOnTopAloneAndTakenAway) {
  const LadderAnswer answer = ladder_at(ladder_study(), 100'000);
  ASSERT_EQ(answer.rungs.size(), 5U);
  const RungAt& tidy = answer.rungs[1];
  EXPECT_NEAR(tidy.on_top->takes, 0.5, 0.02);
  EXPECT_NEAR(tidy.alone->takes, 0.5, 0.02);
  EXPECT_NEAR(tidy.taken_away->takes, 0.5, 0.02);
  EXPECT_NEAR(tidy.on_top->saves_ms, 5, 0.3);
  EXPECT_TRUE(tidy.on_top->is_gain());
  EXPECT_NEAR(answer.all->takes, 0.3, 0.02);
}

TEST(LadderAnswers, ASettingThatDoesNothingIsSaidToDoNothing) {
  const LadderAnswer answer = ladder_at(ladder_study(), 100'000);
  EXPECT_TRUE(answer.rungs[2].is_inconclusive);
  EXPECT_FALSE(answer.rungs[1].is_inconclusive);
}

TEST(LadderAnswers, WhatHelpsOnlyTogetherIsFound) {
  const LadderAnswer answer = ladder_at(ladder_study(), 100'000);
  EXPECT_TRUE(answer.rungs[3].only_together) << "wings bring nothing before feathers, and 40 % at the end";
  EXPECT_TRUE(answer.rungs[4].only_together);
  EXPECT_FALSE(answer.rungs[1].only_together);
}

TEST(LadderAnswers, TheFirstRungWithinTheBudgetIsNamedAndCapacitiesGrow) {
  // 300,000 take 30 ms, 15 with the first rung.
  const LadderAnswer answer = ladder_at(ladder_study(), 300'000);
  EXPECT_EQ(answer.first_within, 1U);
  EXPECT_NEAR(*answer.rungs[0].capacity.at, 166'667, 6000);
  EXPECT_NEAR(*answer.rungs[1].capacity.at, 333'333, 20'000);
}

TEST(LadderAnswers, TwoSettingsInOneRungAreSaid) {
  Study study = ladder_study();
  study.head.plan.rungs.erase(study.head.plan.rungs.begin() + 2);
  study.head.plan.rungs[2].knobs.set("wings", 1.0);
  const LadderAnswer answer = ladder_at(study, 100'000);
  EXPECT_FALSE(answer.rungs[1].changes_several);
  EXPECT_TRUE(answer.rungs[3].changes_several);
}

TEST(LadderAnswers, RungsThatWereNotMeasuredAreNamed) {
  Study study = ladder_study();
  study.head.plan.rungs.push_back(rung_of("paint", 0));
  study.head.plan.rungs.back().knobs.set("tidy", 0.0);
  study.head.plan.rungs.back().knobs.set("wings", 0.0);
  study.head.plan.rungs.back().name = "all off but feathers";
  const LadderAnswer answer = ladder_at(study, 100'000);
  EXPECT_EQ(answer.rungs.size(), 6U) << "feathers alone were measured";
  study.head.plan.rungs.back().knobs.set("feathers", 0.0);
  study.head.plan.rungs.push_back(rung_of("glow", 1));
  EXPECT_TRUE(ladder_at(study, 5).rungs.empty() || ladder_at(study, 5).x > 5) << "a place below all is not taken";
}

TEST(LadderAnswers, WithoutRungsThereIsNoLadder) {
  Study study = ladder_study();
  study.head.plan.rungs.clear();
  EXPECT_TRUE(ladder_at(study, 100'000).empty());
}

TEST(LadderAnswers, StudiesOneAfterTheOtherAreRungs) {
  const auto study_at = [](double each, std::uint64_t seed) {
    made::Setting setting = made::setting_of({{"plain", [each](double n) { return each * n; }}}, 0.01);
    setting.seed = seed;
    return AnalysedStudy(made::study_of(setting));
  };
  const AnalysedStudy first = study_at(1e-4, 1), second = study_at(0.7e-4, 2), third = study_at(0.7e-4, 3);
  Questions questions;
  questions.at = {100'000};
  const LadderAnswer answer =
      ladder_of_studies({&first.analysis(), &second.analysis(), &third.analysis()}, {"a", "b", "c"}, questions);
  ASSERT_EQ(answer.rungs.size(), 3U);
  EXPECT_NEAR(answer.rungs[1].on_top->takes, 0.7, 0.03);
  EXPECT_TRUE(answer.rungs[1].on_top->is_gain());
  EXPECT_TRUE(answer.rungs[2].is_inconclusive);
  EXPECT_FALSE(answer.rungs[1].alone) << "nobody measured it";
}

TEST(LadderAnswers, OfAStudyWithSeveralSeriesOneIsNamed) {
  const Study study = made::study_of(made::setting_of({{"a", made::steep}, {"b", made::flat}}));
  const AnalysedStudy two(study);
  EXPECT_THROW(ladder_of_studies({&two.analysis()}, {"two"}, {}), Error);
  const AnalysedStudy one(study, {.selection = {{"b"}, {}, ""}});
  EXPECT_EQ(ladder_of_studies({&one.analysis()}, {"two"}, {}).rungs.size(), 1U);
}

}  // namespace
}  // namespace mileage
