#include "figures/page.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::Not;

TEST(Page, StandsAlone) {
  PageFigures figures;
  figures.costs = "<svg>figure</svg>";
  figures.ratios = "<svg>ratios</svg>";
  figures.map = "<?xml version=\"1.0\"?><svg>map</svg>";
  figures.frames = "<svg>frames</svg>";
  const std::string page = report_page(made::known_report(), figures);
  EXPECT_THAT(page, HasSubstr("<figure><svg>map</svg></figure>"));
  EXPECT_THAT(page, HasSubstr("<figure><svg>frames</svg></figure>"));
  EXPECT_THAT(page, HasSubstr("<figure><svg>ratios</svg></figure>"));
  EXPECT_THAT(page, HasSubstr("<svg>figure</svg>"));
  for (const char* part : {"<h2>Capacity", "When a switch pays off", "Growth", "What to use where", "Cost of a frame",
                           "Frame by frame", "Machine and method"})
    EXPECT_THAT(page, HasSubstr(part));
  for (const char* outside : {"http://", "https://", "<script", "<link", "<img"})
    EXPECT_THAT(page, Not(HasSubstr(outside)));
}

TEST(Page, ShowsAnotherSystemOfTheSameFrameWhereOneWasNamed) {
  Report report = made::known_report();
  EXPECT_THAT(report_page(report, page_figures(report)), Not(HasSubstr("<h2>Next to")));
  const AnalysedStudy both(made::known_study());
  report.next_to_rest = shared_frame_answer(both.analysis(), both.analysis(), {"columns", 20'000}, {});
  const PageFigures figures = page_figures(report);
  EXPECT_THAT(figures.next_to_rest, HasSubstr("that fit next to them"));
  const std::string page = report_page(report, figures);
  for (const char* part : {"<h2>Next to made</h2>", "Next to 20k", "that fit next to them"})
    EXPECT_THAT(page, HasSubstr(part));
}

TEST(Page, EscapesWhatComesFromAStudy) {
  Report report = made::known_report();
  report.about.head.scenario.note = "<script>alert(1)</script>";
  EXPECT_THAT(report_page(report, {}), Not(HasSubstr("<script>")));
}

TEST(Page, DrawsWhatAStudyHas) {
  const PageFigures figures = page_figures(made::known_report());
  for (const std::string* drawn : {&figures.costs, &figures.ratios, &figures.frames})
    EXPECT_THAT(*drawn, HasSubstr("<svg"));
  for (const std::string* none : {&figures.map, &figures.work, &figures.tuning, &figures.ladder}) EXPECT_EQ(*none, "");
}

TEST(Page, ShowsTheBestValueAndTheMapOfAStudyOverKnobs) {
  made::Setting setting;
  for (const double batch : {10.0, 100.0, 1000.0})
    for (const double scatter : {0.0, 1.0}) {
      Knobs knobs;
      knobs.set("batch", batch);
      knobs.set("scatter", scatter);
      const double each = 1e-4 * (1 + scatter) * (batch == 100 ? 1 : 1.4);
      setting.truths.push_back({"jobs", [each](double n) { return each * n; }, knobs});
    }
  setting.counts = made::counts_between(1000, 100'000, 5);
  setting.run_noise = 0.01;
  Study study = made::study_of(setting);
  study.head.scenario.knobs = {Knob::real("scatter", "", {.default_value = 1, .min = 0, .max = 1})};
  study.head.scenario.variants.front().knobs = {
      Knob::integer("batch", "", {.default_value = 10, .min = 1, .max = 9999})};
  study.head.plan.tune = {"batch"};
  const Report report = report_of(study);
  const PageFigures figures = page_figures(report);
  EXPECT_THAT(figures.map, HasSubstr("<svg"));
  EXPECT_THAT(figures.tuning, HasSubstr("<svg"));
  const std::string page = report_page(report, figures);
  EXPECT_THAT(page, HasSubstr("<h2>Best value</h2>"));
  EXPECT_THAT(page, HasSubstr("over lanterns and scatter"));
}

}  // namespace
}  // namespace mileage
