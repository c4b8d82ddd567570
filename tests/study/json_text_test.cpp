#include "study/json_text.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

namespace mileage {
namespace {

TEST(JsonText, ALineComesBackAsItWas) {
  const std::string line = R"({"b":1,"a":[1.5,"x"]})";
  EXPECT_EQ(to_line(parsed_json(line)), line) << "in its order";
}

TEST(JsonText, WhatIsNoJsonIsDiscarded) {
  for (const char* text : {"", "{", "{} {}", "nan"}) EXPECT_TRUE(parsed_json(text).is_discarded()) << text;
}

TEST(JsonText, BytesThatAreNoTextAreReplaced) { EXPECT_EQ(to_line(Json("\xff")), "\"\xef\xbf\xbd\""); }

TEST(JsonText, TextForPeopleEndsWithItsLine) { EXPECT_EQ(to_text(Json{{"a", 1}}), "{\n  \"a\": 1\n}\n"); }

}  // namespace
}  // namespace mileage
