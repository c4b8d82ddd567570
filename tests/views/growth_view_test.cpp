#include "views/growth_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "views/known_report.h"

namespace mileage {
namespace {

const Axis lanterns{"count", true, "lanterns", "lantern"};
const Axis work{"work", false, "work", "unit of work"};

TEST(GrowthView, RowsHaveLawExponentAndPoints) {
  const Report& report = made::known_report();
  Json json;
  add_growth_json(json, report.about, report.growth);
  const Json curve = json["curves"][0];
  EXPECT_EQ(curve["law"], "linear");
  EXPECT_NEAR(curve["exponent"]["value"].get<double>(), 1, 0.02);
  EXPECT_NEAR(curve["exponent_at_max_count"].get<double>(), 1, 0.02);
  EXPECT_EQ(curve["points"].size(), 12U);
  EXPECT_EQ(curve["points"][0]["visits"], 5);
  const Json tested = curve["laws"][0];
  EXPECT_TRUE(tested["p_value"].is_number());
  EXPECT_TRUE(tested["left_out_error"].is_number());
}

TEST(GrowthView, KneesKeepTheirPlaceOnAnyAxis) {
  EXPECT_EQ(knee_text(41'234, 1, 3.1, lanterns), "3.10 times steeper above 41.2k");
  EXPECT_EQ(knee_text(2.25, 1, 3.1, work), "3.10 times steeper above 2.25");
  EXPECT_EQ(knee_text(2.25, 2, 1, work), "0.500 of the slope above 2.25");
  EXPECT_EQ(knee_text(0.5, 0, 1, work), "flat below 0.5");
}

/// Jobs at 10,000 lanterns with batches of 16, 256 and 4,096.
Report over_batch(double small_ms, double middle_ms, double large_ms) {
  made::Setting setting;
  setting.counts = {10'000};
  setting.blocks = 8;
  setting.visit_noise = 0.01;
  for (const auto& [batch, ms] : {std::pair{16.0, small_ms}, {256.0, middle_ms}, {4096.0, large_ms}}) {
    Knobs knobs;
    knobs.set("batch", batch);
    setting.truths.push_back({"jobs", [ms = ms](double) { return ms; }, knobs});
  }
  Study study = made::study_of(setting);
  study.head.scenario.variants.resize(1);
  study.head.scenario.variants[0].knobs = {Knob::integer("batch", "lanterns a job", 4096, 1, 1'000'000)};
  return report_of(study, {}, "batch");
}

TEST(GrowthView, OverAChoiceEveryValueHasARowAndTheBestIsNamed) {
  const Report report = over_batch(4, 2, 2.5);
  const std::string text = growth_text(report.about, report.growth);
  EXPECT_THAT(text, testing::ContainsRegex("of batch 256 takes least, (2.0|1.9)"));
  EXPECT_THAT(text, testing::ContainsRegex(" 16  (4.0|3.9).* 2[.0-9]+  worse"));
  EXPECT_THAT(text, testing::ContainsRegex("256  .* 1[.]00  best"));
  EXPECT_THAT(text, testing::ContainsRegex("4096  .*  worse"));
  EXPECT_THAT(text, testing::Not(testing::HasSubstr("ns a")));
}

TEST(GrowthView, OverAChoiceThatDoesNothingNoneCanBeTold) {
  const Report report = over_batch(2, 2, 2);
  const std::string text = growth_text(report.about, report.growth);
  EXPECT_THAT(text, testing::HasSubstr("; none can be told from another"));
  EXPECT_THAT(text, testing::HasSubstr("cannot be told from the best"));
}

TEST(GrowthView, LawsAreWorded) {
  const auto worded = [](const Law& law, std::vector<double> at_1k = {}) {
    return law_text({law, std::move(at_1k)}, lanterns);
  };
  EXPECT_EQ(worded({LawKind::linear, 0.012, {6.12e-5}, 0, {}}),
            "grows in proportion: 0.0120 ms fixed + 61.2 ns a lantern");
  EXPECT_EQ(worded({LawKind::constant, 2, {}, 0, {}}), "constant: 2.00 ms at any count");
  EXPECT_EQ(worded({LawKind::n_log_n, 0, {6.12e-5}, 0, {}}), "N log N: no fixed cost, 61.2 ns a lantern and doubling");
  EXPECT_EQ(worded({LawKind::quadratic, 0.5, {1e-7}, 0, {}}, {0.1}), "quadratic: 0.500 ms fixed + 0.100 ms at 1k");
  EXPECT_EQ(worded({LawKind::one_knee, 0.5, {2e-5, 6.2e-5}, 0, {41'000}}),
            "linear, 0.500 ms fixed + 20.0 ns a lantern, 3.10 times steeper above 41k");
  EXPECT_EQ(worded({LawKind::one_knee, 0, {8.27e-5, 9.1e-5}, 0, {547}}),
            "grows nearly in proportion: no fixed cost, 82.7 ns a lantern, 1.10 times steeper above 547");
  EXPECT_EQ(worded({LawKind::two_knees, 0, {8e-5, 9e-5, 1.01e-4}, 0, {547, 5000}}),
            "linear, no fixed cost, 80.0 ns a lantern, 1.13 times steeper above 547, 1.12 times steeper above 5k");
  EXPECT_EQ(worded({LawKind::power, 0, {1e-6}, 2, {}}, {1.0}),
            "grows with the power 2.00: no fixed cost, 1.00 ms at 1k");
  EXPECT_EQ(worded({LawKind::power, 0, {1e-6}, 1.02, {}}, {0.1}),
            "grows nearly in proportion, with the power 1.02: no fixed cost, 0.100 ms at 1k");
  EXPECT_EQ(
      laws_text({{{LawKind::linear, 0, {6.12e-5}, 0, {}}, {}}, {{LawKind::n_log_n, 0, {6e-6}, 0, {}}, {}}}, lanterns),
      "cannot tell: grows in proportion: no fixed cost, 61.2 ns a lantern; or N log N: no fixed cost, 6.00 ns a "
      "lantern and doubling");
}

TEST(GrowthView, TheDeviationIsAlwaysStated) {
  Report report = made::known_report();
  EXPECT_THAT(law_table(report.about, report.growth).text(), testing::ContainsRegex("within [0-9.]+ % of every point"));
  SeriesGrowth& growth = report.growth.series.front();
  growth.named_by = NamedBy::near;
  growth.largest_deviation = 0.0812;
  growth.exponent_of_points = 2.01;
  EXPECT_THAT(law_table(report.about, report.growth).text(),
              testing::ContainsRegex("about: grows in proportion.*; within 8.1 % of every point; at the large end: "
                                     "exponent 2.01"));
  Json json;
  add_growth_json(json, report.about, report.growth);
  EXPECT_EQ(json["curves"][0]["named_by"], "within 10 %");
  EXPECT_NEAR(json["curves"][0]["largest_deviation"].get<double>(), 0.0812, 1e-9);
  growth.law.reset();
  EXPECT_THAT(law_table(report.about, report.growth).text(), testing::HasSubstr("no law comes within 20 %"));
}

TEST(GrowthView, SummariesAreCsvWithARowPerCell) {
  const Report& report = made::known_report();
  const std::string csv = summaries_csv(report.about, report.growth);
  EXPECT_EQ(std::count(csv.begin(), csv.end(), '\n'), 25);
  EXPECT_EQ(csv.substr(0, csv.find('\n')), "series,count,ms,low,high,visits,ns_each");
}

}  // namespace
}  // namespace mileage
