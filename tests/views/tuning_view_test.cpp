#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "types/error.h"
#include "views/known_report.h"
#include "figures/figures.h"

namespace mileage {
namespace {

using testing::HasSubstr;

const About& around_tuning() { return made::known_report().about; }

TuningAnswer known_tuning() {
  TuningAnswer answer;
  answer.knobs = {"batch"};
  TunedAt at;
  at.x = 100'000;
  at.values = {{0, {16.0}, {2, Interval{1.9, 2.1}}, 4, Interval{3.8, 4.2}, false, false, false},
               {0, {1000.0}, {0.5, Interval{0.48, 0.52}}, 1, {}, true, true, false},
               {1, {16'000.0}, {0.6, Interval{0.58, 0.62}}, 1.2, Interval{1.1, 1.3}, false, false, true}};
  at.best = 1;
  at.best_between = at.plateau = ValueStretch{1000.0, 1000.0};
  at.default_value = 2;
  answer.places = {at};
  return answer;
}

std::string tuning_text_of(const TuningAnswer& answer) { return answer_text(tuning_view(around_tuning(), answer)); }

TEST(TuningView, TheVerdictNamesTheBestWhatIsAsGoodAndWhatTheDefaultLoses) {
  TuningAnswer answer = known_tuning();
  EXPECT_EQ(
      tuning_sentence(around_tuning(), answer, answer.places[0]),
      "At 100k lanterns: batch 1000 is fastest (0.500 ms). The default (batch 16000) costs 0.100 ms more (1.20x).");
  TunedAt& at = answer.places[0];
  at.plateau = ValueStretch{1000.0, 16'000.0};
  at.values[2].is_as_good = true;
  EXPECT_EQ(tuning_sentence(around_tuning(), answer, at),
            "At 100k lanterns: batch 1000 is fastest (0.500 ms), but anything from 1000 to 16000 is within noise. Keep "
            "the default (batch 16000).");
}

TEST(TuningView, TheTableHasARowForEachValue) {
  for (const char* said : {"batch", "4.00x (3.80 to 4.20)", "best", "default"})
    EXPECT_THAT(tuning_text_of(known_tuning()), HasSubstr(said));
}

TEST(TuningView, WorkersHaveASerialShareAndAreCounted) {
  TuningAnswer answer = known_tuning();
  answer.knobs = {"workers"};
  answer.scaling = {{100'000, 5, 0.2, Interval{0.15, 0.25}, 0.01, 4}};
  answer.workers = {{0, 100'000, 4, 2, true, false}, {1, 100'000, 2, 2, true, true}};
  EXPECT_THAT(tuning_text_of(answer), HasSubstr("20 % (15 to 25)"));
  EXPECT_THAT(tuning_text_of(answer), HasSubstr("warning: objects at 100k: 4 workers were asked for, 2 worked."));
  const Json json = made::json_of(tuning_view(around_tuning(), answer));
  EXPECT_EQ(json["scaling"][0]["serial_share"], 0.2);
  EXPECT_EQ(json["workers"][0]["as_asked"], false);
}

TEST(TuningView, JsonHoldsValues) {
  const Json json = made::json_of(tuning_view(around_tuning(), known_tuning()));
  EXPECT_EQ(json["tuned"].size(), 3U);
  EXPECT_EQ(json["tuned"][1]["best"], true);
  EXPECT_EQ(json["tuned"][1]["batch"], 1000);
}

TEST(TuningView, TheFigureIsOfOneNumericKnob) {
  const std::string script = tuning_figure_script(around_tuning(), known_tuning(), FigureFormat::png);
  for (const char* part : {"16 2 1.9 2.1", "values within noise of the best", "100k lanterns"})
    EXPECT_THAT(script, HasSubstr(part));
  EXPECT_THAT(tuning_figure(around_tuning(), known_tuning(), FigureFormat::svg), HasSubstr("</svg>"));
  TuningAnswer named = known_tuning();
  for (TunedValue& one : named.places[0].values) one.values = {std::string("rows")};
  EXPECT_THROW(tuning_figure(around_tuning(), named, FigureFormat::svg), Error);
}

}  // namespace
}  // namespace mileage
