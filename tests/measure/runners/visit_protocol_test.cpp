#include "measure/runners/visit_protocol.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "study/study_json.h"
#include "types/error.h"

namespace mileage {
namespace {

TEST(VisitProtocol, ARequestArrivesAsItWasSent) {
  VisitRequest sent{"drift", {"jobs", {}}, 12'345, 18'446'744'073'709'551'615U, 30, 2.5};
  sent.arrive = 50;
  sent.series.knobs.set("workers", 2.0);
  const Request got = parse_request(visit_request_line(sent));
  EXPECT_FALSE(got.describe);
  EXPECT_EQ(got.visit.scenario, "drift");
  EXPECT_EQ(got.visit.series, sent.series);
  EXPECT_EQ(got.visit.count, 12'345);
  EXPECT_EQ(got.visit.seed, sent.seed);
  EXPECT_EQ(got.visit.least_frames, 30);
  EXPECT_EQ(got.visit.least_ms, 2.5);
  EXPECT_EQ(got.visit.arrive, 50);
  EXPECT_TRUE(parse_request(describe_request_line()).describe);
}

TEST(VisitProtocol, AnAnswerArrivesAsItWasSent) {
  const Visit visit = failed_visit({"drift", {"jobs", {}}, 100, 1, 20, 20}, "bytes that are no text: \xff");
  EXPECT_EQ(parse_visit_answer(visit_answer_line(visit)).status, VisitStatus::failed);
  Scenario scenario;
  scenario.name = "drift";
  scenario.knobs = {Knob::choice("order", "how", {"even", "shuffled"})};
  const auto scenarios = parse_describe_answer(describe_answer_line({scenario}));
  ASSERT_EQ(scenarios.size(), 1U);
  EXPECT_EQ(to_json(scenarios[0]), to_json(scenario));
}

TEST(VisitProtocol, RefusesWhatIsNoMessageOfItsVersion) {
  for (const char* line : {"", "hello", "[]", "{}", R"({"mileage_visit":1,"kind":"describe"})",
                           R"({"mileage_visit":2,"kind":"dance"})", R"({"mileage_visit":2,"kind":"visit"})"})
    EXPECT_THROW(parse_request(line), Error) << line;
  EXPECT_THROW(parse_visit_answer(describe_answer_line({})), Error);
  EXPECT_THROW(parse_visit_answer(refusal_line("not today")), Error);
}

}  // namespace
}  // namespace mileage
