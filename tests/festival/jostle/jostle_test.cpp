#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "festival/jostle/jostle_world.h"
#include "support/festival_implementations.h"

namespace mileage::festival::jostle {
namespace {

using testing::HasSubstr;
using testing_support::Came;
using testing_support::came_to;
using testing_support::differing;
using testing_support::set_up_of;
using testing_support::stated;

class JostleImplementations : public testing::TestWithParam<std::string> {
 protected:
  static std::string differs(const mileage::SetUp& set_up, int frames = 40) {
    return differing("jostle", GetParam(), set_up, frames);
  }
};

TEST_P(JostleImplementations, AgreeAtAnyCount) {
  for (const std::int64_t count : {1, 2, 3, 17, 100, 900, 3000})
    EXPECT_EQ(differs(set_up_of("jostle", count, {{"batch", 64.0}})), "") << count;
}

TEST_P(JostleImplementations, AgreeForOtherSeedsAndDensities) {
  for (const std::uint64_t seed : {2U, 3U}) EXPECT_EQ(differs(set_up_of("jostle", 500, {}, seed)), "") << seed;
  for (const double density : {0.05, 0.3, 1.2})
    EXPECT_EQ(differs(set_up_of("jostle", 500, {{"density", density}})), "") << density;
}

TEST_P(JostleImplementations, AgreeWhereLanternsRestAndWake) {
  EXPECT_EQ(differs(set_up_of("jostle", 400, {{"rest", std::string("on")}}), 600), "");
  EXPECT_EQ(differs(set_up_of("jostle", 400, {{"rest", std::string("on")}, {"launch", 0.07}}), 600), "");
}

TEST_P(JostleImplementations, AgreeWhereLanternsAreLaunchedAndArrive) {
  EXPECT_EQ(differs(set_up_of("jostle", 300, {{"launch", 20.0}, {"together", std::string("on")}})), "");
  mileage::SetUp set_up = set_up_of("jostle", 300, {{"launch", 5.0}});
  set_up.arrivals = 100;
  EXPECT_EQ(differs(set_up), "");
}

TEST_P(JostleImplementations, AgreeWhateverTheCells) {
  for (const double cell : {1.0, 1.7, 4.0, 32.0})
    EXPECT_EQ(differs(set_up_of("jostle", 600, {{"cell", cell}}), 20), "") << cell;
}

TEST_P(JostleImplementations, AgreeHoweverTheWorkIsSplit) {
  for (const double workers : {1.0, 2.0, 5.0})
    for (const double batch : {1.0, 100.0, 100'000.0})
      EXPECT_EQ(differs(set_up_of("jostle", 700, {{"workers", workers}, {"batch", batch}}), 20), "")
          << workers << " " << batch;
  for (const char* stage : {"cells", "pairs", "both"})
    EXPECT_EQ(differs(set_up_of("jostle", 700, {{"stage", std::string(stage)}, {"batch", 64.0}}), 20), "") << stage;
}

INSTANTIATE_TEST_SUITE_P(All, JostleImplementations, testing::ValuesIn(testing_support::ways_to_agree("jostle")),
                         [](const auto& way) { return testing_support::test_name(way.param); });

/// Pairs with a mistake.
class WrongPairs : public JostleVariant {
 public:
  enum class Wrong { forgets_last, never_wakes };
  WrongPairs(const mileage::SetUp& set_up, Wrong wrong) : JostleVariant(set_up), wrong_(wrong) {}

 private:
  Found push_apart(Frame&) override {
    Found found;
    const std::int64_t last = alive() - (wrong_ == Wrong::forgets_last ? 1 : 0);
    for (std::int64_t a = 0; a < last; ++a) meet_all(lanterns(), a, a + 1, last, found);
    if (wrong_ == Wrong::never_wakes) std::fill(lanterns().woken.begin(), lanterns().woken.end(), std::uint8_t{0});
    return found;
  }

  Wrong wrong_;
};

std::string noticed(WrongPairs::Wrong wrong, const mileage::SetUp& set_up, int frames) {
  WrongPairs made(set_up, wrong);
  return differing(came_to("jostle", "pairs", set_up, frames).outcome, came_to(made, set_up, frames).outcome);
}

TEST(JostleOutcome, NoticesALanternThatNobodyPushes) {
  EXPECT_THAT(noticed(WrongPairs::Wrong::forgets_last, set_up_of("jostle", 200), 60), HasSubstr("mean energy"));
}

TEST(JostleOutcome, NoticesThatSleepersAreNeverWoken) {
  const mileage::SetUp set_up = set_up_of("jostle", 300, {{"rest", std::string("on")}, {"launch", 0.05}});
  EXPECT_THAT(noticed(WrongPairs::Wrong::never_wakes, set_up, 700), HasSubstr("share awake"));
}

TEST(Jostle, PushesKnowNoOrder) {
  // Integer sums do not depend on the order of pairs.
  const auto pushes = [](std::vector<std::pair<int, int>> order) {
    Lanterns lanterns;
    lanterns.resize(3);
    const float x[] = {1, 1.1F, 1.05F}, y[] = {1, 1.02F, 1.13F};
    for (std::size_t i = 0; i < 3; ++i) {
      lanterns.x[i] = x[i];
      lanterns.y[i] = y[i];
      lanterns.number[i] = static_cast<std::int32_t>(i);
    }
    Found found;
    for (const auto& [a, b] : order) meet<Moves::both>(lanterns, a, b, found);
    EXPECT_EQ(found.contacts, 3);
    lanterns.push_x.insert(lanterns.push_x.end(), lanterns.push_y.begin(), lanterns.push_y.end());
    return lanterns.push_x;
  };
  const auto expected = pushes({{0, 1}, {0, 2}, {1, 2}});
  EXPECT_EQ(expected, pushes({{2, 1}, {1, 0}, {2, 0}}));
  EXPECT_EQ(expected[0] + expected[1] + expected[2], 0) << "what pushes is pushed back";
  EXPECT_NE(expected[0], 0);
}

TEST(Jostle, TwoAtTheSamePlaceGoApart) {
  Lanterns lanterns;
  lanterns.resize(2);
  for (std::size_t i = 0; i < 2; ++i) {
    lanterns.x[i] = lanterns.y[i] = 1;
    lanterns.number[i] = static_cast<std::int32_t>(i);
  }
  Found found;
  meet<Moves::both>(lanterns, 1, 0, found);
  EXPECT_LT(lanterns.push_x[0], 0);
  EXPECT_GT(lanterns.push_x[1], 0);
}

TEST(Jostle, CellsLeaveNearlyAllPairsUntested) {
  const mileage::SetUp set_up = set_up_of("jostle", 2000);
  const Came all = came_to("jostle", "pairs", set_up, 5);
  const Came grid = came_to("jostle", "grid", set_up, 5);
  EXPECT_EQ(all.counters.at("pairs tested"), 5 * 2000.0 * 1999 / 2);
  EXPECT_EQ(all.counters.at("contacts"), grid.counters.at("contacts"));
  EXPECT_LT(grid.counters.at("pairs tested"), 4 * grid.counters.at("contacts"));
  EXPECT_GT(grid.counters.at("contacts"), 2000) << "lanterns lie in rafts from the first frame on";
}

TEST(Jostle, TheGridWithACapMissesContactsAndSaysHowMany) {
  const mileage::SetUp set_up = set_up_of("jostle", 500, {{"partners", 1.0}});
  const auto capped = (*testing_support::festival().factory("jostle", "grid-capped"))(set_up);
  testing_support::CountingSink sink;
  Frame frame(sink);
  capped->run_frame(frame);
  const double found = sink.counters["contacts"];
  capped->count_untimed(frame);
  EXPECT_LE(found, 250) << "one partner each";
  EXPECT_GT(sink.counters["missed contacts"], found);
  const mileage::SetUp many = set_up_of("jostle", 500, {{"partners", 64.0}});
  EXPECT_EQ(differing(came_to("jostle", "grid", many, 20).outcome, came_to("jostle", "grid-capped", many, 20).outcome),
            "");
}

TEST(Jostle, LanternsComeToRestAndALaunchWakesSome) {
  const double rested = stated(
      came_to("jostle", "grid", set_up_of("jostle", 400, {{"rest", std::string("on")}}), 900).outcome, "share awake");
  EXPECT_LT(rested, 0.2);
  const mileage::SetUp launching = set_up_of("jostle", 400, {{"rest", std::string("on")}, {"launch", 0.5}});
  EXPECT_GT(stated(came_to("jostle", "grid", launching, 900).outcome, "share awake"), rested + 0.2);
  EXPECT_EQ(stated(came_to("jostle", "grid", set_up_of("jostle", 400), 100).outcome, "share awake"), 1);
}

TEST(Jostle, ThePictureShowsLanternsAndWater) {
  const auto variant = (*testing_support::festival().factory("jostle", "grid"))(set_up_of("jostle", 50));
  testing_support::run_frames(*variant, 3);
  const Picture picture = variant->picture();
  ASSERT_EQ(picture.pixels.size(), std::size_t{3} * static_cast<std::size_t>(picture.width * picture.height));
  int glowing = 0;
  for (std::size_t i = 0; i < picture.pixels.size(); i += 3) glowing += picture.pixels[i] > 200;
  const double share = 3.0 * glowing / static_cast<double>(picture.pixels.size());
  EXPECT_GT(share, 0.3);
  EXPECT_LT(share, 0.7) << "they cover 0.6 of the water";
}

}  // namespace
}  // namespace mileage::festival::jostle
