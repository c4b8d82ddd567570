#include "device/draw_variants.h"

#include <map>

#include <fmt/format.h>
#include <gmock/gmock.h>

#include "device/draw_stage.h"
#include "device/drawn_variant.h"
#include "support/device_here.h"
#include "support/unmarked.h"
#include "types/error.h"

namespace mileage::device {
namespace {

using testing::HasSubstr;
using Make = std::unique_ptr<Variant> (*)(const SetUp&);

SetUp set_up_with(std::int64_t count, double kinds = 4, double parts = 1) {
  mileage::SetUp set_up{count, 3, 1.0 / 60, {}};
  const std::map<std::string, double> knobs{{"kinds", kinds}, {"parts", parts}, {"facets", 24},  {"size", 1},
                                            {"view", 1},      {"single", 0},    {"regroup", 0},  {"in-flight", 1},
                                            {"finest", 20},   {"per-call", 7},  {"payload", 32}, {"min-height", 12}};
  for (const auto& [name, value] : knobs) set_up.knobs.set(name, value);
  set_up.knobs.set("pixels", std::string("1280x720"));
  return set_up;
}

Picture picture_of(Make make, const SetUp& set_up) {
  const auto variant = make(set_up);
  testing_support::run_frames(*variant, 3);
  return variant->picture();
}

Outcome outcome_of(Make make, const mileage::SetUp& set_up) {
  const auto variant = make(set_up);
  testing_support::run_frames(*variant, 3);
  return variant->outcome();
}

double stated(const Outcome& outcome, const std::string& name) {
  for (const Quantity& one : outcome.quantities())
    if (one.name == name) return one.value;
  ADD_FAILURE() << name << " is not stated";
  return -1;
}

double drawn(const Outcome& outcome) { return stated(outcome, "lanterns drawn"); }

std::map<std::string, double> counted_untimed(const Variant& variant) {
  testing_support::CountingSink sink;
  Frame frame(sink);
  variant.count_untimed(frame);
  return sink.counters;
}

struct Implementation {
  const char* name;
  Make make;
};
void PrintTo(const Implementation& way, std::ostream* out) { *out << way.name; }

class SamePicture : public testing::TestWithParam<Implementation> {};

TEST_P(SamePicture, AsOneCallPerLantern) {
  SKIP_WITHOUT_DEVICE();
  for (const double parts : {1.0, 3.0}) {
    const mileage::SetUp set_up = set_up_with(400, 4, parts);
    const Picture expected = picture_of(make_draw_each, set_up);
    const Picture found = picture_of(GetParam().make, set_up);
    ASSERT_EQ(found.pixels.size(), expected.pixels.size());
    EXPECT_LT(unlike_pixels(expected, found), 40) << parts << " parts";  // Of 921,600: edges between pixels.
  }
}

TEST_P(SamePicture, AndTheSameOutcomeWithEveryLanternDrawn) {
  SKIP_WITHOUT_DEVICE();
  const mileage::SetUp set_up = set_up_with(250);
  const Outcome expected = outcome_of(make_draw_each, set_up);
  const Outcome found = outcome_of(GetParam().make, set_up);
  EXPECT_EQ(drawn(found), 250);
  for (const Disagreement& one : disagreements(expected, found))
    ADD_FAILURE() << one.quantity << ": " << one.found << " instead of " << one.expected;
}

INSTANTIATE_TEST_SUITE_P(Implementations, SamePicture,
                         testing::Values(Implementation{"each-own", make_draw_each_own},
                                         Implementation{"instanced", make_draw_instanced},
                                         Implementation{"instanced-all", make_draw_instanced_all},
                                         Implementation{"multi-draw", make_draw_multi},
                                         Implementation{"resident", make_draw_resident}));

TEST(Draw, APictureThatLacksALanternIsSeen) {
  SKIP_WITHOUT_DEVICE();
  const Picture all = picture_of(make_draw_each, set_up_with(400));
  const Picture fewer = picture_of(make_draw_each, set_up_with(399));
  EXPECT_GT(unlike_pixels(all, fewer), 0);
  EXPECT_FALSE(disagreements(outcome_of(make_draw_each, set_up_with(400)), outcome_of(make_draw_each, set_up_with(399)))
                   .empty());
}

TEST(Draw, LargeOnesAreChosenAlikeOnProcessorAndDevice) {
  SKIP_WITHOUT_DEVICE();
  const mileage::SetUp set_up = set_up_with(500);
  const double drawn_large = drawn(outcome_of(make_draw_large, set_up));
  EXPECT_GT(drawn_large, 50);
  EXPECT_LT(drawn_large, 400);
  EXPECT_EQ(drawn(outcome_of(make_draw_large_device, set_up)), drawn_large);
  EXPECT_LT(unlike_pixels(picture_of(make_draw_large, set_up), picture_of(make_draw_large_device, set_up)), 40);
}

TEST(Draw, ThoseBehindTheViewerAndTheSmallOnesAreLeftOut) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = set_up_with(300);
  for (const Make make : {make_draw_large, make_draw_large_device}) {
    set_up.knobs.set("view", 1.0);
    set_up.knobs.set("min-height", 0.0);
    EXPECT_EQ(drawn(outcome_of(make, set_up)), 300);
    set_up.knobs.set("min-height", 720.0);
    EXPECT_EQ(drawn(outcome_of(make, set_up)), 0);
    set_up.knobs.set("view", 0.0);
    set_up.knobs.set("min-height", 0.0);
    EXPECT_EQ(drawn(outcome_of(make, set_up)), 0);
  }
}

TEST(Draw, DetailDrawsEveryLanternWithFewerTriangles) {
  SKIP_WITHOUT_DEVICE();
  const mileage::SetUp set_up = set_up_with(300);
  const auto fine = testing_support::counters_of_a_frame(*make_draw_instanced_all(set_up));
  const auto coarse = testing_support::counters_of_a_frame(*make_draw_detail(set_up));
  EXPECT_EQ(drawn(outcome_of(make_draw_detail, set_up)), 300);
  EXPECT_LT(coarse.at("triangles"), 0.6 * fine.at("triangles"));
}

TEST(Draw, CountsItsCalls) {
  SKIP_WITHOUT_DEVICE();
  const mileage::SetUp set_up = set_up_with(100, 4, 2);  // 25 of each kind, 7 per call: four batches.
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_draw_each(set_up)).at("calls"), 200);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_draw_instanced(set_up)).at("calls"), 4 * 4 * 2);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_draw_instanced_all(set_up)).at("calls"), 8);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_draw_multi(set_up)).at("calls"), 1);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_draw_instanced_all(set_up)).at("bytes uploaded"), 3200);
}

TEST(Draw, ABufferTooSmallForItsInstancesIsCaughtBeforeTheDriver) {
  SKIP_WITHOUT_DEVICE();
  const DrawStage stage(set_up_with(10));
  const Buffer four(stage.context(), 4 * sizeof(Placed));
  testing_support::CountingSink sink;
  Frame frame(sink);
  stage.use(Feed::instances, 0);
  stage.bind(&four);
  EXPECT_NO_THROW(stage.draw_instances(stage.range(0, 0, 0), 1, 3, four, frame));
  try {
    stage.draw_instances(stage.range(0, 0, 0), 1, 4, four, frame);
    FAIL() << "drawn";
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), HasSubstr("too small for the instances of a call"));
  }
}

TEST(Draw, WhatIsOutOfViewPassesNoSamples) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = set_up_with(200);
  set_up.knobs.set("view", 0.0);
  const auto variant = make_draw_instanced_all(set_up);
  testing_support::run_frames(*variant, 1);
  EXPECT_EQ(stated(variant->outcome(), "samples covered"), 0);
  EXPECT_EQ(counted_untimed(*variant).at("lanterns in view"), 0);
}

TEST(Draw, CountsPixelsAndLanternsInViewOutsideItsFrames) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = set_up_with(400);
  set_up.knobs.set("view", 0.5);
  const auto variant = make_draw_instanced_all(set_up);
  EXPECT_EQ(testing_support::counters_of_a_frame(*variant).count("pixels"), 0U);
  const auto aside = counted_untimed(*variant);
  EXPECT_GT(aside.at("pixels"), 1000);
  EXPECT_LT(aside.at("pixels"), 1280 * 720) << "no background is drawn in frames";
  EXPECT_GT(aside.at("lanterns in view"), 150);
  EXPECT_LT(aside.at("lanterns in view"), 250);
}

TEST(Draw, WhatChoosesDrawsByItsRulePixelByPixel) {
  SKIP_WITHOUT_DEVICE();
  for (const Make make : {make_draw_large, make_draw_large_device, make_draw_detail}) {
    const mileage::SetUp set_up = set_up_with(400, 4, 2);
    EXPECT_LT(stated(outcome_of(make, set_up), "pixels unlike its rule"), 40);
    EXPECT_GT(unlike_pixels(picture_of(make_draw_each, set_up), picture_of(make, set_up)), 1000);
  }
}

TEST(Draw, TellsTheDevicesTimeOfAFrame) {
  SKIP_WITHOUT_DEVICE();
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_draw_instanced_all(set_up_with(10))).count(device_time_counter),
            1U);
}

TEST_P(SamePicture, WhereSomeMustBeDrawnSinglyAndKindsChange) {
  SKIP_WITHOUT_DEVICE();
  for (const char* knob : {"single", "regroup"}) {
    mileage::SetUp set_up = set_up_with(1500, 4, 2);
    set_up.knobs.set(knob, 0.3);
    set_up.knobs.set("facets", 2.0);
    const Outcome expected = outcome_of(make_draw_each, set_up);
    const Outcome found = outcome_of(GetParam().make, set_up);
    EXPECT_EQ(drawn(found), 1500) << knob;
    for (const Disagreement& one : disagreements(expected, found))
      ADD_FAILURE() << knob << ": " << one.quantity << ": " << one.found << " instead of " << one.expected;
    EXPECT_LT(unlike_pixels(picture_of(make_draw_each, set_up), picture_of(GetParam().make, set_up)), 40) << knob;
  }
}

TEST(Draw, WhatChoosesFollowsItsRuleWithSinglesAndChangingKinds) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = set_up_with(300, 4);
  set_up.knobs.set("single", 0.2);
  set_up.knobs.set("regroup", 0.5);
  for (const Make make : {make_draw_large, make_draw_large_device, make_draw_detail})
    EXPECT_LT(stated(outcome_of(make, set_up), "pixels unlike its rule"), 40);
}

TEST(Draw, EveryWayDrawsLanternsOfWhichNoneCanBeDrawnTogether) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = set_up_with(60, 3);
  set_up.knobs.set("single", 1.0);
  set_up.knobs.set("min-height", 0.0);
  for (const Make make :
       {make_draw_each, make_draw_each_own, make_draw_instanced, make_draw_instanced_all, make_draw_multi,
        make_draw_resident, make_draw_large, make_draw_large_device, make_draw_detail})
    EXPECT_EQ(drawn(outcome_of(make, set_up)), 60);
}

TEST(Draw, ChangingKindsAreSeen) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = set_up_with(300, 4);
  const Picture still = picture_of(make_draw_each, set_up);
  set_up.knobs.set("regroup", 1.0);
  EXPECT_GT(unlike_pixels(still, picture_of(make_draw_each, set_up)), 1000);
}

TEST(Draw, SinglesTakeACallEach) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = set_up_with(1000, 4);
  set_up.knobs.set("single", 0.25);
  const double calls = testing_support::counters_of_a_frame(*make_draw_instanced_all(set_up)).at("calls");
  EXPECT_GT(calls, 4 + 200);
  EXPECT_LT(calls, 4 + 300);
}

TEST(Draw, WhatInstancesCarryIsSentWithThem) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = set_up_with(100);
  const Picture light = picture_of(make_draw_instanced, set_up);
  set_up.knobs.set("payload", 100.0);  // In steps of 16.
  for (const Make make : {make_draw_instanced, make_draw_instanced_all, make_draw_multi})
    EXPECT_EQ(testing_support::counters_of_a_frame(*make(set_up)).at("bytes uploaded"), 100 * 112);
  EXPECT_LT(unlike_pixels(light, picture_of(make_draw_instanced, set_up)), 40);
}

TEST(Draw, PicturesHaveTheSizeAskedForAndABackground) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = set_up_with(1);
  for (const std::string& size : picture_sizes()) {
    set_up.knobs.set("pixels", size);
    const Picture picture = picture_of(make_draw_instanced_all, set_up);
    EXPECT_EQ(fmt::format("{}x{}", picture.width, picture.height), size);
    EXPECT_NE(
        picture.pixels[1],
        picture.pixels[3 * static_cast<std::size_t>(picture.width) * static_cast<std::size_t>(picture.height / 3) + 1])
        << "the sky is not the same everywhere";
  }
}

TEST(Meshes, HaveAsManyTrianglesForEveryKind) {
  for (int kind = 0; kind < 9; ++kind) {
    EXPECT_EQ(lantern_mesh(kind, 2, 0).triangles(), 2);
    EXPECT_EQ(lantern_mesh(kind, 8, 0).triangles(), 8);
    EXPECT_EQ(lantern_mesh(kind, 12, 0).triangles(), 12);
    for (const int facets : {24, 60, 500, 2000}) {
      EXPECT_LE(lantern_mesh(kind, facets, 0).triangles(), facets);
      EXPECT_GT(lantern_mesh(kind, facets, 0).triangles(), 0.75 * facets) << facets;
      for (int detail = 0; detail + 1 < details; ++detail)
        EXPECT_LT(lantern_mesh(kind, facets, detail + 1).triangles(), lantern_mesh(kind, facets, detail).triangles());
    }
  }
}

TEST(DrawWorld, RegroupingKeepsEveryLanternAndBringsKindsTogether) {
  mileage::SetUp set_up = set_up_with(200, 4);
  set_up.knobs.set("regroup", 0.5);
  DrawWorld world(set_up);
  const std::vector<Afloat> before = world.lanterns;
  world.change_kinds();
  world.regroup();
  std::map<float, float> kind_before;
  for (const Afloat& lantern : before) kind_before[lantern.number] = lantern.kind;
  int changed = 0;
  for (std::int64_t i = 0; i < world.count(); ++i) {
    const Afloat& lantern = world.lanterns[static_cast<std::size_t>(i)];
    const auto kind = static_cast<std::size_t>(lantern.kind);
    EXPECT_GE(i, world.first_of_kind[kind]);
    EXPECT_LT(i, world.first_of_kind[kind + 1]);
    changed += lantern.kind != kind_before.at(lantern.number);
    kind_before.erase(lantern.number);
  }
  EXPECT_TRUE(kind_before.empty());
  EXPECT_GT(changed, 70);
  EXPECT_LT(changed, 130);
}

TEST(DrawWorld, HoldsEveryLanternOnceKindAfterKind) {
  const DrawWorld world(set_up_with(10, 4));
  EXPECT_THAT(world.first_of_kind, testing::ElementsAre(0, 3, 6, 8, 10));
  std::vector<float> numbers;
  for (const Afloat& lantern : world.lanterns) numbers.push_back(lantern.number);
  EXPECT_THAT(numbers, testing::UnorderedElementsAre(0, 1, 2, 3, 4, 5, 6, 7, 8, 9));
  EXPECT_THROW(DrawWorld(set_up_with(max_lanterns + 1)), Error);
}

}  // namespace
}  // namespace mileage::device
