#include "views/limits_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

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
                    {"its thread is busy for 100 % of a frame", "a bare pass takes 90 % of it"}},
                   {1, 400'000, Resource::frame_thread, {{Resource::frame_thread, 1, {}}}, {}}};
  return answer;
}

TEST(LimitsView, NamesWhatEndsEachAndHowFarOthersWouldGo) {
  const std::string text = limits_text(around_limits(), known_limits());
  for (const char* said : {"  memory traffic", "180k", "farther", "objects at 160k: its thread is busy for 100 %"})
    EXPECT_THAT(text, HasSubstr(said));
  EXPECT_THAT(text, Not(HasSubstr("all cores"))) << "nobody knows of it";
}

TEST(LimitsView, NothingKnownIsNothingSaid) {
  LimitsAnswer answer;
  answer.limits = {{0, 100, Resource::cannot_tell, {}, {}}};
  EXPECT_EQ(limits_text(around_limits(), answer), "");
}

TEST(LimitsView, MemoryAndTicksStandBelow) {
  LimitsAnswer answer = known_limits();
  answer.memory_limit_bytes = 512e6;
  answer.memory = {{0, 6'900'000, 72}, {1, {}, 0}};
  answer.tick_ms = 20;
  answer.spike_ms = 100;
  TickLimit tick{0, {}, {}};
  tick.keeps_up.at = 200'000;
  tick.makes_good.none = NoCapacity::over_at_once;
  answer.ticks = {tick};
  const std::string text = limits_text(around_limits(), answer);
  for (const char* said : {"fits in 512MB", "6.9M", "not known", "A fixed tick of 20.0 ms", "200k", "nowhere"})
    EXPECT_THAT(text, HasSubstr(said));
  Json json;
  add_limits_json(json, around_limits(), answer);
  EXPECT_EQ(json["limits"][0]["ended_by"], "memory traffic");
  EXPECT_EQ(json["limits"][0]["uses"][0]["alone_at"], 180'000);
  EXPECT_EQ(json["memory_capacities"][0]["count"], 6'900'000);
  EXPECT_EQ(json["ticks"][0]["keeps_up"]["count"], 200'000);
}

}  // namespace
}  // namespace mileage
