#include "study/study_schema.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

namespace mileage {
namespace {

using testing::HasSubstr;

TEST(MadeSchema, HasRangesUnitsAndWhatMustBeThere) {
  const Json visit = study_schema()["definitions"]["visit"];
  EXPECT_EQ(visit["properties"]["count"]["minimum"], 1);
  EXPECT_THAT(visit["properties"]["setup_ms"]["description"].get<std::string>(), HasSubstr("Unit: ms."));
  EXPECT_EQ(visit["required"], Json({"series", "count", "block", "order", "status"}));
  EXPECT_EQ(visit["else"]["required"], Json({"frames_per_sample", "warmup_ns", "samples_ns", "alive", "outcome"}));
  const Json& yardstick = visit["properties"]["yardstick"]["anyOf"];
  ASSERT_EQ(yardstick.size(), 2U) << "that of version 1 is read too";
  EXPECT_EQ(yardstick[0]["properties"]["one_half_ns"]["exclusiveMinimum"], 0);
}

TEST(MadeSchema, TablesHaveARowPerField) {
  EXPECT_THAT(visit_fields_table(), HasSubstr("| `setup_ms` | number, ms | "));
  EXPECT_THAT(plan_fields_table(), HasSubstr("| `counts` | list | Ascending. | 1 |"));
}

}  // namespace
}  // namespace mileage
