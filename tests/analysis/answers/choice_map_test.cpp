#include "analysis/answers/choice_map.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/analysed_study.h"
#include "analysis/answers/known_truths.h"
#include "analysis/answers/questions.h"
#include "types/error.h"

namespace mileage {
namespace {

using testing::ElementsAre;

Knobs scattered(double scatter, double work = 0) {
  Knobs knobs;
  knobs.set("scatter", scatter);
  if (work > 0) knobs.set("work", work);
  return knobs;
}

/// Only objects get slower with scatter: crossings at 20,000, 5,000 and 2,500.
made::Setting objects_that_scatter() {
  made::Setting setting = made::setting_of({}, 0.005);
  for (const double scatter : {0.0, 0.5, 1.0}) {
    const double each = scatter == 0 ? 4.5e-5 : scatter == 0.5 ? 1.2e-4 : 2.2e-4;
    setting.truths.push_back({"objects", [each](double n) { return each * n; }, scattered(scatter)});
  }
  setting.truths.push_back({"columns", made::flat, {}});
  return setting;
}

Study with_knobs(const made::Setting& setting) {
  Study study = made::study_of(setting);
  study.head.scenario.knobs = {Knob::real("scatter", "how far apart", {.default_value = 0, .min = 0, .max = 1}),
                               Knob::real("work", "how much", {.default_value = 1, .min = 1, .max = 9})};
  return study;
}

TEST(ChoiceMap, ShowsHowAKnobTurnsTheChoice) {
  const AnalysedStudy study(with_knobs(objects_that_scatter()));
  const ChoiceAnswer choice = choice_answer(study.analysis(), {});
  const auto maps = choice_maps(study.analysis(), choice);
  ASSERT_EQ(maps.size(), 1U);
  const ChoiceMap& map = maps.front();
  EXPECT_EQ(map.knob, "scatter");
  std::vector<std::string> rows, at_10k;
  for (const ChoiceMap::Row& row : map.rows) {
    rows.push_back(row.conditions);
    const GroupChoice& group = choice.groups[row.group];
    at_10k.push_back(group.label(stretch_at(group, 10'000)->use));
  }
  EXPECT_THAT(rows, ElementsAre("scatter 0", "scatter 0.5", "scatter 1"));
  EXPECT_THAT(at_10k, ElementsAre("objects", "columns", "columns"));
  EXPECT_EQ(map.places.front(), 100);
  EXPECT_EQ(map.places.back(), 400'000);
  EXPECT_LE(map.places.size(), 7U);
}

TEST(ChoiceMap, HoldsOtherConditionsTogether) {
  made::Setting setting = made::setting_of({}, 0.005);
  for (const double work : {1.0, 4.0})
    for (const double scatter : {1.0, 0.0})
      for (const auto& [variant, each] : {std::pair{"objects", 1e-4}, std::pair{"columns", 2e-5}})
        setting.truths.push_back(
            {variant, [each = each * work](double n) { return each * n; }, scattered(scatter, work)});
  const AnalysedStudy study(with_knobs(setting));
  const auto maps = choice_maps(study.analysis(), choice_answer(study.analysis(), {}));
  ASSERT_EQ(maps.size(), 2U);
  std::vector<std::string> rows;
  for (const ChoiceMap::Row& row : map_over(maps, "scatter").rows) rows.push_back(row.conditions);
  EXPECT_THAT(rows, ElementsAre("work 1, scatter 0", "work 1, scatter 1", "work 4, scatter 0", "work 4, scatter 1"));
  EXPECT_EQ(&map_over(maps, ""), &maps.front());
}

TEST(ChoiceMap, LeavesOutWhatHasNothingBesideIt) {
  made::Setting setting = made::setting_of({}, 0.005);
  for (const auto& [scatter, work] : {std::pair{0.0, 1.0}, std::pair{1.0, 1.0}, std::pair{0.0, 4.0}})
    for (const auto& [variant, each] : {std::pair{"objects", 1e-4}, std::pair{"columns", 2e-5}})
      setting.truths.push_back({variant, [each = each](double n) { return each * n; }, scattered(scatter, work)});
  const AnalysedStudy study(with_knobs(setting));
  const auto maps = choice_maps(study.analysis(), choice_answer(study.analysis(), {}));
  std::vector<std::string> rows;
  for (const ChoiceMap::Row& row : map_over(maps, "scatter").rows) rows.push_back(row.conditions);
  EXPECT_THAT(rows, ElementsAre("work 1, scatter 0", "work 1, scatter 1")) << "at work 4 nothing else was measured";
}

TEST(ChoiceMap, ThereIsNoneWithoutAKnobAtSeveralValues) {
  const AnalysedStudy study(
      with_knobs(made::setting_of({{"objects", made::steep, scattered(1)}, {"columns", made::flat, {}}})));
  const auto maps = choice_maps(study.analysis(), choice_answer(study.analysis(), {}));
  EXPECT_TRUE(maps.empty());
  EXPECT_THROW(map_over(maps, ""), Error);
  EXPECT_THROW(map_over(maps, "scatter"), Error);
}

}  // namespace
}  // namespace mileage
