#include "views/answer_json.h"

#include <cmath>

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "views/known_report.h"

namespace mileage {
namespace {

TEST(AnswerJson, TheEnvelopeIsTheSameForEveryVerb) {
  const Json json = envelope("capacity", {made::known_report().about});
  EXPECT_EQ(json["verb"], "capacity");
  EXPECT_EQ(json["format"], 2);
  EXPECT_EQ(json["axis"], "count");
  for (const char* part :
       {"series", "warnings", "failures", "bounds", "agreement", "machine_condition", "corrections", "time_spent"})
    EXPECT_TRUE(json[part].is_array()) << part;
  EXPECT_EQ(envelope("list")["axis"], "count");
}

TEST(AnswerJson, AColumnIsAFieldAndItsIntervalTwo) {
  const About& about = made::known_report().about;
  Answer answer;
  answer.verdict = {"objects is faster."};
  Table table(about, "costs", "",
              {series_column(), place_column(about), {"ms", "ms", Format::number, "", Spread::column}});
  table.row({series_entry(about, 0), 1000.4, {2.5, {2, 3}}});
  table.row({series_entry(about, 1), 1000.4, absent("not measured there")});
  answer.tables = {table};
  answer.note("rerun");
  answer.next = {"mileage cost"};
  const Json json = made::json_of(answer);
  EXPECT_EQ(json["verdict"][0], "objects is faster.");
  EXPECT_EQ(json["costs"][0].dump(),
            R"({"series":"objects","variant":"objects","count":1000,"ms":2.5,"ms_low":2.0,"ms_high":3.0})");
  EXPECT_TRUE(json["costs"][1]["ms"].is_null());
  EXPECT_EQ(json["costs"][1]["ms_missing"], "not measured there");
  EXPECT_EQ(json["notes"][0].dump(), R"({"kind":"note","text":"rerun"})");
  EXPECT_EQ(json["next"][0], "mileage cost");
}

TEST(AnswerJson, PlacesAreWholeWhereTheAxisIs) {
  EXPECT_EQ(place_json(12.4, Axis{}).dump(), "12");
  EXPECT_EQ(place_json(12.4, (Axis{"work", false, "work", "unit of work"})).dump(), "12.4");
}

TEST(AnswerJson, AValueThatIsNoNumberIsNull) {
  About about = made::known_report().about;
  Agreement agreement;
  agreement.worst = {"mean height", 1, std::nan(""), 1e-6};
  about.agreements = {agreement};
  const Json worst = envelope("curve", {about})["agreement"].back();
  EXPECT_TRUE(worst["found"].is_null());
  EXPECT_EQ(worst["expected"], 1);
}

}  // namespace
}  // namespace mileage
