#include "figures/figures.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::Not;

Report at_one_count(double objects_ms, double columns_ms) {
  made::Setting setting;
  setting.truths = {{"objects", [=](double) { return objects_ms; }}, {"columns", [=](double) { return columns_ms; }}};
  setting.counts = {50'000};
  setting.run_noise = 0.01;
  return report_of(made::study_of(setting));
}

TEST(BarsFigure, IsTheFigureOfAStudyAtOneCount) {
  const Report report = at_one_count(20, 10);
  EXPECT_EQ(cost_figure_script(report, FigureFormat::png), bars_figure_script(report, FigureFormat::png));
  const std::string svg = cost_figure(report, FigureFormat::svg);
  for (const char* part : {"</svg>", "objects", "columns", "at 50k lanterns"}) EXPECT_THAT(svg, HasSubstr(part));
}

TEST(BarsFigure, HasABarWithItsIntervalForEachWay) {
  const std::string script = bars_figure_script(at_one_count(20, 10), FigureFormat::png);
  for (const char* part : {"set object 1 rectangle from 0,", "set object 2 rectangle from 0,", "heads size"})
    EXPECT_THAT(script, HasSubstr(part));
  EXPECT_THAT(script, testing::ContainsRegex("\"(10.|9.)[0-9.]* [(].* to .*[)] ms\""));
}

TEST(BarsFigure, DrawsTheBudgetWhereItIsNear) {
  EXPECT_THAT(bars_figure_script(at_one_count(20, 10), FigureFormat::png), HasSubstr("\"budget 16.7 ms\""));
  const std::string far = bars_figure_script(at_one_count(2, 1), FigureFormat::png);
  EXPECT_THAT(far, Not(HasSubstr("\"budget 16.7 ms\"")));
  EXPECT_THAT(far, HasSubstr("the budget of 16.7 ms is far to the right"));
}

}  // namespace
}  // namespace mileage
