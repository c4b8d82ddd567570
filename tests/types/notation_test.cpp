#include "types/notation.h"

#include <gtest/gtest.h>

#include "types/error.h"

namespace mileage {
namespace {

TEST(Notation, ReadsCountsAsPeopleWriteThem) {
  EXPECT_EQ(parse_count("500", "--counts"), 500);
  EXPECT_EQ(parse_count("20k", "--counts"), 20'000);
  EXPECT_EQ(parse_count("1.5M", "--counts"), 1'500'000);
  EXPECT_EQ(parse_count(" 7 ", "--counts"), 7);
  EXPECT_EQ(parse_count("1000000000", "--counts"), max_entities);
}

class RefusedCount : public testing::TestWithParam<const char*> {};

TEST_P(RefusedCount, NamesFieldFindingAndWhatIsAccepted) {
  try {
    parse_count(GetParam(), "--counts");
    FAIL() << "accepted " << GetParam();
  } catch (const Error& error) {
    EXPECT_EQ(error.fault().kind, FaultKind::usage);
    EXPECT_EQ(error.fault().field, "--counts");
    EXPECT_EQ(error.fault().found, GetParam());
    EXPECT_NE(error.fault().accepted.find("20k"), std::string::npos);
  }
}

INSTANTIATE_TEST_SUITE_P(Notation, RefusedCount,
                         testing::Values("0", "-5", "1e99", "abc", "", "1.5", "20x", "20 k", "inf", "nan", "1000000001",
                                         "0.5k1"));

TEST(Notation, SpreadsASpanAtEqualRatiosWithBothEnds) {
  const auto counts = parse_counts("100..1M", 0, "--counts");
  EXPECT_EQ(counts.size(), 13U);  // Three per decade.
  EXPECT_EQ(counts.front(), 100);
  EXPECT_EQ(counts.back(), 1'000'000);
  EXPECT_EQ(counts[3], 1000);
  EXPECT_EQ(parse_counts("100..200", 0, "--counts").size(), 8U);  // At least eight.
  EXPECT_EQ(parse_counts("100..1M", 5, "--counts"), (std::vector<std::int64_t>{100, 1000, 10'000, 100'000, 1'000'000}));
}

TEST(Notation, MergesListsAndSpansAscendingWithoutDoubles) {
  EXPECT_EQ(parse_counts("5k,1k,20k,1k", 0, "--counts"), (std::vector<std::int64_t>{1000, 5000, 20'000}));
  EXPECT_EQ(parse_counts("1..3,2", 3, "--counts"), (std::vector<std::int64_t>{1, 2, 3}));
}

TEST(Notation, RefusesAnEmptySpan) {
  EXPECT_THROW(parse_counts("200k..100", 0, "--counts"), Error);
  EXPECT_THROW(parse_counts("100..100", 0, "--counts"), Error);
  EXPECT_THROW(parse_counts("100..", 0, "--counts"), Error);
  EXPECT_THROW(parse_counts("1k,,2k", 0, "--counts"), Error);
}

TEST(Notation, ReadsBudgetsAsRatesOrTimes) {
  EXPECT_DOUBLE_EQ(parse_budget_ms("60hz", "--budget"), 1000.0 / 60.0);
  EXPECT_DOUBLE_EQ(parse_budget_ms("16.7ms", "--budget"), 16.7);
  for (const char* wrong : {"60", "0hz", "-1ms", "60fps", "hz", ""})
    EXPECT_THROW(parse_budget_ms(wrong, "--budget"), Error) << wrong;
}

TEST(Notation, ReadsDurationsAndShares) {
  EXPECT_DOUBLE_EQ(parse_duration_s("500ms", "--time"), 0.5);
  EXPECT_DOUBLE_EQ(parse_duration_s("30s", "--time"), 30);
  EXPECT_DOUBLE_EQ(parse_duration_s("2min", "--time"), 120);
  EXPECT_THROW(parse_duration_s("30", "--time"), Error);
  EXPECT_DOUBLE_EQ(parse_share("2%", "--min-saving"), 0.02);
  EXPECT_THROW(parse_share("0.02", "--min-saving"), Error);
  EXPECT_THROW(parse_share("101%", "--min-saving"), Error);
}

TEST(Notation, SuggestsTheNearestName) {
  EXPECT_EQ(nearest_name("colums", {"objects", "records", "columns"}), "columns");
  EXPECT_EQ(nearest_name("capasity", {"capacity", "curve"}), "capacity");
  EXPECT_EQ(nearest_name("zebra", {"objects", "records", "columns"}), "");
}

TEST(Notation, NumbersHaveThreeSignificantDigits) {
  EXPECT_EQ(three_digits(0.012345), "0.0123");
  EXPECT_EQ(three_digits(1.005), "1.00");
  EXPECT_EQ(three_digits(16.6667), "16.7");
  EXPECT_EQ(three_digits(99.96), "100");
  EXPECT_EQ(three_digits(12'345), "12,300");
  EXPECT_EQ(three_digits(-0.5), "-0.500");
  EXPECT_EQ(three_digits(0), "0");
  EXPECT_EQ(three_digits(1.0 / 0.0), "?");
}

TEST(Notation, CountsCanBeTypedBackIn) {
  EXPECT_EQ(count_text(870), "870");
  EXPECT_EQ(count_text(1000), "1k");
  EXPECT_EQ(count_text(12'345), "12.3k");
  EXPECT_EQ(count_text(999'900), "1M");
  EXPECT_EQ(count_text(1'044'000), "1.04M");
}

TEST(Notation, RatiosHaveTwoDecimalsAndMoreBelowATenth) {
  EXPECT_EQ(ratio_text(0.0722), "0.072x");
  EXPECT_EQ(ratio_text(0.000722), "0.00072x");
  EXPECT_EQ(ratio_text(0.961), "0.96x");
  EXPECT_EQ(ratio_text(1.444), "1.44x");
  EXPECT_EQ(ratio_text(12.34), "12.3x");
  EXPECT_EQ(ratio_text(0), "0.00x");
}

}  // namespace
}  // namespace mileage
