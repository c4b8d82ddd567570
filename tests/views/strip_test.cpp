#include "views/strip.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

TEST(Strip, ShowsWhatToUseAndTheCapacities) {
  const Report& report = made::known_report();
  const std::string strip = terminal_strip(report.about, report.choices.groups[0], report.capacities, 60);
  EXPECT_THAT(strip, HasSubstr("| objects /"));
  EXPECT_THAT(strip, HasSubstr("| columns ="));
  EXPECT_THAT(strip, HasSubstr("^ objects 16"));
  EXPECT_THAT(strip, HasSubstr("100"));
  const std::string bar = strip.substr(0, strip.find('\n'));
  EXPECT_EQ(bar.size(), 2 + 60 + 1U) << "as wide as asked for, and its end";
  EXPECT_EQ(bar.back(), '|');
  const std::size_t rest = strip.find('\n') + 1;
  EXPECT_THAT(strip.substr(rest, strip.find('\n', rest) - rest), testing::EndsWith(" 400k"))
      << "the axis ends where the counts do";
}

TEST(Strip, WhereWhatIsInUseBelowWasNotMeasuredItIsInconclusive) {
  const Report& report = made::known_report();
  GroupChoice group = report.choices.groups[0];
  ChosenStretch& columns = group.stretches.back();
  ASSERT_EQ(group.label(columns.use), "columns");
  columns.fits = true;
  columns.not_measured = group.members.front();
  EXPECT_THAT(terminal_strip(report.about, group, report.capacities, 60), HasSubstr("| columns -"));
  columns.fits = false;
  EXPECT_THAT(terminal_strip(report.about, group, report.capacities, 60), HasSubstr("| columns ."));
}

}  // namespace
}  // namespace mileage
