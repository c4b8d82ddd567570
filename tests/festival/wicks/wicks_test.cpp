#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "festival/wicks/leaving.h"
#include "festival/wicks/wicks_world.h"
#include "support/festival_implementations.h"

namespace mileage::festival::wicks {
namespace {

using testing::HasSubstr;
using testing_support::came_to;
using testing_support::differing;
using testing_support::set_up_of;

class WicksImplementations : public testing::TestWithParam<std::string> {
 protected:
  static std::string differs(const mileage::SetUp& set_up, int frames = 200) {
    return differing("wicks", GetParam(), set_up, frames);
  }
};

TEST_P(WicksImplementations, AgreeAtAnyCountSeedAndChurn) {
  for (const std::int64_t count : {1, 2, 3, 17, 500, 5000})
    EXPECT_EQ(differs(set_up_of("wicks", count, {{"churn", 0.5}})), "") << count;
  for (const std::uint64_t seed : {2U, 3U}) EXPECT_EQ(differs(set_up_of("wicks", 600, {{"churn", 2.0}}, seed)), "");
  for (const double churn : {0.0, 0.01, 20.0, 60.0})
    EXPECT_EQ(differs(set_up_of("wicks", 600, {{"churn", churn}})), "") << churn;
}

TEST_P(WicksImplementations, AgreeWhereOrderIsKept) {
  for (const double churn : {0.0, 0.5, 30.0})
    EXPECT_EQ(differs(set_up_of("wicks", 700, {{"churn", churn}, {"order", std::string("kept")}})), "") << churn;
}

TEST_P(WicksImplementations, LetInThoseThatArrive) {
  mileage::SetUp set_up = set_up_of("wicks", 300, {{"churn", 1.0}});
  set_up.arrivals = 200;
  EXPECT_EQ(differs(set_up), "");
  set_up.knobs.set("order", std::string("kept"));
  EXPECT_EQ(differs(set_up), "");
}

TEST_P(WicksImplementations, AgreeHoweverTheWorkIsSplit) {
  for (const double workers : {1.0, 2.0, 5.0})
    for (const double batch : {1.0, 100.0, 100'000.0})
      EXPECT_EQ(differs(set_up_of("wicks", 400, {{"churn", 5.0}, {"workers", workers}, {"batch", batch}}), 60), "")
          << workers << " " << batch;
}

INSTANTIATE_TEST_SUITE_P(All, WicksImplementations, testing::ValuesIn(testing_support::ways_to_agree("wicks")),
                         [](const auto& way) { return testing_support::test_name(way.param); });

/// Array with a mistake.
class WrongArray : public WicksVariant {
 public:
  enum class Wrong { skips_who_took_a_place, loses_order };
  WrongArray(const mileage::SetUp& set_up, Wrong wrong) : WicksVariant(set_up), wrong_(wrong), all_(first_wicks()) {}
  std::int64_t alive() const override { return static_cast<std::int64_t>(all_.size()); }

 private:
  std::int64_t burn_all(Frame&, float step_s) override {
    for (std::size_t i = 0; i < all_.size(); ++i) {
      burn(all_[i], step_s);
      if (!all_[i].is_out()) continue;
      // The moved wick is not burnt in this frame, or order is lost.
      let_last_take_place(all_, i);
      if (wrong_ == Wrong::loses_order && i < all_.size()) --i;
    }
    return alive();
  }
  void add(const Wick& wick) override { all_.push_back(wick); }
  std::vector<Wick> in_order() const override { return all_; }

  Wrong wrong_;
  std::vector<Wick> all_;
};

std::string noticed(WrongArray::Wrong wrong, const mileage::SetUp& set_up) {
  WrongArray made(set_up, wrong);
  return differing(came_to("wicks", "swap-remove", set_up, 120).outcome, came_to(made, set_up, 120).outcome);
}

TEST(WicksOutcome, NoticesAWickThatIsNotBurnt) {
  EXPECT_THAT(noticed(WrongArray::Wrong::skips_who_took_a_place, set_up_of("wicks", 300, {{"churn", 5.0}})),
              HasSubstr("mean glow"));
}

TEST(WicksOutcome, NoticesThatTheOrderIsLost) {
  const mileage::SetUp kept = set_up_of("wicks", 300, {{"churn", 1.0}, {"order", std::string("kept")}});
  EXPECT_THAT(noticed(WrongArray::Wrong::loses_order, kept), HasSubstr("wicks out of order"));
}

TEST(Wicks, AsManyGoOutAsTheChurnSays) {
  const auto came = came_to("wicks", "swap-remove", set_up_of("wicks", 5000, {{"churn", 0.5}}), 600);
  EXPECT_NEAR(came.counters.at("went out") / (5000 * 10), 0.5, 0.06) << "ten seconds";
  EXPECT_EQ(came.counters.at("alive"), 600 * 5000.0) << "counted every frame, and replaced in it";
  EXPECT_EQ(came_to("wicks", "swap-remove", set_up_of("wicks", 500, {{"churn", 0.0}}), 60).counters.at("went out"), 0);
}

}  // namespace
}  // namespace mileage::festival::wicks
