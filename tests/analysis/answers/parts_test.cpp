#include "analysis/answers/parts.h"

#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

Study drawn(bool with_device) {
  made::Setting setting = made::setting_of({{"each", made::steep}});
  Study study = made::study_of(setting);
  if (with_device) study.head.scenario.variants.front().device = "a card";
  for (mileage::Run& run : study.runs) run.phases_ms[wait_phase] = 1;
  return study;
}

TEST(Parts, AreOnePerSeriesWithADeviceShareWhereThereIsADevice) {
  for (const bool with_device : {false, true}) {
    const PartsAnswer parts = parts_answer(AnalysedStudy(drawn(with_device)).analysis());
    ASSERT_EQ(parts.series.size(), 1U);
    ASSERT_EQ(parts.series[0].cells.size(), 12U);
    ASSERT_EQ(parts.series[0].devices.size(), 12U);
    for (const auto& share : parts.series[0].devices) EXPECT_EQ(share.has_value(), with_device);
  }
}

}  // namespace
}  // namespace mileage
