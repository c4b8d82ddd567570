#include "measure/visit_request.h"

#include <stdexcept>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

using scripted::VirtualClock;
using testing::HasSubstr;

VisitRequest request_for(const char* variant, std::int64_t count = 100) {
  return {"night", {variant, {}}, count, 7, 20, 20};
}

Visit visit_with(scripted::FrameTimes times, std::int64_t reading_ns = 0, int least_frames = 20) {
  VirtualClock clock(reading_ns);
  const Catalogue catalogue = scripted::catalogue_of(clock, {{"objects", std::move(times)}});
  VisitRequest request = request_for("objects");
  request.least_frames = least_frames;
  return make_visit(request, catalogue, clock);
}

TEST(Visit, MeasuresEveryFrameInNanoseconds) {
  const Visit visit = visit_with([](std::int64_t, std::int64_t) { return 2'000'000; });
  EXPECT_EQ(visit.samples_ns, std::vector<std::int64_t>(20, 2'000'000));
  EXPECT_EQ(visit.frames_per_sample, 1);
  EXPECT_DOUBLE_EQ(visit.setup_ms, 5);
  EXPECT_EQ(visit.alive, 100);
  EXPECT_EQ(visit.seed, 7U);
}

TEST(Visit, GoesOnUntilBothFramesAndTimeAreEnough) {
  EXPECT_EQ(visit_with([](std::int64_t, std::int64_t) { return 100'000; }).samples_ns.size(), 200U);     // 20 ms
  EXPECT_EQ(visit_with([](std::int64_t, std::int64_t) { return 50'000'000; }).samples_ns.size(), 20U);  // 20 frames
  EXPECT_EQ(visit_with([](std::int64_t, std::int64_t) { return 50'000'000; }, 0, 3).samples_ns.size(), 3U);
}

TEST(Visit, KeepsWarmUpApart) {
  const Visit visit = visit_with([](std::int64_t, std::int64_t frame) { return frame == 0 ? 90'000'000 : 2'000'000; });
  EXPECT_EQ(visit.warmup_ns.front(), 90'000'000);
  EXPECT_EQ(*std::max_element(visit.samples_ns.begin(), visit.samples_ns.end()), 2'000'000);
}

TEST(Visit, TimesVeryShortFramesInRuns) {
  const Visit visit = visit_with([](std::int64_t, std::int64_t) { return 100; }, 30);
  const int frame_with_its_readings = 100 + 3 * 30;
  EXPECT_GE(visit.frames_per_sample * frame_with_its_readings, 100 * 30);
  EXPECT_LT((visit.frames_per_sample - 1) * frame_with_its_readings, 100 * 30);
  EXPECT_EQ(visit.samples_ns.size() <= most_samples, true);
  EXPECT_EQ(visit.outcome.quantities().front().value,
            static_cast<double>(visit.measured_frames() + static_cast<std::int64_t>(visit.warmup_ns.size())));
}

TEST(Visit, ReadsTheClockOncePerFrameBesidesItsPhases) {
  VirtualClock clock;
  const Catalogue catalogue = scripted::catalogue_of(clock, {{"objects", [](std::int64_t, std::int64_t) { return 1'000'000; }}});
  VisitRequest request = request_for("objects");
  make_visit(request, catalogue, clock);
  const std::int64_t few = clock.readings();
  request.least_frames = 1020;
  VirtualClock other;
  const Catalogue same = scripted::catalogue_of(other, {{"objects", [](std::int64_t, std::int64_t) { return 1'000'000; }}});
  make_visit(request, same, other);
  EXPECT_EQ(other.readings() - few, 1000 * (1 + 2));  // one for the sample, two for the phase
}

TEST(Visit, SumsPhasesAndCountersOverMeasuredFramesOnly) {
  const Visit visit = visit_with([](std::int64_t, std::int64_t) { return 2'000'000; });
  EXPECT_DOUBLE_EQ(visit.phases_ms.at("move"), 40);
  EXPECT_DOUBLE_EQ(visit.counters.at("updates"), 20 * 100);
}

TEST(Visit, AVariantThatThrowsFailsWithItsMessage) {
  const Visit visit = visit_with([](std::int64_t, std::int64_t frame) -> std::int64_t {
    if (frame == 10) throw std::runtime_error("the wick is wet");
    return 2'000'000;
  });
  EXPECT_EQ(visit.status, VisitStatus::failed);
  EXPECT_EQ(visit.failure, "the variant threw: the wick is wet");
  EXPECT_TRUE(visit_with([](std::int64_t, std::int64_t) -> std::int64_t { throw 3; }).failure.find("no exception") != std::string::npos);
}

TEST(Visit, AVariantThatTheProgramDoesNotHaveFails) {
  VirtualClock clock;
  const Catalogue catalogue = scripted::catalogue_of(clock, {});
  EXPECT_THAT(make_visit(request_for("objects"), catalogue, clock).failure, HasSubstr("no such variant; found \"night/objects\""));
}

}  // namespace
}  // namespace mileage
