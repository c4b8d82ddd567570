#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

const Axis lanterns{"count", true, "lanterns", "lantern"};
const Axis work{"work", false, "work", "unit of work"};

Answer growth_view_of(const Report& report) { return growth_view(report.about, report.growth); }

TEST(GrowthView, TheVerdictNamesHowEachGrows) {
  Report report = made::known_report();
  EXPECT_EQ(growth_view_of(report).verdict.at(0), "objects and columns are linear in lanterns.");
  SeriesGrowth& objects = report.growth.series.front();
  objects.names = {{{LawKind::power, 0, {1e-6}, 0.964, {}}, {0.1}}};
  EXPECT_EQ(growth_view_of(report).verdict.at(0),
            "objects is close to linear (N^0.96); columns is linear in lanterns.");
  objects.names.clear();
  objects.not_named = NotNamed::like_none;
  EXPECT_THAT(growth_view_of(report).verdict.at(0), testing::StartsWith("objects is unlike any simple law; "));
}

TEST(GrowthView, RowsHaveLawExponentAndPoints) {
  const Json json = made::json_of(growth_view_of(made::known_report()));
  const Json curve = json["curves"][0];
  EXPECT_EQ(curve["law"], "linear");
  EXPECT_NEAR(curve["exponent"].get<double>(), 1, 0.02);
  EXPECT_NEAR(curve["exponent_at_min"].get<double>(), 1, 0.05);
  EXPECT_EQ(json["points"].size(), 24U);
  EXPECT_EQ(json["points"][0]["runs"], 5);
  EXPECT_TRUE(json["tested_laws"][0]["deviation"].is_number());
  EXPECT_FALSE(json["tested_laws"][0]["fits"].get<bool>()) << "a line is not constant";
}

TEST(GrowthView, KneesKeepTheirPlaceOnAnyAxis) {
  EXPECT_EQ(knee_text(41'234, 1, 3.1, lanterns), "3.10x the slope above 41.2k");
  EXPECT_EQ(knee_text(2.25, 2, 1, work), "0.50x the slope above 2.25");
  EXPECT_EQ(knee_text(0.5, 0, 1, work), "flat below 0.5");
}

/// Batches of 16, 256 and 4,096 at 10,000 lanterns.
Report over_batch(double small_ms, double middle_ms, double large_ms) {
  made::Setting setting;
  setting.counts = {10'000};
  setting.blocks = 8;
  setting.run_noise = 0.01;
  for (const auto& [batch, ms] : {std::pair{16.0, small_ms}, {256.0, middle_ms}, {4096.0, large_ms}}) {
    Knobs knobs;
    knobs.set("batch", batch);
    setting.truths.push_back({"jobs", [ms = ms](double) { return ms; }, knobs});
  }
  Study study = made::study_of(setting);
  study.head.scenario.variants.resize(1);
  study.head.scenario.variants[0].knobs = {
      Knob::integer("batch", "lanterns a job", {.default_value = 4096, .min = 1, .max = 1'000'000})};
  return report_of(study, {}, "batch");
}

TEST(GrowthView, OverAChoiceEveryValueHasARowAndTheBestIsNamed) {
  const std::string text = answer_text(growth_view_of(over_batch(4, 2, 2.5)));
  EXPECT_THAT(text, testing::ContainsRegex("batch 256 is fastest .(2.0|1.9)"));
  EXPECT_THAT(text, testing::ContainsRegex(" 16 +(4.0|3.9).* 2[.0-9]+x  slower"));
  EXPECT_THAT(text, testing::ContainsRegex("256  .* 1[.]00x  best"));
  EXPECT_THAT(text, testing::ContainsRegex("4096  .*  slower"));
}

TEST(GrowthView, OverAChoiceThatDoesNothingNoDifferenceIsSignificant) {
  const std::string text = answer_text(growth_view_of(over_batch(2, 2, 2)));
  EXPECT_THAT(text, testing::HasSubstr(", but no difference between values is significant."));
  EXPECT_THAT(text, testing::HasSubstr("inconclusive"));
}

TEST(GrowthView, LawsAreFormulas) {
  const auto worded = [](const Law& law) { return law_text({law, {}}, lanterns); };
  EXPECT_EQ(worded({LawKind::linear, 0.012, {6.12e-5}, 0, {}}), "12.0 us + 61.2 ns x N");
  EXPECT_EQ(worded({LawKind::constant, 2, {}, 0, {}}), "2.00 ms");
  EXPECT_EQ(worded({LawKind::n_log_n, 0, {6.12e-5}, 0, {}}), "61.2 ns x N log2 N");
  EXPECT_EQ(worded({LawKind::quadratic, 0.5, {1e-7}, 0, {}}), "500 us + 0.100 ns x N^2");
  EXPECT_EQ(worded({LawKind::linear_and_quadratic, 0, {1e-4, 1e-7}, 0, {}}), "100 ns x N + 0.100 ns x N^2");
  EXPECT_EQ(worded({LawKind::one_knee, 0.5, {2e-5, 6.2e-5}, 0, {41'000}}),
            "500 us + 20.0 ns x N, 3.10x the slope above 41k");
  EXPECT_EQ(worded({LawKind::power, 0, {1e-6}, 2, {}}), "1.00 ns x N^2.00");
}

TEST(GrowthView, TheDeviationIsAlwaysStated) {
  Report report = made::known_report();
  SeriesGrowth& growth = report.growth.series.front();
  growth.largest_deviation = 0.0812;
  EXPECT_THAT(answer_text(growth_view_of(report)), testing::HasSubstr("8.1 %"));
  const Json row = made::json_of(growth_view_of(report))["curves"][0];
  EXPECT_NEAR(row["deviation"].get<double>(), 0.0812, 1e-9);
  growth.names.clear();
  growth.not_named = NotNamed::too_uncertain;
  EXPECT_THAT(answer_text(growth_view_of(report)), testing::HasSubstr("not named: known no better than 10 %"));
}

TEST(GrowthView, PointsAreCsvWithARowPerCount) {
  const Report& report = made::known_report();
  const std::string csv = points_table(report.about, report.growth).csv();
  EXPECT_EQ(std::count(csv.begin(), csv.end(), '\n'), 25);
  EXPECT_EQ(csv.substr(0, csv.find('\n')), "series,count,ms,ms_low,ms_high,each,runs");
}

}  // namespace
}  // namespace mileage
