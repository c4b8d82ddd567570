#include "views/page.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::Not;

TEST(Page, StandsAlone) {
  const std::string page = report_page(made::known_report(), "<svg>figure</svg>", "<svg>ratios</svg>");
  EXPECT_THAT(page, HasSubstr("<h2>Held against the slowest</h2>\n<figure><svg>ratios</svg></figure>"));
  EXPECT_THAT(page, HasSubstr("<svg>figure</svg>"));
  for (const char* part :
       {"Capacity at 60 Hz", "Break-evens", "How cost grows", "Which variant to use where", "Machine and method"})
    EXPECT_THAT(page, HasSubstr(part));
  for (const char* outside : {"http://", "https://", "<script", "<link", "<img"})
    EXPECT_THAT(page, Not(HasSubstr(outside)));
}

TEST(Page, EscapesWhatComesFromAStudy) {
  Report report = made::known_report();
  report.about.head.scenario.note = "<script>alert(1)</script>";
  EXPECT_THAT(report_page(report, ""), Not(HasSubstr("<script>")));
}

}  // namespace
}  // namespace mileage
