#include "analysis/evidence/selection.h"

#include <gmock/gmock.h>

#include "analysis/analysed_study.h"
#include "analysis/analysis.h"
#include "support/made_studies.h"
#include "types/error.h"

namespace mileage {
namespace {

using testing::ElementsAre;

Series series_of(const std::string& variant, std::optional<double> batch = {}) {
  Series series{variant, {}};
  if (batch) series.knobs.set("batch", *batch);
  return series;
}

const std::vector<Series> all{series_of("objects"), series_of("jobs", 64), series_of("jobs", 1e6)};

std::vector<std::string> selected(const Selection& selection) {
  std::vector<std::string> names;
  for (const Series& one : select_series(all, selection))
    names.push_back(one.variant + (one.knobs.has("batch") ? " " + std::to_string(one.knobs.whole("batch")) : ""));
  return names;
}

TEST(Selection, HoldsTheVariantsAndValuesThatWereNamed) {
  EXPECT_THAT(selected({}), ElementsAre("objects", "jobs 64", "jobs 1000000"));
  EXPECT_THAT(selected({{"jobs"}, {}, ""}), ElementsAre("jobs 64", "jobs 1000000"));
  EXPECT_THAT(selected({{}, {{"batch", {"1M"}}}, ""}), ElementsAre("objects", "jobs 1000000"))
      << "objects has no such knob";
}

TEST(Selection, PutsTheBaselineFirst) {
  EXPECT_THAT(selected({{}, {}, "jobs"}), ElementsAre("jobs 64", "jobs 1000000", "objects"));
}

TEST(Selection, RefusesWhatNoSeriesHas) {
  EXPECT_THROW(selected({{"jbos"}, {}, ""}), Error);
  EXPECT_THROW(selected({{}, {{"batch", {"65"}}}, ""}), Error);
  EXPECT_THROW(selected({{}, {{"bach", {"64"}}}, ""}), Error);
  EXPECT_THROW(selected({{"objects"}, {}, "jobs"}), Error) << "a baseline that is not among those selected";
}

TEST(Selection, ChangesNoCost) {
  made::Setting setting;
  for (const char* name : {"objects", "columns", "jobs"})
    setting.truths.push_back({name, [](double n) { return n / 1e4; }});
  setting.counts = made::counts_between(100, 100'000, 8);
  setting.run_noise = setting.block_noise = 0.05;
  const Study study = made::study_of(setting);
  const AnalysedStudy whole(study);
  const AnalysedStudy part(study, {.selection = {{"jobs", "objects"}, {}, "jobs"}});
  const auto& curves = part.analysis().curves;
  ASSERT_EQ(curves.size(), 2U);
  EXPECT_EQ(part.analysis().evidence.series[0].label, "jobs");
  EXPECT_EQ(curves[0].log_ms_at(5000), whole.analysis().curves[2].log_ms_at(5000));
}

}  // namespace
}  // namespace mileage
