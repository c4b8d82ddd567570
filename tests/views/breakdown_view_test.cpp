#include "views/breakdown_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::Not;

const About& known_about() { return made::known_report().about; }

PairBreakdown known_pair() {
  PairBreakdown pair;
  pair.first = 1;
  pair.second = 0;
  pair.x = 100'000;
  pair.whole = {"", 7.5, Interval{7.2, 7.8}, 2.5, 10};
  pair.phases = {{"gather", 5, Interval{4.9, 5.1}, 0, 5},
                 {"glow", 3, Interval{2.8, 3.2}, 2, 5},
                 {"count", 0.01, Interval{0, 0.02}, 0, 0.01}};
  pair.outside = Part{"outside any phase", -0.51, Interval{-0.6, -0.4}, 0.51, 0};
  pair.thread = {{"it waits", 0.2, Interval{-0.1, 0.5}, 0, 0.2}};
  pair.counters = {{"updates", 1, 3.96, 1, false, true}};
  pair.page_faults = Part{"page faults a frame", 240, {}, 0, 240};
  return pair;
}

BreakdownAnswer known_answer() {
  BreakdownAnswer answer;
  answer.budget_ms = 1000.0 / 60;
  answer.pairs = {known_pair()};
  PhaseFloor floor{0, "gather", 5, 5, Interval{4.9, 5.1}, true, {}};
  floor.capacity.at = 300'000;
  floor.capacity.interval = {290'000, 310'000};
  answer.floors = {floor};
  return answer;
}

TEST(BreakdownView, TheSentenceSaysWhatTheDifferenceIsMadeOf) {
  EXPECT_EQ(breakdown_sentence(known_about(), known_pair()),
            "At 100k lanterns, objects takes 7.50 ms more than columns (+7.20 to +7.80): gather +5.00 (4.90 to 5.10), "
            "glow +3.00 (2.80 to 3.20); outside any phase -0.510.");
  PairBreakdown alike = known_pair();
  alike.whole.interval = {-0.1, 0.1};
  EXPECT_THAT(breakdown_sentence(known_about(), alike), HasSubstr("objects cannot be told apart from columns"));
}

TEST(BreakdownView, EveryPartStandsInTheTable) {
  const std::string text = breakdown_text(known_about(), known_answer());
  for (const char* said :
       {"phase count", "it waits", "+0.200 (-0.100 to 0.500)", "columns 1, objects 3.96; expected 1: NOT as expected",
        "pages a frame: columns 0, objects 240", "300k (290k to 310k)", "  measured"})
    EXPECT_THAT(text, HasSubstr(said));
}

TEST(BreakdownView, PairsThatNoPlaceHoldsAreNamed) {
  BreakdownAnswer answer;
  answer.not_measured_together = {"objects and columns"};
  EXPECT_THAT(breakdown_text(known_about(), answer), HasSubstr("No place holds visits of both objects and columns"));
}

TEST(BreakdownView, JsonHoldsAllOfIt) {
  Json json;
  add_breakdown_json(json, known_about(), known_answer());
  EXPECT_EQ(json["differences"][0]["ms"], 7.5);
  EXPECT_EQ(json["differences"][0]["against"], "columns");
  EXPECT_EQ(json["difference_parts"].size(), 5U);
  EXPECT_EQ(json["difference_parts"][0]["part"], "gather");
  EXPECT_EQ(json["difference_counters"][0]["as_expected"], false);
  EXPECT_EQ(json["floors"][0]["capacity"], 300'000);
  Json nothing;
  add_breakdown_json(nothing, known_about(), {});
  EXPECT_TRUE(nothing.is_null());
}

}  // namespace
}  // namespace mileage
