#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "types/error.h"
#include "views/known_report.h"
#include "figures/figures.h"

namespace mileage {
namespace {

using testing::HasSubstr;

const About& around_shared() { return made::known_report().about; }

SharedFrameAnswer known_shared() {
  SharedFrameAnswer answer;
  answer.budget_ms = 1000.0 / 60;
  answer.other = "sparks";
  answer.other_scenario = "fireworks";
  answer.other_things = "sparks";
  answer.other_at = 20'000;
  SharedSeries objects;
  const auto beside = [](double x, double ms, double at) {
    BesideOther one{x, {ms, {}}, {}};
    one.capacity.at = at;
    one.capacity.interval = {0.9 * at, 1.1 * at};
    return one;
  };
  objects.map = {beside(1000, 0.5, 160'000), beside(20'000, 10, 66'000)};
  objects.asked = beside(20'000, 10, 66'000);
  objects.improve = Improvement{66'000, 132'000, 116'000};
  answer.series = {objects};
  return answer;
}

TEST(SharedFrameView, SaysWhatFitsNextToItAndWhatToImproveFirst) {
  const std::string text = answer_text(shared_frame_view(around_shared(), known_shared()));
  for (const char* said : {"Next to 20k sparks of sparks (10.0 ms): objects 66k lanterns.",
                           "improve objects first: halving objects gives 132k, halving fireworks gives 116k.",
                           "160k (144k to 176k)", "20k (10.0 ms)"})
    EXPECT_THAT(text, HasSubstr(said));
}

TEST(SharedFrameView, JsonAndFigureHoldTheMap) {
  const Json json = made::json_of(shared_frame_view(around_shared(), known_shared()));
  EXPECT_EQ(json["with_rest"].size(), 2U);
  EXPECT_EQ(json["with_rest_at"][0]["capacity"], 66'000);
  EXPECT_EQ(json["improve"][0]["own_halved"], 132'000);
  const std::string script = shared_frame_figure_script(around_shared(), known_shared(), FigureFormat::png);
  for (const char* part : {"1000 160000", "sparks of sparks", "that fit next to them"})
    EXPECT_THAT(script, HasSubstr(part));
  EXPECT_THAT(shared_frame_figure(around_shared(), known_shared(), FigureFormat::svg), HasSubstr("</svg>"));
  EXPECT_THROW(shared_frame_figure(around_shared(), {}, FigureFormat::svg), Error);
}

}  // namespace
}  // namespace mileage
