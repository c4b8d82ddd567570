#include "figures/figures.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/analysed_study.h"
#include "types/error.h"
#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;

TEST(RatioFigure, HasABandForEachWayAndTheLineAtOne) {
  const AnalysedStudy analysed(made::known_study());
  const About around = about(analysed.analysis());
  const auto answer = against_answer(analysed.analysis(), {});
  const std::string script = ratio_figure_script(around, answer, FigureFormat::png);
  for (const char* part : {"filledcurves", "title \"columns\"", "1 with lines", "equal to objects"})
    EXPECT_THAT(script, HasSubstr(part));
  EXPECT_THAT(ratio_figure(around, answer, FigureFormat::svg), HasSubstr("</svg>"));
}

TEST(RatioFigure, IsRefusedWhereNothingStandsAgainstAnything) {
  const AnalysedStudy analysed(made::known_study());
  const About around = about(analysed.analysis());
  EXPECT_THROW(ratio_figure(around, {}, FigureFormat::png), Error);
  SeriesAgainst one{1, 0, {{50'000, 0.5, {}, 1}}};
  EXPECT_THROW(ratio_figure(around, {one}, FigureFormat::png), Error) << "a single place";
}

}  // namespace
}  // namespace mileage
