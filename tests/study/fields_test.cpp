#include "study/fields.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {

struct Lantern {
  std::string name;
  int wicks = 1;
  double height_m = 0;
  std::optional<double> light_lm;
};

template <>
const FieldList& fields_of<Lantern>() {
  using L = FieldMaker<Lantern>;
  static const FieldList fields{L("name", &Lantern::name, "Painted on it.").required().not_empty(),
                                L("wicks", &Lantern::wicks, "How many burn.").from(1, 9).sparse(),
                                L("height_m", &Lantern::height_m, "Above the water.").in("m").from(0),
                                L("light_lm", &Lantern::light_lm, "Of a lit one.")
                                    .in("lm")
                                    .finite()
                                    .zero_is_unknown()
                                    .when<Lantern>([](const Lantern& one) { return one.wicks > 0; })};
  return fields;
}

namespace {

TEST(Fields, AreWrittenWhereThereIsSomethingToSay) {
  Lantern lantern{"moth", 1, 0.5, {}};
  EXPECT_EQ(to_line(fields_json(lantern)), R"({"name":"moth","height_m":0.5})");
  lantern.wicks = 3;
  lantern.light_lm = 80;
  EXPECT_EQ(to_line(fields_json(lantern)), R"({"name":"moth","wicks":3,"height_m":0.5,"light_lm":80.0})");
}

TEST(Fields, AreReadBackAndThoseThatAreNotKnownIgnored) {
  const auto lantern = from_fields<Lantern>(parsed_json(R"({"name":"moth","wicks":2,"light_lm":0,"colour":"red"})"));
  EXPECT_EQ(lantern.name, "moth");
  EXPECT_EQ(lantern.wicks, 2);
  EXPECT_FALSE(lantern.light_lm) << "0 stood for unknown";
}

TEST(Fields, MistakesNameTheirField) {
  const auto field_of_error = [](const char* line) {
    try {
      from_fields<Lantern>(parsed_json(line));
    } catch (const Error& error) {
      return error.fault().field;
    }
    return std::string("none");
  };
  EXPECT_EQ(field_of_error(R"({"wicks":2})"), "name");
  EXPECT_EQ(field_of_error(R"({"name":"moth","wicks":1.5})"), "wicks");
}

TEST(Fields, FaultsAreThoseOfTheRangesDescribed) {
  EXPECT_FALSE(first_fault(Lantern{"moth", 1, 0, {}}));
  EXPECT_EQ(first_fault(Lantern{"moth", 10, 0, {}})->accepted, "a whole number from 1 to 9");
  EXPECT_EQ(first_fault(Lantern{"moth", 1, -1, {}})->field, "height_m");
  EXPECT_EQ(first_fault(Lantern{"moth", 1, 0, std::nan("")})->problem, "not a number");
  EXPECT_FALSE(first_fault(Lantern{"moth", 1, 0, {}}));
}

TEST(Fields, TheSchemaHasTypesRangesUnitsAndWhatIsRequired) {
  const Json schema = fields_schema(fields_of<Lantern>());
  EXPECT_EQ(schema["required"], Json({"name"}));
  EXPECT_EQ(schema["properties"]["wicks"]["type"], "integer");
  EXPECT_EQ(schema["properties"]["wicks"]["minimum"], 1);
  EXPECT_EQ(schema["properties"]["height_m"]["description"], "Above the water. Unit: m.");
}

}  // namespace
}  // namespace mileage
