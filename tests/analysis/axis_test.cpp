#include "analysis/axis.h"

#include <gtest/gtest.h>

#include "analysis/findings.h"
#include "types/error.h"

namespace mileage {
namespace {

/// Objects at two counts with work 1, 2, 4 and 8: a frame takes count * work microseconds; jobs are not touched by work.
Study night() {
  Study study;
  study.head.scenario.name = "night";
  study.head.scenario.knobs = {Knob::integer("work", "", 1, 1, 100).touching({"objects"}), Knob::choice("layout", "", {"tight", "loose"})};
  study.head.scenario.variants = {{"objects", "", {}, ""}, {"jobs", "", {}, ""}};
  for (int block = 0; block < 5; ++block)
    for (const std::int64_t count : {100, 1000})
      for (const double work : {1.0, 2.0, 4.0, 8.0}) {
        Visit visit;
        visit.series.variant = "objects";
        visit.series.knobs.set("work", work);
        visit.series.knobs.set("layout", std::string("tight"));
        visit.count = visit.alive = count;
        visit.block = block;
        visit.samples_ns.assign(10, static_cast<std::int64_t>(1000 * count * work) + block);
        visit.counters["steps"] = 10 * static_cast<double>(count) * work;
        study.visits.push_back(visit);
        if (std::find(study.head.plan.series.begin(), study.head.plan.series.end(), visit.series) == study.head.plan.series.end())
          study.head.plan.series.push_back(visit.series);
        visit.series = {"jobs", {}, 0};
        study.visits.push_back(visit);
      }
  return study;
}

std::string refusal(const std::string& axis) {
  try {
    along(night(), axis);
  } catch (const Error& error) {
    return error.what();
  }
  return "accepted";
}

TEST(Axis, OverTheCountAStudyStaysAsItIs) { EXPECT_EQ(along(night(), "count").visits.size(), night().visits.size()); }

TEST(Axis, OverAKnobSeriesAreDividedByCount) {
  const Study study = along(night(), "work");
  ASSERT_EQ(study.head.plan.series.size(), 2U);
  EXPECT_EQ(study.visits.size(), 40U);  // jobs are not touched by work
  for (const Visit& visit : study.visits) EXPECT_GT(visit.place(), 0.9);
  Questions questions;
  questions.axis = "work";
  questions.budgets_ms = {0.5};
  const Findings findings = analyse(night(), questions);
  ASSERT_EQ(findings.series.size(), 2U);
  EXPECT_EQ(findings.series[0].label, "objects count=100");
  EXPECT_NEAR(*findings.capacities[0].capacity.at, 5, 0.2);  // 0.5 ms at 0.1 ms a step of work
  EXPECT_FALSE(findings.capacities[1].capacity.at);          // 1 ms already at work 1
  EXPECT_EQ(findings.groups.size(), 2U);
}

TEST(Axis, OverACounterCellsStandWhereItCounted) {
  Questions questions;
  questions.axis = "steps";
  const Findings findings = analyse(night(), questions);
  EXPECT_EQ(findings.axis, "steps");
  EXPECT_EQ(findings.series[0].points.front().x, 100);
}

TEST(Axis, RefusesWhatCannotStandOnIt) {
  EXPECT_NE(refusal("wrk").find("did you mean work?"), std::string::npos);
  EXPECT_NE(refusal("layout").find("no numbers"), std::string::npos);
  Study once = night();
  std::erase_if(once.visits, [](const Visit& visit) { return visit.series.knobs.values().count("work") > 0 && visit.series.knobs.values().at("work") != KnobValue(2.0); });
  EXPECT_THROW(along(once, "work"), Error);
}

}  // namespace
}  // namespace mileage
