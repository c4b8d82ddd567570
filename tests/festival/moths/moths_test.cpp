#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "festival/moths/lantern_cells.h"
#include "support/festival_implementations.h"

namespace mileage::festival::moths {
namespace {

using testing::HasSubstr;
using testing_support::came_to;
using testing_support::differing;
using testing_support::set_up_of;

/// All but the one that is wrong by design.
std::vector<std::string> right_ways() {
  std::vector<std::string> implementations = testing_support::ways_to_agree("moths");
  implementations.erase(std::remove(implementations.begin(), implementations.end(), "index"), implementations.end());
  return implementations;
}

class MothsImplementations : public testing::TestWithParam<std::string> {
 protected:
  static std::string differs(const mileage::SetUp& set_up, int frames = 60) {
    return differing("moths", GetParam(), set_up, frames);
  }
};

TEST_P(MothsImplementations, AgreeAtAnyCountOfBoth) {
  for (const double lanterns : {1.0, 2.0, 9.0, 300.0})
    for (const std::int64_t moths : {1, 7, 150})
      EXPECT_EQ(differs(set_up_of("moths", moths, {{"lanterns", lanterns}, {"forget", 0.1}})), "")
          << lanterns << " " << moths;
}

TEST_P(MothsImplementations, AgreeForOtherSeedsAndChurns) {
  for (const std::uint64_t seed : {2U, 3U})
    EXPECT_EQ(differs(set_up_of("moths", 60, {{"lanterns", 200.0}}, seed)), "") << seed;
  for (const double churn : {0.0, 1.0, 10.0})
    EXPECT_EQ(differs(set_up_of("moths", 60, {{"lanterns", 200.0}, {"churn", churn}, {"forget", 1.0}})), "") << churn;
}

TEST_P(MothsImplementations, AgreeHoweverRarelyTheTreeIsBuilt) {
  for (const double rebuild : {2.0, 10.0, 1000.0})
    EXPECT_EQ(
        differs(set_up_of("moths", 40, {{"lanterns", 300.0}, {"churn", 1.0}, {"forget", 0.3}, {"rebuild", rebuild}})),
        "")
        << rebuild;
}

TEST_P(MothsImplementations, AgreeHoweverTheWorkIsSplitAndLetInThoseThatArrive) {
  for (const double workers : {1.0, 2.0, 5.0})
    for (const double batch : {1.0, 64.0, 100'000.0})
      EXPECT_EQ(differs(set_up_of("moths", 200, {{"lanterns", 100.0}, {"workers", workers}, {"batch", batch}}), 20),
                "");
  mileage::SetUp set_up = set_up_of("moths", 50, {{"lanterns", 100.0}});
  set_up.arrivals = 30;
  EXPECT_EQ(differs(set_up), "");
}

INSTANTIATE_TEST_SUITE_P(All, MothsImplementations, testing::ValuesIn(right_ways()),
                         [](const auto& way) { return testing_support::test_name(way.param); });

TEST(MothsOutcome, NoticesAPlainIndexOnceLanternsAreReplaced) {
  const auto of_churn = [](double churn) {
    return differing("moths", "index", set_up_of("moths", 100, {{"lanterns", 200.0}, {"churn", churn}}), 120);
  };
  EXPECT_THAT(of_churn(0.5), HasSubstr("its lantern"));
  EXPECT_EQ(of_churn(0), "") << "right as long as nothing moves";
}

TEST(Moths, CellsLookAtFewLanternsAndHandlesAtNone) {
  const mileage::SetUp set_up = set_up_of("moths", 100, {{"lanterns", 2000.0}, {"churn", 0.0}, {"forget", 0.0}});
  const auto looked = [&](const char* variant) { return came_to("moths", variant, set_up, 30).counters; };
  EXPECT_EQ(looked("kept").at("lanterns looked at"), 100 * 2000.0) << "all, once: then everyone remembers";
  EXPECT_LT(looked("grid").at("lanterns looked at"), 100 * 60.0);
  EXPECT_LT(looked("tree").at("lanterns looked at"), 100 * 100.0);
  EXPECT_GT(looked("scan").at("lanterns looked at"), 100 * 10'000.0);
  EXPECT_EQ(looked("scan").at("searched again"), 100);
}

TEST(LanternCells, FindTheNearestFromAnywhere) {
  Lanterns lanterns;
  for (std::uint32_t i = 0; i < 50; ++i) {
    lanterns.x.push_back(static_cast<float>(i * 37 % 50) / 5);
    lanterns.y.push_back(static_cast<float>(i * 11 % 50) / 5);
    lanterns.number.push_back(i);
  }
  LanternCells cells(10, 50);
  cells.fill(lanterns);
  for (float x = 0; x <= 10; x += 0.7F)
    for (float y = 0; y <= 10; y += 0.9F) {
      Nearest expected;
      for (std::size_t i = 0; i < 50; ++i) expected.look_at(lanterns, i, x, y);
      Looked looked;
      EXPECT_EQ(cells.nearest(lanterns, x, y, looked).number, expected.number) << x << " " << y;
      EXPECT_GT(looked.lanterns, 0);
    }
}

}  // namespace
}  // namespace mileage::festival::moths
