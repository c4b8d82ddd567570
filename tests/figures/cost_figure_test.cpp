#include "figures/figures.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::Not;

TEST(CostFigure, IsAPicture) {
  const std::string png = cost_figure(made::known_report(), FigureFormat::png);
  EXPECT_EQ(png.substr(0, 8), "\x89PNG\r\n\x1a\n");
  const auto number = [&](std::size_t at) {
    return (static_cast<unsigned char>(png[at + 2]) << 8) + static_cast<unsigned char>(png[at + 3]);
  };
  EXPECT_EQ(number(16), 1280);
  EXPECT_EQ(number(20), 930);
  EXPECT_THAT(png, HasSubstr("IEND"));
  const std::string svg = cost_figure(made::known_report(), FigureFormat::svg);
  EXPECT_THAT(svg, HasSubstr("</svg>"));
  EXPECT_THAT(svg, HasSubstr("columns"));
  EXPECT_THAT(svg, HasSubstr("break-even"));
}

TEST(CostFigure, HasAPanelOfWhatAFrameTakesForEachEntity) {
  const std::string script = cost_figure_script(made::known_report(), FigureFormat::png);
  EXPECT_THAT(script, HasSubstr("\"ns/lantern\""));
  EXPECT_THAT(script, HasSubstr("$curve1 using 1:($2*1000000/$1)"));
}

TEST(CostFigure, FillsNoStretchWhereNoChoiceIsTold) {
  Report report = made::known_report();
  EXPECT_THAT(cost_figure_script(report, FigureFormat::png), Not(HasSubstr("fs empty")));
  report.choices.groups[0].stretches[1].not_measured = report.choices.groups[0].members.front();
  EXPECT_THAT(cost_figure_script(report, FigureFormat::png), HasSubstr("fs empty border"));
}

TEST(CostFigure, PutsTheKeyWhereItHidesNoCurve) {
  Report report = made::known_report();
  EXPECT_THAT(cost_figure_script(report, FigureFormat::png), HasSubstr("set key bottom right"));
  const double last = report.curves[0].back().x;
  report.curves[0].push_back({last, report.curves[0].front().ms});
  EXPECT_THAT(cost_figure_script(report, FigureFormat::png), HasSubstr("set key above"));
}

TEST(CostFigure, NamesTheAxis) {
  Study study = made::known_study();
  for (mileage::Run& run : study.runs)
    run.counters["share"] = static_cast<double>(run.count) * 1e-6 * static_cast<double>(run.measured_frames());
  const std::string script = cost_figure_script(report_of(study, {}, "share"), FigureFormat::svg);
  EXPECT_THAT(script, HasSubstr("time per frame over share"));
  EXPECT_THAT(script, HasSubstr("\"0.1\" 0.1"));
}

}  // namespace
}  // namespace mileage
