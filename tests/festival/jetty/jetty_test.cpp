#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "festival/jetty/jetty_world.h"
#include "support/festival_implementations.h"

namespace mileage::festival::jetty {
namespace {

using testing::HasSubstr;
using testing_support::came_to;
using testing_support::differing;
using testing_support::set_up_of;

class JettyImplementations : public testing::TestWithParam<std::string> {
 protected:
  static std::string differs(const mileage::SetUp& set_up, int frames = 300) {
    return differing("jetty", GetParam(), set_up, frames);
  }
};

TEST_P(JettyImplementations, AgreeAtAnyCountOfBoth) {
  for (const double planks : {1.0, 7.0, 300.0})
    for (const std::int64_t lanterns : {1, 3, 200})
      EXPECT_EQ(differs(set_up_of("jetty", lanterns, {{"planks", planks}})), "") << planks << " " << lanterns;
}

TEST_P(JettyImplementations, AgreeForOtherSeedsAndWherePlanksChange) {
  for (const std::uint64_t seed : {2U, 3U}) EXPECT_EQ(differs(set_up_of("jetty", 100, {{"planks", 400.0}}, seed)), "");
  for (const double changes : {2.0, 60.0, 1000.0})
    EXPECT_EQ(differs(set_up_of("jetty", 100, {{"planks", 200.0}, {"changes", changes}})), "") << changes;
}

TEST_P(JettyImplementations, LetInThoseThatArrive) {
  mileage::SetUp set_up = set_up_of("jetty", 60, {{"planks", 150.0}});
  set_up.arrivals = 40;
  EXPECT_EQ(differs(set_up), "");
}

INSTANTIATE_TEST_SUITE_P(All, JettyImplementations, testing::ValuesIn(testing_support::ways_to_agree("jetty")),
                         [](const auto& way) { return testing_support::test_name(way.param); });

/// A missing box, or boxes that ignore changes.
class WrongPlanks : public JettyVariant {
 public:
  WrongPlanks(const mileage::SetUp& set_up, std::size_t left_out, bool notices_changes)
      : JettyVariant(set_up), left_out_(left_out), notices_changes_(notices_changes) {
    box_all();
  }

 private:
  const std::vector<Box>& boxes() const override { return boxes_; }
  void changed(Cell) override {
    if (notices_changes_) box_all();
  }
  void box_all() {
    boxes_.clear();
    for (std::size_t i = left_out_; i < planks().size(); ++i) boxes_.push_back(box_of(planks()[i]));
  }

  std::size_t left_out_;
  bool notices_changes_;
  std::vector<Box> boxes_;
};

TEST(JettyOutcome, NoticesPlanksThatAreLeftOut) {
  const mileage::SetUp set_up = set_up_of("jetty", 2000, {{"planks", 300.0}});
  WrongPlanks made(set_up, 3, true);
  EXPECT_THAT(differing(came_to("jetty", "planks", set_up, 300).outcome, came_to(made, set_up, 300).outcome),
              HasSubstr("mean x"));
}

TEST(JettyOutcome, NoticesChangesThatAreMissed) {
  const mileage::SetUp set_up = set_up_of("jetty", 2000, {{"planks", 300.0}, {"changes", 30.0}});
  WrongPlanks made(set_up, 0, false);
  EXPECT_THAT(differing(came_to("jetty", "planks", set_up, 300).outcome, came_to(made, set_up, 300).outcome),
              HasSubstr("mean"));
}

TEST(Jetty, DecksAreFewAndCoverEveryPlankOnce) {
  const mileage::SetUp set_up = set_up_of("jetty", 50, {{"planks", 500.0}});
  const auto planks = came_to("jetty", "planks", set_up, 1).counters;
  const auto decks = came_to("jetty", "decks", set_up, 1).counters;
  EXPECT_EQ(planks.at("boxes"), 500);
  EXPECT_LT(decks.at("boxes"), 60);
  EXPECT_GT(decks.at("boxes"), 15);
  EXPECT_EQ(planks.at("contacts"), decks.at("contacts"));
}

TEST(NearestPoint, IsTheSameInWhateverOrderBoxesCome) {
  const Box left{0, 0, 1, 1}, right{2, 0, 3, 1}, above{1, 2, 2, 3};
  NearestPoint one, other;
  for (const Box& box : {left, right, above}) one.look_at(box, 1.5F, 0.5F);
  for (const Box& box : {above, right, left}) other.look_at(box, 1.5F, 0.5F);
  EXPECT_EQ(one.x, 1) << "of two as near, the one to the left";
  EXPECT_EQ(other.x, one.x);
  EXPECT_EQ(other.y, one.y);
  EXPECT_FLOAT_EQ(one.squared, 0.25F);
}

}  // namespace
}  // namespace mileage::festival::jetty
