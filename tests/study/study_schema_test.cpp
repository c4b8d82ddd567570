#include "study/study_schema.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

namespace mileage {
namespace {

using testing::HasSubstr;

TEST(MadeSchema, HasRangesUnitsAndWhatMustBeThere) {
  const Json run = study_schema()["definitions"]["run"];
  EXPECT_EQ(run["properties"]["count"]["minimum"], 1);
  EXPECT_THAT(run["properties"]["setup_ms"]["description"].get<std::string>(), HasSubstr("Unit: ms."));
  EXPECT_EQ(run["required"], Json({"series", "count", "block", "order", "status"}));
  EXPECT_EQ(run["else"]["required"], Json({"frames_per_sample", "warmup_ns", "samples_ns", "alive", "outcome"}));
  const Json& yardstick = run["properties"]["yardstick"]["anyOf"];
  ASSERT_EQ(yardstick.size(), 2U) << "that of version 1 is read too";
  EXPECT_EQ(yardstick[0]["properties"]["one_half_ns"]["exclusiveMinimum"], 0);
}

TEST(MadeSchema, ListsNameTypeUnitMeaningAndVersion) {
  EXPECT_THAT(run_fields_list(), HasSubstr("\n- `setup_ms` (number, ms): "));
  EXPECT_THAT(plan_fields_list(), HasSubstr("\n- `counts` (list): Ascending.\n"));
  EXPECT_THAT(plan_fields_list(), HasSubstr("Measured frames per run. `least_frames` before version 3.\n"));
  EXPECT_THAT(head_fields_list(), HasSubstr("full speed refers to. Since version 2.\n"));
}

}  // namespace
}  // namespace mileage
