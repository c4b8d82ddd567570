#include "measure/runners/run_protocol.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "study/study_json.h"
#include "types/error.h"

namespace mileage {
namespace {

TEST(RunProtocol, ARequestArrivesAsItWasSent) {
  RunRequest sent{"drift", {"jobs", {}}, 12'345, 18'446'744'073'709'551'615U, 30, 2.5};
  sent.arrive = 50;
  sent.series.knobs.set("workers", 2.0);
  const Request got = parse_request(run_request_line(sent));
  EXPECT_FALSE(got.describe);
  EXPECT_EQ(got.run.scenario, "drift");
  EXPECT_EQ(got.run.series, sent.series);
  EXPECT_EQ(got.run.count, 12'345);
  EXPECT_EQ(got.run.seed, sent.seed);
  EXPECT_EQ(got.run.min_frames, 30);
  EXPECT_EQ(got.run.min_ms, 2.5);
  EXPECT_EQ(got.run.arrive, 50);
  EXPECT_TRUE(parse_request(describe_request_line()).describe);
}

TEST(RunProtocol, AnAnswerArrivesAsItWasSent) {
  const mileage::Run run = failed_run({"drift", {"jobs", {}}, 100, 1, 20, 20}, "bytes that are no text: \xff");
  EXPECT_EQ(parse_run_answer(run_answer_line(run)).status, RunStatus::failed);
  Scenario scenario;
  scenario.name = "drift";
  scenario.knobs = {Knob::choice("order", "how", {"even", "shuffled"})};
  const auto scenarios = parse_describe_answer(describe_answer_line({scenario}));
  ASSERT_EQ(scenarios.size(), 1U);
  EXPECT_EQ(to_json(scenarios[0]), to_json(scenario));
}

TEST(RunProtocol, RefusesWhatIsNoMessageOfItsVersion) {
  for (const char* line : {"", "hello", "[]", "{}", R"({"mileage_run":1,"kind":"describe"})",
                           R"({"mileage_run":2,"kind":"dance"})", R"({"mileage_run":2,"kind":"run"})"})
    EXPECT_THROW(parse_request(line), Error) << line;
  EXPECT_THROW(parse_run_answer(describe_answer_line({})), Error);
  EXPECT_THROW(parse_run_answer(refusal_line("not today")), Error);
}

}  // namespace
}  // namespace mileage
