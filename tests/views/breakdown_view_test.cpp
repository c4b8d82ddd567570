#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

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
  pair.outside = Part{"outside phases", -0.51, Interval{-0.6, -0.4}, 0.51, 0};
  pair.thread = {{"main thread: waiting", 0.2, Interval{-0.1, 0.5}, 0, 0.2}};
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

TEST(BreakdownView, TheVerdictSaysWhatTheDifferenceIsMadeOf) {
  EXPECT_EQ(breakdown_view(known_about(), known_answer()).verdict.at(0),
            "At 100k lanterns objects takes 7.50 ms more than columns: gather +5.00, glow +3.00, outside phases "
            "-0.510.");
  BreakdownAnswer alike = known_answer();
  alike.pairs[0].whole.interval = {-0.1, 0.1};
  EXPECT_THAT(breakdown_view(known_about(), alike).verdict.at(0),
              HasSubstr("columns and objects do not differ significantly"));
}

TEST(BreakdownView, EveryPartIsInTheTable) {
  const std::string text = answer_text(breakdown_view(known_about(), known_answer()));
  for (const char* said : {"count", "main thread: waiting", "+0.200  -0.100 to 0.500", "NOT as expected",
                           "page faults per frame", "300k (290k to 310k)"})
    EXPECT_THAT(text, HasSubstr(said));
}

TEST(BreakdownView, PairsThatWereNeverMeasuredTogetherAreNamed) {
  BreakdownAnswer answer;
  answer.not_measured_together = {"objects and columns"};
  EXPECT_EQ(breakdown_view(known_about(), answer).notes.at(0).text,
            "objects and columns were never measured at the same count.");
}

TEST(BreakdownView, JsonHoldsAllOfIt) {
  const Json json = made::json_of(breakdown_view(known_about(), known_answer()));
  EXPECT_EQ(json["difference"].size(), 6U);
  EXPECT_EQ(json["difference"][0]["difference_ms"], 7.5);
  EXPECT_EQ(json["difference"][0]["first"], "columns");
  EXPECT_EQ(json["difference"][1]["kind"], "phase");
  EXPECT_EQ(json["difference_counters"][0]["verdict"], "NOT as expected");
  EXPECT_EQ(json["without_phase"][0]["capacity"], 300'000);
}

}  // namespace
}  // namespace mileage
