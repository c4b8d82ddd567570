#include "types/scenario_check.h"

#include <cmath>

#include <gmock/gmock.h>

namespace mileage {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;

Scenario night() {
  Scenario scenario;
  scenario.name = "night";
  scenario.variants = {{"linked", "", {}, ""}, {"columns", "", {}, ""}};
  scenario.knobs = {Knob::real("wind", "", {.default_value = 1, .min = 0, .max = 9}).affecting({"linked"}),
                    Knob::choice("way", "", {"near", "far"})};
  return scenario;
}

std::vector<std::string> texts_of(const std::vector<Mistake>& mistakes) {
  std::vector<std::string> texts;
  for (const Mistake& one : mistakes) texts.push_back(one.text());
  return texts;
}

template <class Change>
std::string mistake_of(Change change) {
  Scenario scenario = night();
  change(scenario);
  const auto texts = texts_of(mistakes_in(scenario));
  return texts.size() == 1 ? texts.front() : std::to_string(texts.size()) + " mistakes";
}

TEST(ScenarioCheck, AGoodScenarioHasNone) { EXPECT_THAT(texts_of(mistakes_in(night())), IsEmpty()); }

TEST(ScenarioCheck, NamesWhatIsWrongWithItsPlace) {
  EXPECT_THAT(mistake_of([](Scenario& s) { s.name = "Night Show"; }),
              HasSubstr("scenario: not a plain name; found Night Show"));
  EXPECT_THAT(mistake_of([](Scenario& s) {
                s.variants[0].name = "\x1b[2J";
                s.knobs[0].affects.clear();
              }),
              HasSubstr("name: not a plain name"));
  EXPECT_THAT(mistake_of([](Scenario& s) { s.variants[1].name = "linked"; }),
              HasSubstr("variant.linked: name: two variants of that name"));
  EXPECT_THAT(mistake_of([](Scenario& s) { s.knobs[0].min = 10; }),
              HasSubstr("knob.wind: min: above max; found 10; accepted: at most 9"));
  EXPECT_THAT(mistake_of([](Scenario& s) { s.knobs[0].default_value = std::nan(""); }),
              HasSubstr("knob.wind: default: outside its range; found nan"));
  EXPECT_THAT(mistake_of([](Scenario& s) { s.knobs[0].max = HUGE_VAL; }),
              HasSubstr("knob.wind: max: not a number that a knob may have"));
  EXPECT_THAT(mistake_of([](Scenario& s) { s.knobs[0].affects = {"rows"}; }),
              HasSubstr("knob.wind: affects: no such variant; found rows; accepted: columns, linked"));
  EXPECT_THAT(mistake_of([](Scenario& s) {
                s.knobs[1].choices = {"near", "near"};
              }),
              HasSubstr("choices: the same choice twice"));
  EXPECT_THAT(mistake_of([](Scenario& s) { s.knobs[0].whole = true, s.knobs[0].default_value = 1.5; }),
              HasSubstr("not a whole number"));
  EXPECT_THAT(mistake_of([](Scenario& s) { s.reference = "rows"; }),
              HasSubstr("reference: no such variant; found rows"));
  EXPECT_THAT(mistake_of([](Scenario& s) { s.step_s = 0; }), HasSubstr("step_s"));
  EXPECT_THAT(mistake_of([](Scenario& s) { s.variants.resize(2000); }),
              HasSubstr("too many variants; found 2000; accepted: at most 1000"));
}

TEST(ScenarioCheck, PlainNamesAreMadeOfNamesOfFiles) {
  EXPECT_EQ(plain_name("My Night (2)"), "my-night-2");
  EXPECT_EQ(plain_name("..."), "scenario");
}

}  // namespace
}  // namespace mileage
