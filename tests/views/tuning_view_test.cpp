#include "views/tuning_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "types/error.h"
#include "views/known_report.h"

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
  at.preset = 2;
  answer.places = {at};
  return answer;
}

TEST(TuningView, TheSentenceNamesTheBestThePlateauAndWhatThePresetLoses) {
  const TuningAnswer answer = known_tuning();
  EXPECT_EQ(tuning_sentence(around_tuning(), answer, answer.places[0]),
            "At 100k lanterns, batch 1000 is best with 0.500 ms; not told to be more than 2 % dearer: 1000; the preset "
            "(batch 16000) loses 0.100 ms: 1.20 (1.10 to 1.30) of the time.");
}

TEST(TuningView, TheTableHasARowForEachValue) {
  const std::string text = tuning_text(around_tuning(), known_tuning());
  for (const char* said : {"batch at 100k", "4.00 (3.80 to 4.20)", "best", "preset"})
    EXPECT_THAT(text, HasSubstr(said));
}

TEST(TuningView, WorkersHaveASerialShareAndAreCounted) {
  TuningAnswer answer = known_tuning();
  answer.knobs = {"workers"};
  answer.scaling = {{100'000, 5, 0.2, Interval{0.15, 0.25}, 0.01, 4}};
  answer.workers = {{0, 100'000, 4, 2, true, false}, {1, 100'000, 2, 2, true, true}};
  const std::string text = tuning_text(around_tuning(), answer);
  EXPECT_THAT(text, HasSubstr("serial share 20.0 % (15.0 to 25.0); each worker more costs the others 1.00 %"));
  EXPECT_THAT(text, HasSubstr("! objects at 100k: 4 workers were asked for, and 2 worked"));
  Json json;
  add_tuning_json(json, around_tuning(), answer);
  EXPECT_EQ(json["scaling"][0]["serial_share"], 0.2);
  EXPECT_EQ(json["workers"][0]["honoured"], false);
}

TEST(TuningView, JsonHoldsValuesAndPlateaus) {
  Json json;
  add_tuning_json(json, around_tuning(), known_tuning());
  EXPECT_EQ(json["tuned"].size(), 3U);
  EXPECT_EQ(json["tuned"][1]["best"], true);
  EXPECT_EQ(json["plateaus"][0]["best"]["batch"], 1000);
}

TEST(TuningView, TheFigureIsOfOneNumericKnob) {
  const std::string script = tuning_figure_script(around_tuning(), known_tuning(), FigureFormat::png);
  for (const char* part : {"16 2 1.9 2.1", "values not told to be dearer", "100k lanterns"})
    EXPECT_THAT(script, HasSubstr(part));
  EXPECT_THAT(tuning_figure(around_tuning(), known_tuning(), FigureFormat::svg), HasSubstr("</svg>"));
  TuningAnswer named = known_tuning();
  for (TunedValue& one : named.places[0].values) one.values = {std::string("rows")};
  EXPECT_THROW(tuning_figure(around_tuning(), named, FigureFormat::svg), Error);
}

}  // namespace
}  // namespace mileage
