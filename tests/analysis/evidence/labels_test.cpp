#include "analysis/evidence/labels.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

Series series(const std::string& variant, std::optional<double> scatter = {}, double cold_bytes = 0) {
  Series one{variant, {}, cold_bytes};
  if (scatter) one.knobs.set("scatter", *scatter);
  return one;
}

Scenario lit_night() {
  Scenario scenario;
  scenario.name = "night";
  scenario.knobs = {Knob::real("scatter", "", {.default_value = 0, .min = 0, .max = 1}).affecting({"objects"})};
  return scenario;
}

TEST(Labels, NameOnlyWhatTellsSeriesApart) {
  const std::vector<Series> all{series("objects", 0), series("objects", 1), series("columns")};
  EXPECT_EQ(label_of(all[1], all), "objects scatter=1");
  EXPECT_EQ(label_of(all[2], all), "columns");
  EXPECT_EQ(label_of(all[0], {all[0], all[2]}), "objects");
}

TEST(Labels, AlwaysSayThatFramesAreCold) {
  const Series cold = series("columns", {}, 8e6);
  EXPECT_EQ(label_of(cold, {cold}), "columns cold 8MB");
  const std::vector<Series> all{series("objects", 0), series("objects", 1, 64e3)};
  EXPECT_EQ(label_of(all[1], all), "objects scatter=1 cold 64KB");
}

TEST(Groups, NeverMixWarmAndCold) {
  const std::vector<Series> all{series("objects", 0), series("columns"), series("objects", 0, 8e6),
                                series("columns", {}, 8e6)};
  EXPECT_FALSE(same_conditions(all[0], all[2], lit_night()));
  EXPECT_FALSE(same_conditions(all[0], all[3], lit_night()));
  EXPECT_TRUE(same_conditions(all[2], all[3], lit_night()));
  const auto groups = groups_of(all, lit_night());
  ASSERT_EQ(groups.size(), 2U);
  EXPECT_EQ(groups[0].conditions, "caches warm");
  EXPECT_EQ(groups[0].members, (std::vector<std::size_t>{0, 1}));
  EXPECT_EQ(groups[1].conditions, "caches cold (8MB)");
  EXPECT_EQ(groups[1].members, (std::vector<std::size_t>{2, 3}));
}

TEST(Groups, LeaveOutOneWhoseMembersAllStandInALargerOne) {
  const std::vector<Series> all{series("objects", 0), series("objects", 1), series("columns"),
                                series("objects", 0, 8e6), series("columns", {}, 8e6)};
  std::vector<std::string> conditions;
  for (const Group& group : groups_of(all, lit_night())) conditions.push_back(group.conditions);
  EXPECT_EQ(conditions, (std::vector<std::string>{"scatter 0, caches warm", "scatter 0, caches cold (8MB)",
                                                  "scatter 1, caches warm"}));
}

}  // namespace
}  // namespace mileage
