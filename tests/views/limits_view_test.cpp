#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::Not;

const About& around_limits() { return made::known_report().about; }

LimitsAnswer known_limits() {
  LimitsAnswer answer;
  answer.budget_ms = 1000.0 / 60;
  answer.limits = {{0,
                    160'000,
                    Resource::memory_traffic,
                    {{Resource::memory_traffic, 0.9, 180'000}, {Resource::frame_thread, 1, 166'000}},
                    {"main thread 100 % busy of a frame", "a bare pass takes 90 % of it"}},
                   {1, 400'000, Resource::frame_thread, {{Resource::frame_thread, 1, {}}}, {}}};
  return answer;
}

TEST(LimitsView, NamesWhatLimitsEachAndHowFarOthersWouldGo) {
  EXPECT_EQ(limited_by(around_limits(), known_limits(), 0), "memory traffic");
  const std::string text = answer_text(limits_view(around_limits(), known_limits()), true);
  for (const char* said : {"memory traffic", "180k", "more", "objects at 160k: main thread 100 % busy"})
    EXPECT_THAT(text, HasSubstr(said));
  EXPECT_THAT(text, Not(HasSubstr("cores"))) << "nothing is known of them";
  EXPECT_EQ(answer_text(limits_view(around_limits(), known_limits())), "") << "left to --more";
}

TEST(LimitsView, NothingKnownIsNothingSaid) {
  LimitsAnswer answer;
  answer.limits = {{0, 100, Resource::inconclusive, {}, {}}};
  EXPECT_EQ(answer_text(limits_view(around_limits(), answer), true), "");
  EXPECT_EQ(limited_by(around_limits(), answer, 0), "");
}

TEST(LimitsView, MemoryAndTicksAreShownWhereTheyAreAskedFor) {
  LimitsAnswer answer = known_limits();
  answer.memory_limit_bytes = 512e6;
  answer.memory = {{0, 6'900'000, 72}, {1, {}, 0}};
  answer.tick_ms = 20;
  answer.spike_ms = 100;
  TickLimit tick{0, {}, {}};
  tick.keeps_up.at = 200'000;
  tick.spike_recovery.none = NoCapacity::over_at_once;
  answer.ticks = {tick};
  const Answer view = limits_view(around_limits(), answer);
  for (const char* said : {"fits in 512MB", "6.9M", "unknown", "Fixed tick of 20.0 ms", "200k", "none"})
    EXPECT_THAT(answer_text(view), HasSubstr(said));
  const Json json = made::json_of(view);
  EXPECT_EQ(json["resources"][0]["resource"], "memory traffic");
  EXPECT_EQ(json["resources"][0]["alone_at"], 180'000);
  EXPECT_EQ(json["memory_capacities"][0]["capacity"], 6'900'000);
  EXPECT_EQ(json["ticks"][0]["keeps_up"], 200'000);
}

}  // namespace
}  // namespace mileage
