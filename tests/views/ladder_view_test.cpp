#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "types/error.h"
#include "views/known_report.h"
#include "figures/figures.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::Not;

const About& around_ladder() { return made::known_report().about; }

LadderAnswer known_ladder() {
  LadderAnswer answer;
  answer.x = 100'000;
  answer.budget_ms = 1000.0 / 60;
  RungAt base, tidy, paint;
  base.name = "base";
  base.cost = {20, Interval{19, 21}};
  base.capacity.at = 80'000;
  tidy.name = "tidy=1";
  tidy.series = 1;
  tidy.cost = {10, Interval{9.5, 10.5}};
  tidy.on_top = Change{0.5, Interval{0.48, 0.52}, 10};
  tidy.alone = tidy.on_top;
  tidy.capacity.at = 160'000;
  tidy.capacity.interval = {150'000, 170'000};
  paint.name = "paint=1,wings=1";
  paint.cost = {10, Interval{9.5, 10.5}};
  paint.on_top = Change{1, Interval{0.97, 1.03}, 0};
  paint.is_inconclusive = paint.changes_several = true;
  paint.error = 0.02;
  answer.rungs = {base, tidy, paint};
  answer.all = tidy.on_top;
  answer.first_within = 1;
  return answer;
}

std::string ladder_text_of(const LadderAnswer& answer, bool more = false) {
  return answer_text(ladder_view(around_ladder(), answer), more);
}

TEST(LadderView, TheVerdictSaysWhatAllBringAndWhereTheBudgetIsMet) {
  EXPECT_EQ(ladder_sentence(around_ladder(), known_ladder()),
            "At 100k lanterns, 2 changes together: 20.0 → 10.0 ms (0.50x, 0.48 to 0.52). From tidy=1 on it fits 16.7 "
            "ms.");
  LadderAnswer none = known_ladder();
  none.first_within.reset();
  EXPECT_THAT(ladder_sentence(around_ladder(), none), HasSubstr("None fits 16.7 ms"));
}

TEST(LadderView, EachChangeHasARowAndANoteWhereOneIsDue) {
  const std::string text = ladder_text_of(known_ladder());
  for (const char* said : {"0.50x", "160k (150k to 170k)", "paint=1,wings=1: no significant effect.",
                           "paint=1,wings=1: several settings at once", "2.0 %"})
    EXPECT_THAT(text, HasSubstr(said));
  EXPECT_THAT(text, Not(HasSubstr("only together")));
}

TEST(LadderView, CapacitiesBeyondWhatWasMeasuredHaveNoColumn) {
  LadderAnswer answer = known_ladder();
  for (RungAt& rung : answer.rungs) rung.capacity = {};
  EXPECT_THAT(ladder_text_of(answer), Not(HasSubstr("capacity in 16.7 ms")));
  EXPECT_THAT(ladder_text_of(answer, true), HasSubstr("capacities in 16.7 ms are beyond what was measured"));
}

TEST(LadderView, WithoutALadderThatIsSaid) { EXPECT_THAT(ladder_text_of({}), HasSubstr("The study holds no ladder")); }

TEST(LadderView, JsonAndFigureHoldTheRungs) {
  const Json json = made::json_of(ladder_view(around_ladder(), known_ladder()));
  EXPECT_EQ(json["rungs"][1]["on_top"], 0.5);
  EXPECT_TRUE(json["rungs"][0]["on_top"].is_null());
  const std::string script = ladder_figure_script(around_ladder(), known_ladder(), FigureFormat::png);
  for (const char* part : {"tidy=1", "budget 16.7 ms", "0.50x of the last"}) EXPECT_THAT(script, HasSubstr(part));
  EXPECT_THAT(ladder_figure(around_ladder(), known_ladder(), FigureFormat::svg), HasSubstr("</svg>"));
  EXPECT_THROW(ladder_figure(around_ladder(), {}, FigureFormat::svg), Error);
}

}  // namespace
}  // namespace mileage
