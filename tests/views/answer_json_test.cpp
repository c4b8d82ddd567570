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
  EXPECT_EQ(json["format"], 1);
  EXPECT_EQ(json["axis"], "count");
  for (const char* part : {"warnings", "failures", "bounds", "agreement", "quietness", "adjusted"})
    EXPECT_TRUE(json[part].is_array()) << part;
  EXPECT_EQ(envelope("list")["axis"], "count");
}

TEST(AnswerJson, PlacesAreWholeWhereTheAxisIs) {
  EXPECT_EQ(place_json(12.4, Axis{}).dump(), "12");
  EXPECT_EQ(place_json(12.4, (Axis{"work", false, "work", "unit of work"})).dump(), "12.4");
  EXPECT_TRUE(place_json(std::nullopt, Axis{}).is_null());
}

TEST(AnswerJson, AValueThatIsNoNumberIsNull) {
  About about = made::known_report().about;
  Agreement agreement;
  agreement.worst = {"mean height", 1, std::nan(""), 1e-6};
  about.agreements = {agreement};
  const Json worst = envelope("curve", {about})["agreement"].back()["worst"];
  EXPECT_TRUE(worst["found"].is_null());
  EXPECT_EQ(worst["expected"], 1);
}

}  // namespace
}  // namespace mileage
