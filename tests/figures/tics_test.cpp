#include "figures/tics.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace mileage {
namespace {

std::string plain(double value) { return std::to_string(static_cast<int>(value)); }

TEST(Tics, AreLabelledAtDecadesAndOverAShortRangeBetweenThem) {
  const std::string wide = decade_tics(10, 10'000, plain);
  EXPECT_THAT(wide, testing::HasSubstr("\"1000\" 1000 0"));
  EXPECT_THAT(wide, testing::HasSubstr("\"\" 2000 1"));
  const std::string narrow = decade_tics(1000, 20'000, plain);
  EXPECT_THAT(narrow, testing::HasSubstr("\"2000\" 2000 0"));
  EXPECT_THAT(narrow, testing::HasSubstr("\"\" 3000 1"));
}

TEST(Tics, FineOnesStandAtOneTwoAndFive) {
  EXPECT_EQ(fine_tics(0.4, 11), "\"0.5\" 0.5, \"1\" 1, \"2\" 2, \"5\" 5, \"10\" 10");
}

}  // namespace
}  // namespace mileage
