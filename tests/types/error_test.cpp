#include "types/error.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Error, IsOneLineOfItsParts) {
  const Error error({.file = "night.study.jsonl",
                     .line = 12,
                     .field = "count",
                     .problem = "not a whole number",
                     .found = "x",
                     .accepted = "a whole number from 1"});
  EXPECT_STREQ(error.what(),
               "night.study.jsonl:12: count: not a whole number; found \"x\"; accepted: a whole number from 1");
}

TEST(Error, LeavesOutWhatIsEmpty) { EXPECT_STREQ(Error({.problem = "no frames in it"}).what(), "no frames in it"); }

TEST(Error, CutsWhatIsLong) {
  const Error error({.problem = "not a number", .found = std::string(100'000, 'x')});
  EXPECT_LT(std::string(error.what()).size(), 2000U);
  EXPECT_EQ(error.fault().found.size(), 100'000U) << "the parts stay whole";
}

}  // namespace
}  // namespace mileage
