#include "analysis/evidence/axis.h"

#include <gtest/gtest.h>

#include "types/error.h"
#include "support/reports.h"

namespace mileage {
namespace {

/// Objects take count * work us for work 1 to 8; work does not affect jobs.
Study night_with_moths() {
  Study study;
  study.head.scenario.name = "night";
  study.head.scenario.knobs = {
      Knob::integer("work", "", {.default_value = 1, .min = 1, .max = 100}).affecting({"objects"}),
      Knob::choice("layout", "", {"tight", "loose"})};
  study.head.scenario.variants = {{"objects", "", {}, ""}, {"jobs", "", {}, ""}};
  for (int block = 0; block < 5; ++block)
    for (const std::int64_t count : {100, 1000})
      for (const double work : {1.0, 2.0, 4.0, 8.0}) {
        mileage::Run run;
        run.series.variant = "objects";
        run.series.knobs.set("work", work);
        run.series.knobs.set("layout", std::string("tight"));
        run.count = run.alive = count;
        run.block = block;
        run.samples_ns.assign(10, static_cast<std::int64_t>(1000 * count * work) + block);
        run.counters["steps"] = 10 * static_cast<double>(count) * work;
        study.runs.push_back(run);
        if (std::find(study.head.plan.series.begin(), study.head.plan.series.end(), run.series) ==
            study.head.plan.series.end())
          study.head.plan.series.push_back(run.series);
        run.series = {"jobs", {}, 0};
        study.runs.push_back(run);
      }
  return study;
}

std::string refusal(const std::string& axis) {
  const Study study = night_with_moths();
  try {
    put_on_axis(study, axis, {});
  } catch (const Error& error) {
    return error.what();
  }
  return "accepted";
}

TEST(Axis, PlacesAreWrittenAsPeopleTypeThem) {
  const Axis lanterns{"count", true, "lanterns", "lantern"};
  const Axis reach{"reach", false, "reach", "unit of reach"};
  EXPECT_EQ(place_text(870, lanterns), "870");
  EXPECT_EQ(place_text(43'712, lanterns), "43.7k");
  EXPECT_EQ(place_text(0.5, reach), "0.5");
  EXPECT_EQ(place_text(4096, reach), "4.1k");
}

TEST(Axis, OverTheCountEveryRunStandsAtItsCount) {
  const Study study = night_with_moths();
  const StudyOnAxis on = put_on_axis(study, count_axis, {});
  ASSERT_EQ(on.runs.size(), study.runs.size());
  for (const JudgedRun& one : on.runs) EXPECT_EQ(one.x, static_cast<double>(one.run->count));
  EXPECT_TRUE(on.axis.is_whole);
  EXPECT_EQ(on.axis.thing, "entity");
}

TEST(Axis, OverAKnobSeriesAreDividedByCount) {
  const Study study = night_with_moths();
  const StudyOnAxis on = put_on_axis(study, "work", {});
  ASSERT_EQ(on.head.plan.series.size(), 2U);
  EXPECT_EQ(on.runs.size(), 40U);  // Work does not affect jobs.
  for (const JudgedRun& one : on.runs) EXPECT_EQ(one.x, one.run->series.knobs.number("work"));
  Questions questions;
  questions.budgets_ms = {0.5};
  const Report report = report_of(night_with_moths(), questions, "work");
  ASSERT_EQ(report.about.series.size(), 2U);
  EXPECT_EQ(report.about.label(0), "objects count=100");
  EXPECT_NEAR(*report.capacities.capacities[0].capacity.at, 5, 0.2);  // 0.5 ms at 0.1 ms per step.
  EXPECT_FALSE(report.capacities.capacities[1].capacity.at);          // 1 ms already at work 1.
  EXPECT_EQ(report.choices.groups.size(), 2U);
}

TEST(Axis, OverACounterCellsStandWhereItCounted) {
  const Report report = report_of(night_with_moths(), {}, "steps");
  EXPECT_EQ(report.about.axis.name, "steps");
  EXPECT_EQ(report.about.axis.thing, "unit of steps");
  EXPECT_EQ(report.growth.series[0].points.front().x, 100);
}

TEST(Axis, OverAKnobWhatMayNotAnswerHasNoPlace) {
  const Study study = night_with_moths();
  Agreement differs;
  differs.series = study.runs.front().series;
  differs.verdict = AgreementVerdict::differs;
  EXPECT_EQ(put_on_axis(study, "work", {differs}).runs.size(), 30U) << "one of four values of work";
  EXPECT_EQ(put_on_axis(study, count_axis, {differs}).runs.size(), 80U)
      << "over the count they are distinguished later";
}

TEST(Axis, OneEntityIsNamedByThePluralOrAsTheScenarioSays) {
  Scenario scenario;
  EXPECT_EQ(one_entity(scenario), "entity");
  scenario.entity = "light";
  EXPECT_EQ(one_entity(scenario), "light");
}

TEST(Axis, RefusesWhatCannotStandOnIt) {
  EXPECT_NE(refusal("wrk").find("did you mean work?"), std::string::npos);
  EXPECT_NE(refusal("layout").find("no numbers"), std::string::npos);
  Study once = night_with_moths();
  std::erase_if(once.runs, [](const mileage::Run& run) {
    return run.series.knobs.values().count("work") > 0 && run.series.knobs.values().at("work") != KnobValue(2.0);
  });
  EXPECT_THROW(put_on_axis(once, "work", {}), Error);
}

}  // namespace
}  // namespace mileage
