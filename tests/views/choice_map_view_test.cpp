#include "views/views.h"

#include <regex>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/analysed_study.h"
#include "views/known_report.h"
#include "figures/figures.h"

namespace mileage {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::StartsWith;

/// Columns pay off from 20,000 or 3,000, depending on scatter.
struct ScatterMap {
  ScatterMap()
      : study([] {
          made::Setting setting;
          for (const double scatter : {0.0, 1.0}) {
            Knobs knobs;
            knobs.set("scatter", scatter);
            const double each = scatter == 0 ? 4.5e-5 : 2.2e-4;
            setting.truths.push_back({"objects", [each](double n) { return each * n; }, knobs});
          }
          setting.truths.push_back({"columns", [](double n) { return 0.5 + 2e-5 * n; }, {}});
          setting.counts = made::counts_between(100, 400'000, 12);
          setting.blocks = 6;
          setting.run_noise = 0.005;
          Study made = made::study_of(setting);
          made.head.scenario.knobs = {Knob::real("scatter", "how far apart", {.default_value = 0, .min = 0, .max = 1})};
          return made;
        }()),
        around(about(study.analysis())),
        choice(choice_answer(study.analysis(), {})),
        maps(choice_maps(study.analysis(), choice)) {}

  AnalysedStudy study;
  About around;
  ChoiceAnswer choice;
  std::vector<ChoiceMap> maps;
};

Table::Shown shown_map(const About& around, const ChoiceAnswer& choice, const std::vector<ChoiceMap>& maps) {
  return choice_map_view(around, choice, maps).tables.at(0).shown();
}

TEST(ChoiceMapView, TableHasARowForEachValueAndAColumnForEachPlace) {
  const ScatterMap known;
  const Table::Shown table = shown_map(known.around, known.choice, known.maps);
  ASSERT_EQ(table.rows.size(), 2U);
  EXPECT_EQ(table.headings.front(), "lanterns");
  EXPECT_EQ(table.headings.back(), "400k");
  EXPECT_EQ(table.rows[0].front(), "scatter 0");
  EXPECT_EQ(table.rows[1].front(), "scatter 1");
  EXPECT_EQ(table.rows[0][1], "objects") << "columns cost half a millisecond more there";
  // Objects take 18 ms at 400k without scatter, columns 8.5.
  EXPECT_EQ(table.rows[0].back(), "columns");
  EXPECT_THAT(choice_map_view(known.around, known.choice, known.maps).tables[0].title(),
              HasSubstr("What to use over lanterns and scatter"));
}

std::ptrdiff_t pale_boxes(const std::string& script) {
  const std::regex pale("solid 0.25");
  return std::distance(std::sregex_iterator(script.begin(), script.end(), pale), std::sregex_iterator());
}

TEST(ChoiceMapView, WhatIsMeasuredAloneIsNotShownAsChosen) {
  const ScatterMap whole;
  Study study = whole.study.study();
  std::erase_if(study.runs,
                [](const mileage::Run& run) { return run.series.variant == "columns" && run.count > 200'000; });
  const AnalysedStudy cut(study);
  const ChoiceAnswer choice = choice_answer(cut.analysis(), {});
  const ChoiceMap map = choice_maps(cut.analysis(), choice).at(0);
  const About around = about(cut.analysis());
  EXPECT_THAT(shown_map(around, choice, {map}).rows[0].back(), StartsWith("only objects"));
  EXPECT_GT(pale_boxes(choice_map_figure_script(around, choice, map, FigureFormat::png)),
            pale_boxes(choice_map_figure_script(whole.around, whole.choice, whole.maps.at(0), FigureFormat::png)));
}

TEST(ChoiceMapView, WhatStandsInForTheBestIsNotShownAsChosen) {
  const ScatterMap known;
  ChoiceAnswer choice = known.choice;
  const auto script = [&] {
    return choice_map_figure_script(known.around, choice, known.maps.at(0), FigureFormat::png);
  };
  const std::ptrdiff_t pale_before = pale_boxes(script());
  GroupChoice& group = choice.groups.at(known.maps.at(0).rows.at(0).group);
  ASSERT_TRUE(group.stretches.back().matters);
  group.stretches.back().not_measured = group.members.front();
  EXPECT_EQ(pale_boxes(script()), pale_before + 1);
  EXPECT_THAT(shown_map(known.around, choice, known.maps).rows[0].back(), HasSubstr("(no objects)"));
  EXPECT_THAT(answer_text(choice_view(known.around, choice, {})), HasSubstr("objects was not measured there"));
}

TEST(ChoiceMapView, JsonSaysWhatToUseAtEachPlaceAndValue) {
  const ScatterMap known;
  const Json json = made::json_of(choice_map_view(known.around, known.choice, known.maps));
  ASSERT_EQ(json["map"].size(), 2 * known.maps.at(0).places.size());
  const Json& last = json["map"].back();
  EXPECT_EQ(last["knob"], "scatter");
  EXPECT_EQ(last["value"], "1");
  EXPECT_EQ(last["series"], "columns");
  EXPECT_EQ(last["count"], 400'000);
  EXPECT_EQ(last["matters"], true);
}

TEST(ChoiceMapView, FigureDrawsABandForEachStretchAndEveryBorderWithItsInterval) {
  const ScatterMap known;
  const std::string script = choice_map_figure_script(known.around, known.choice, known.maps.at(0), FigureFormat::svg);
  std::size_t stretches = 0, borders = 0;
  for (const GroupChoice& group : known.choice.groups)
    for (const ChosenStretch& stretch : group.stretches) {
      ++stretches;
      borders += stretch.from_interval.closed() ? 1 : 0;
    }
  EXPECT_THAT(script, HasSubstr("set object " + std::to_string(stretches) + " rect"));
  EXPECT_THAT(script, Not(HasSubstr("set object " + std::to_string(stretches + 1) + " rect")));
  EXPECT_GE(borders, 2U);
  const std::string block = script.substr(script.find("$borders << END\n") + 16);
  EXPECT_EQ(std::count(block.begin(), block.begin() + static_cast<std::ptrdiff_t>(block.find("END")), '\n'),
            static_cast<std::ptrdiff_t>(borders));
  EXPECT_THAT(choice_map_figure(known.around, known.choice, known.maps.at(0), FigureFormat::svg), HasSubstr("<svg"));
}

}  // namespace
}  // namespace mileage
