#include "study/study_json.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "support/made_studies.h"
#include "types/error.h"

namespace mileage {
namespace {

Json head_json() {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return n; }}};
  setting.counts = {10};
  return to_json(made::study_of(setting).head);
}

TEST(StudyJson, AHeadOfAnotherFormatIsRefused) {
  Json json = head_json();
  json["format"] = "something else";
  EXPECT_THROW(head_from_json(json), Error);
  json = head_json();
  json["version"] = study_format_version + 1;
  EXPECT_THROW(head_from_json(json), Error);
}

TEST(StudyJson, WhoMadeOlderStudiesIsToldByTheirOtherFields) {
  Json json = head_json();
  json.erase("made_by");
  EXPECT_EQ(head_from_json(json).made_by, MadeBy::program);
  json["commands"] = {"objects: game"};
  EXPECT_EQ(head_from_json(json).made_by, MadeBy::commands);
  json["plan"]["by_hand"] = true;
  EXPECT_EQ(head_from_json(json).made_by, MadeBy::person);
  json["imported"] = true;
  EXPECT_EQ(head_from_json(json).made_by, MadeBy::tables);
}

TEST(StudyJson, TheFingerprintHadAnotherName) {
  Json json = head_json();
  json["plan_print"] = "0123";
  EXPECT_EQ(head_from_json(json).plan_fingerprint, "0123");
}

TEST(StudyJson, HeavyFramesArePresetByLeastFrames) {
  Json json = head_json();
  json["plan"]["min_frames"] = 33;
  json["plan"].erase("heavy_frames");
  EXPECT_EQ(head_from_json(json).plan.heavy_frames, 33);
}

}  // namespace
}  // namespace mileage
