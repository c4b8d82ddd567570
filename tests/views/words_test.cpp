#include "views/words.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

const Axis lantern_count{"count", true, "lanterns", "lantern"};
const Axis batch{"batch", false, "batch", "unit of batch"};

TEST(Words, IntervalsMayBeOpen) {
  EXPECT_EQ(interval_text({1000, 2000}, lantern_count), "(1k to 2k)");
  EXPECT_EQ(interval_text({std::nullopt, 2000}, lantern_count), "(below 2k)");
  EXPECT_EQ(interval_text({1000, std::nullopt}, lantern_count), "(above 1k)");
  EXPECT_EQ(interval_text({}, lantern_count), "(no interval)");
  EXPECT_EQ(interval_text({0.5, 0.75}, batch), "(0.5 to 0.75)");
}

TEST(Words, BudgetsAreTimesWithTheirRate) {
  EXPECT_EQ(budget_text(1000.0 / 60), "16.7 ms (60 Hz)");
  EXPECT_EQ(budget_text(7.7), "7.70 ms") << "not as a rate that nobody asked for";
  EXPECT_EQ(budget_text(1000.0 / 60 - 5, 5), "11.7 ms (60 Hz less 5.00 ms)");
  EXPECT_EQ(budget_text(5, 2), "5.00 ms (7.00 ms less 2.00 ms)");
  EXPECT_EQ(at_budget(1000.0 / 60), "At 60 Hz (16.7 ms)");
  EXPECT_EQ(at_budget(7.7), "Within 7.70 ms");
  EXPECT_EQ(at_budget(1000.0 / 60 - 9, 9), "At 60 Hz with 9.00 ms reserved (7.67 ms left)");
}

TEST(Words, TimesHaveTheUnitOfTheirSize) {
  EXPECT_EQ(short_time(4.85e-5), "48.5 ns");
  EXPECT_EQ(short_time(7.9e-4), "790 ns");
  EXPECT_EQ(short_time(0.012), "12.0 us");
  EXPECT_EQ(short_time(12.3), "12.3 ms");
}

TEST(Words, ListsEndWithAnd) {
  EXPECT_EQ(and_list({"a"}), "a");
  EXPECT_EQ(and_list({"a", "b", "c"}), "a, b and c");
  EXPECT_EQ(and_list({"a", "b", "c", "d"}, 2), "a, b and 2 more");
  EXPECT_EQ(listed({"a", "b", "c", "d"}, "; ", 3), "a; b; c; 1 more");
  EXPECT_EQ(listed({"a", "b"}, "; ", 2), "a; b");
}

TEST(Words, WidthCountsCharactersNotBytes) { EXPECT_EQ(width_of("\xc2\xb5s"), 2U); }

}  // namespace
}  // namespace mileage
