#include "views/words.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Words, NumbersHaveThreeSignificantDigits) {
  EXPECT_EQ(three_digits(0.012345), "0.0123");
  EXPECT_EQ(three_digits(1.005), "1.00");
  EXPECT_EQ(three_digits(16.6667), "16.7");
  EXPECT_EQ(three_digits(99.96), "100");
  EXPECT_EQ(three_digits(12'345), "12,300");
  EXPECT_EQ(three_digits(-0.5), "-0.500");
  EXPECT_EQ(three_digits(0), "0");
  EXPECT_EQ(three_digits(1.0 / 0.0), "?");
}

TEST(Words, CountsCanBeTypedBackIn) {
  EXPECT_EQ(count_text(870), "870");
  EXPECT_EQ(count_text(1000), "1k");
  EXPECT_EQ(count_text(12'345), "12.3k");
  EXPECT_EQ(count_text(999'900), "1M");
  EXPECT_EQ(count_text(1'044'000), "1.04M");
}

TEST(Words, IntervalsMayBeOpen) {
  EXPECT_EQ(interval_text({1000, 2000}, "count"), "(1k to 2k)");
  EXPECT_EQ(interval_text({std::nullopt, 2000}, "count"), "(below 2k)");
  EXPECT_EQ(interval_text({1000, std::nullopt}, "count"), "(above 1k)");
  EXPECT_EQ(interval_text({}, "count"), "(no interval)");
  EXPECT_EQ(interval_text({0.5, 0.75}, "batch"), "(0.500 to 0.750)");
}

TEST(Words, BudgetsAreTimesWithTheirRateBeside) {
  EXPECT_EQ(budget_text(1000.0 / 60), "16.7 ms (60.0 frames a second)");
  EXPECT_EQ(rate_text(1000.0 / 60), "at 60 Hz");
  EXPECT_EQ(rate_text(7.7), "within 7.70 ms");
}

TEST(Words, LawsAreTold) {
  EXPECT_EQ(law_text({LawKind::linear, 0.012, {6.12e-5}, 0, {}}, "lantern"), "grows in proportion: 0.0120 ms fixed + 61.2 ns a lantern");
  EXPECT_EQ(law_text({LawKind::constant, 2, {}, 0, {}}, "lantern"), "constant: 2.00 ms at any count");
  EXPECT_EQ(law_text({LawKind::n_log_n, 0, {6.12e-5}, 0, {}}, "lantern"), "N log N: no fixed cost, 61.2 ns a lantern and doubling");
  EXPECT_EQ(law_text({LawKind::quadratic, 0.5, {1e-7}, 0, {}}, "lantern"), "quadratic: 0.500 ms fixed + 0.100 ms at 1k");
  EXPECT_EQ(law_text({LawKind::one_knee, 0.5, {2e-5, 6.2e-5}, 0, {41'000}}, "lantern"),
            "linear, 0.500 ms fixed + 20.0 ns a lantern, 3.10 times steeper above 41k");
  EXPECT_EQ(laws_text({{LawKind::linear, 0, {6.12e-5}, 0, {}}, {LawKind::n_log_n, 0, {6e-6}, 0, {}}}, "lantern"),
            "cannot tell: grows in proportion: no fixed cost, 61.2 ns a lantern; or N log N: no fixed cost, 6.00 ns a lantern and doubling");
  EXPECT_EQ(law_text({LawKind::power, 0, {1e-6}, 2, {}}, "lantern"), "grows with the power 2.00: no fixed cost, 1.00 ms at 1k");
  Scenario scenario;
  EXPECT_EQ(one_entity(scenario), "entity");
  scenario.entity = "light";
  EXPECT_EQ(one_entity(scenario), "light") << "as it says itself";
}

}  // namespace
}  // namespace mileage
