#include "figures/look.h"

#include <set>
#include <string>
#include <utility>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Look, HueAndMarkerTellSixtyFourVariantsApart) {
  std::set<std::pair<std::string, int>> seen;
  for (int rank = 0; rank < 64; ++rank) seen.emplace(look::mark_of(rank).colour, look::mark_of(rank).point);
  EXPECT_EQ(seen.size(), 64U);
}

TEST(Look, TheFirstEightHaveHuesOfTheirOwn) {
  std::set<std::string> hues;
  for (int rank = 0; rank < 8; ++rank) hues.insert(look::mark_of(rank).colour);
  EXPECT_EQ(hues.size(), 8U);
}

}  // namespace
}  // namespace mileage
