#include "measure/recordings/caps.h"

#include <cmath>

#include <gmock/gmock.h>

namespace mileage {
namespace {

using testing::HasSubstr;

/// Every third frame is a little longer, one in twenty far longer.
mileage::Run run_of(std::int64_t count, double ms, std::size_t frames = 100) {
  mileage::Run run;
  run.count = count;
  for (std::size_t i = 0; i < frames; ++i)
    run.samples_ns.push_back(std::llround(ms * 1e6) + static_cast<std::int64_t>(i % 3) * 20'000 +
                             (i % 20 == 19 ? 30'000'000 : 0));
  return run;
}

std::vector<CapVerdict> verdicts_of(const std::vector<mileage::Run>& runs) {
  std::vector<const mileage::Run*> all;
  for (const mileage::Run& run : runs) all.push_back(&run);
  return cap_verdicts(all);
}

TEST(Caps, PilesAtTheSamePeriodAtTwoCountsWithNothingBelowAreBounds) {
  for (const double hz : {60.0, 120.0, 144.0}) {
    const auto verdicts = verdicts_of({run_of(100, 1000 / hz), run_of(200, 1000 / hz), run_of(400, 3000 / hz)});
    EXPECT_THAT(verdicts[0].bound, HasSubstr("display at " + std::to_string(static_cast<int>(hz)) + " Hz"));
    EXPECT_THAT(verdicts[1].bound, HasSubstr("record uncapped"));
    EXPECT_EQ(verdicts[2].bound, "");
  }
}

TEST(Caps, APileAtTheOnlyCountIsAWarning) {
  const auto verdicts = verdicts_of({run_of(100, 1000.0 / 60), run_of(100, 1000.0 / 60)});
  EXPECT_EQ(verdicts[0].bound, "");
  EXPECT_THAT(verdicts[0].warning, HasSubstr("at one count alone"));
}

TEST(Caps, APileAtOneCountOfSeveralIsACostThatHappensToBeThere) {
  for (const CapVerdict& one : verdicts_of({run_of(100, 1000.0 / 60), run_of(110, 1000.0 / 60), run_of(400, 30)}))
    EXPECT_EQ(one.bound + one.warning, "");
}

TEST(Caps, WhereShorterFramesWereRecordedNothingHoldsThem) {
  const auto verdicts = verdicts_of({run_of(100, 5), run_of(200, 1000.0 / 60), run_of(210, 1000.0 / 60)});
  EXPECT_EQ(verdicts[1].bound + verdicts[1].warning, "");
}

TEST(Caps, UnevenAndFewFramesTellNothing) {
  mileage::Run uneven = run_of(100, 16.67);
  for (std::size_t i = 0; i < uneven.samples_ns.size(); ++i)
    uneven.samples_ns[i] += static_cast<std::int64_t>(i % 5) * 300'000;
  for (const CapVerdict& one : verdicts_of({uneven, uneven, run_of(100, 16.67, 5), run_of(200, 16.67, 5)}))
    EXPECT_EQ(one.bound + one.warning, "");
}

TEST(Caps, WholeMillisecondsAreABoundAtOneCountToo) {
  mileage::Run coarse;
  for (int i = 0; i < 40; ++i) coarse.samples_ns.push_back((i % 3 + 11) * 1'000'000);
  EXPECT_THAT(verdicts_of({coarse})[0].bound, HasSubstr("coarse clock"));
  coarse.samples_ns.assign(40, 11'250'000);
  EXPECT_EQ(verdicts_of({coarse})[0].bound, "");
}

}  // namespace
}  // namespace mileage
