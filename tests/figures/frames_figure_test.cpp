#include "figures/figures.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "types/error.h"
#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::Not;

FramesAnswer drawn_frames() {
  CellFrames cell;
  cell.frames = 100;
  cell.x = 1000;
  cell.beginning = {{0, 40, 44}, {1, 25, 30}, {2, 10, 11}};
  cell.sorted_ms = {9, 10, 10, 31};
  return {1000.0 / 60, {cell}};
}

TEST(FramesFigure, HasBeginningsAndAllFramesWithTheBudgetAcross) {
  const About& around = made::known_report().about;
  const std::string script = frames_figure_script(around, drawn_frames(), FigureFormat::png);
  for (const char* part : {"0 40 44", "laid over each other", "sorted by time", "budget 16.7 ms"})
    EXPECT_THAT(script, HasSubstr(part));
  EXPECT_THAT(frames_figure(around, drawn_frames(), FigureFormat::svg), HasSubstr("</svg>"));
}

TEST(FramesFigure, ABudgetFarAboveAllFramesIsNotDrawn) {
  FramesAnswer answer = drawn_frames();
  answer.budget_ms = 10'000;
  EXPECT_THAT(frames_figure_script(made::known_report().about, answer, FigureFormat::png), Not(HasSubstr("budget")));
}

TEST(FramesFigure, WorkersAreSortedBarsWithTheLargestBatch) {
  FramesAnswer answer = drawn_frames();
  EXPECT_THROW(work_figure(made::known_report().about, answer, FigureFormat::svg), Error) << "nobody noted work";
  answer.cells[0].work = WorkShare{{0.8, 0.4}, 120, 12, 0.3, 0.1, 0.1, 0.25, 0.2, {}};
  const std::string script = work_figure_script(made::known_report().about, answer, FigureFormat::png);
  EXPECT_THAT(script, HasSubstr("to 0.8,"));
  EXPECT_THAT(script, HasSubstr("from 0.3,"));
  EXPECT_THAT(work_figure(made::known_report().about, answer, FigureFormat::svg), HasSubstr("</svg>"));
}

TEST(FramesFigure, IsRefusedWhereNoFrameStandsAlone) {
  EXPECT_THROW(frames_figure(made::known_report().about, {16.7, {CellFrames{}}}, FigureFormat::png), Error);
}

}  // namespace
}  // namespace mileage
