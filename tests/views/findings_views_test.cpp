// What the views make of findings with known answers.
#include <algorithm>

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "support/made_studies.h"
#include "views/cost_figure.h"
#include "views/findings_json.h"
#include "views/gnuplot.h"
#include "views/page.h"
#include "views/strip.h"
#include "views/tables.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::Not;

class FindingsViews : public testing::Test {
 protected:
  FindingsViews() {
    made::Setting setting;
    setting.truths = {{"objects", [](double n) { return 1e-4 * n; }}, {"columns", [](double n) { return 0.5 + 2e-5 * n; }}};
    setting.counts = made::counts_between(100, 400'000, 12);
    setting.visit_noise = 0.01;
    study_ = made::study_of(setting);
    findings_ = analyse(study_, {});
  }

  Study study_;
  Findings findings_;
};

TEST_F(FindingsViews, TheSentenceAnswersFirst) {
  EXPECT_THAT(capacity_sentence(findings_, findings_.budgets_ms[0]), HasSubstr("In 16.7 ms (60.0 frames a second), columns holds 8"));
  EXPECT_THAT(capacity_sentence(findings_, findings_.budgets_ms[0]), HasSubstr("objects only 16"));
  EXPECT_EQ(break_even_sentence(findings_), "1 break-even among 1 pair.");
}

TEST_F(FindingsViews, CapacityTableHasARowPerSeries) {
  const TextTable table = capacity_table(findings_, findings_.budgets_ms[0]);
  ASSERT_EQ(table.rows().size(), 2U);
  EXPECT_EQ(table.rows()[0][0], "objects");
  EXPECT_THAT(table.rows()[0][2], HasSubstr(" to "));
  EXPECT_EQ(table.rows()[1][3], "beyond the measured range");
}

TEST_F(FindingsViews, JsonHasTheEnvelopeAndTheFieldsThatToolsRelyOn) {
  const Json capacities = capacity_json({findings_});
  EXPECT_EQ(capacities["verb"], "capacity");
  EXPECT_EQ(capacities["format"], 1);
  EXPECT_EQ(capacities["axis"], "count");
  EXPECT_TRUE(capacities["warnings"].is_array());
  const Json& row = capacities["capacities"][0];
  for (const char* field : {"series", "variant", "knobs", "statistic", "budget_ms", "count", "low", "high", "extrapolated"})
    EXPECT_TRUE(row.contains(field)) << field;
  EXPECT_TRUE(row["count"].is_number_integer());
  EXPECT_LT(row["low"], row["count"]);
  EXPECT_GT(row["high"], row["count"]);

  const Json pairs = break_even_json({findings_});
  ASSERT_EQ(pairs["break_evens"].size(), 1U);
  EXPECT_EQ(pairs["break_evens"][0]["cheaper_below"], "objects");
  EXPECT_EQ(pairs["break_evens"][0]["cheaper_above"], "columns");
  EXPECT_TRUE(pairs["none"].empty());

  const Json curve = curve_json({findings_})["curves"][0];
  EXPECT_EQ(curve["law"], "linear");
  EXPECT_NEAR(curve["exponent"]["value"].get<double>(), 1, 0.02);
  EXPECT_EQ(curve["points"].size(), 12U);
  EXPECT_EQ(curve["points"][0]["visits"], 5);
}

TEST_F(FindingsViews, JsonOfNoCapacityIsNullWithAReason) {
  Questions questions;
  questions.budgets_ms = {0.001};
  const Json row = capacity_json({analyse(study_, questions)})["capacities"][0];
  EXPECT_TRUE(row["count"].is_null());
  EXPECT_TRUE(row["low"].is_null());
  EXPECT_THAT(row["reason"].get<std::string>(), HasSubstr("over the budget at once"));
}

TEST_F(FindingsViews, RowsOfSeveralStudiesNameTheirStudy) {
  EXPECT_FALSE(capacity_json({findings_})["capacities"][0].contains("study"));
  EXPECT_EQ(capacity_json({findings_, findings_})["capacities"][2]["study"], "made.study.jsonl");
}

TEST_F(FindingsViews, TheStripShowsWhatToUseAndTheCapacities) {
  const std::string strip = terminal_strip(findings_, findings_.groups[0], 60);
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

TEST_F(FindingsViews, TheFigureIsAPicture) {
  const std::string png = cost_figure(findings_, FigureFormat::png);
  EXPECT_EQ(png.substr(0, 8), "\x89PNG\r\n\x1a\n");
  const auto number = [&](std::size_t at) {
    return (static_cast<unsigned char>(png[at + 2]) << 8) + static_cast<unsigned char>(png[at + 3]);
  };
  EXPECT_EQ(number(16), 1280);
  EXPECT_EQ(number(20), 800);
  EXPECT_THAT(png, HasSubstr("IEND"));
  const std::string svg = cost_figure(findings_, FigureFormat::svg);
  EXPECT_THAT(svg, HasSubstr("</svg>"));
  EXPECT_THAT(svg, HasSubstr("columns"));
  EXPECT_THAT(svg, HasSubstr("break-even"));
}

TEST_F(FindingsViews, ThePageStandsAlone) {
  const std::string page = report_page(findings_, "<svg>figure</svg>");
  EXPECT_THAT(page, HasSubstr("<svg>figure</svg>"));
  for (const char* part : {"Capacity at 60 Hz", "Break-evens", "How cost grows", "Which variant to use where", "Machine and method"})
    EXPECT_THAT(page, HasSubstr(part));
  for (const char* outside : {"http://", "https://", "<script", "<link", "<img"}) EXPECT_THAT(page, Not(HasSubstr(outside)));
}

TEST_F(FindingsViews, ThePageEscapesWhatComesFromAStudy) {
  study_.head.scenario.note = "<script>alert(1)</script>";
  EXPECT_THAT(report_page(analyse(study_, {}), ""), Not(HasSubstr("<script>")));
}

TEST_F(FindingsViews, FailuresAreListedButNotWithoutEnd) {
  for (int i = 0; i < 20; ++i) findings_.failures.push_back({"objects", i < 10 ? 1000.0 : 2000.0, i, "ended by SIGSEGV"});
  for (int i = 0; i < 5; ++i) findings_.failures.push_back({"columns", 1000, i, "exit code " + std::to_string(i)});
  const auto lines = failure_lines(findings_, 3);
  ASSERT_EQ(lines.size(), 4U);
  EXPECT_EQ(lines[0], "objects at 1k, 2k (20 visits): ended by SIGSEGV");
  EXPECT_EQ(lines[1], "columns at 1k: exit code 0");
  EXPECT_EQ(lines[3], "... and 3 more of other kinds");
}

TEST(Gnuplot, TextsCannotBreakOut) {
  EXPECT_EQ(gnuplot_text("say \"hi\" `ls` \\"), R"("say \"hi\" \`ls\` \\")");
}

/// Two ways to draw on a device; the processor is the larger part of a frame below 10,000 lanterns, the device above.
Study drawn_study(bool software) {
  made::Setting setting;
  Knobs knobs;
  knobs.set("kinds", 4.0);
  setting.truths = {{"each", [](double n) { return 1e-3 * n; }, knobs}, {"instanced", [](double n) { return 1 + 2e-4 * n; }, knobs}};
  setting.counts = made::counts_between(200, 40'000, 10);
  setting.visit_noise = 0.01;
  Study study = made::study_of(setting);
  study.head.scenario.knobs = {Knob::integer("kinds", "of lanterns", 4, 1, 9).dividing()};
  for (VariantFacts& facts : study.head.scenario.variants) {
    facts.device = "a card, 1.0";
    facts.software_device = software;
  }
  for (Visit& visit : study.visits) {
    double wall_ms = 0;
    for (const std::int64_t sample : visit.samples_ns) wall_ms += 1e-6 * static_cast<double>(sample);
    visit.phases_ms[wait_phase] = visit.count < 10'000 ? 0.2 * wall_ms : 0.7 * wall_ms;
    visit.counters["calls"] = 8.0 * static_cast<double>(visit.measured_frames());
  }
  return study;
}

TEST(DrawnViews, NameWhatRunsOutFirstPerCount) {
  const TextTable table = device_table(analyse(drawn_study(false), {}));
  ASSERT_EQ(table.rows().size(), 4U);  // two stretches for each variant
  EXPECT_EQ(table.rows()[0].front(), "each");
  EXPECT_EQ(table.rows()[0].back(), "the processor");
  EXPECT_EQ(table.rows()[1].back(), "the device");
  EXPECT_EQ(table.rows()[1][5], "waiting for it");
  EXPECT_EQ(capacity_json({analyse(drawn_study(false), {})})["devices"].back()["runs_out_first"], "device");
}

TEST(DrawnViews, ASoftwareDeviceRunsOutOfTheSharedCores) {
  const TextTable table = device_table(analyse(drawn_study(true), {}));
  ASSERT_EQ(table.rows().size(), 2U);
  EXPECT_EQ(table.rows()[0].back(), "the cores, which both share");
}

TEST(DrawnViews, BreakEvensAreGivenForEachOfTheKindsToo) {
  const Findings findings = analyse(drawn_study(false), {});
  const TextTable table = break_even_table(findings);
  ASSERT_EQ(table.rows().size(), 1U);
  EXPECT_EQ(table.headings().back(), "that is");
  EXPECT_THAT(table.rows()[0].back(), testing::MatchesRegex("3[01][0-9] each of 4 kinds"));
  const Json row = break_even_json({findings})["break_evens"][0];
  EXPECT_NEAR(row["each"]["count"].get<double>(), row["count"].get<double>() / 4, 1);
}

TEST(DrawnViews, CountersAreGivenPerSecondToo) {
  const Findings findings = analyse(drawn_study(false), {});
  const auto& cell = findings.series[0].details.front();  // 200 lanterns: 0.2 ms, 8 calls a frame
  EXPECT_NEAR(cell.per_second(cell.counters.at("calls")), 40'000, 2'000);
  EXPECT_NEAR(curve_json({findings})["curves"][0]["parts"][0]["counters_per_second"]["calls"].get<double>(), 40'000, 2'000);
}

}  // namespace
}  // namespace mileage
