#include "mileage/measure/serve_runs.h"

#include <unistd.h>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "measure/runners/run_protocol.h"
#include "support/scripted.h"
#include "system/descriptors.h"

namespace mileage {
namespace {

std::string read_all(int descriptor) {
  std::string text;
  char buffer[4096];
  for (ssize_t got; (got = ::read(descriptor, buffer, sizeof buffer)) > 0;)
    text.append(buffer, static_cast<std::size_t>(got));
  return text;
}

std::string answer_to(const std::string& line, const Catalogue& catalogue) {
  mileage::Channel request = make_pipe();
  mileage::Channel answer = make_pipe();
  EXPECT_TRUE(write_all(request.write.number(), line + "\n"));
  std::string descriptors = std::to_string(request.read.number()) + "," + std::to_string(answer.write.number());
  std::string program = "night";
  std::string argument = run_argument;
  char* arguments[] = {program.data(), argument.data(), descriptors.data()};
  EXPECT_EQ(serve_runs(3, arguments, catalogue), 0);
  answer.write = {};
  return read_all(answer.read.number());
}

TEST(AnswerIfAsked, AnOrdinaryRunGoesOn) {
  scripted::VirtualClock clock;
  const Catalogue catalogue = scripted::catalogue_of(clock, {});
  std::string program = "night", option = "--loud", value = "3,4";
  char* arguments[] = {program.data(), option.data(), value.data()};
  EXPECT_FALSE(serve_runs(1, arguments, catalogue));
  EXPECT_FALSE(serve_runs(3, arguments, catalogue));
}

TEST(AnswerIfAsked, TellsWhatTheCatalogueHolds) {
  scripted::VirtualClock clock;
  const Catalogue catalogue =
      scripted::catalogue_of(clock, {{"objects", [](std::int64_t, std::int64_t) { return 1000; }}});
  const auto scenarios = parse_describe_answer(answer_to(describe_request_line(), catalogue));
  ASSERT_EQ(scenarios.size(), 1U);
  EXPECT_EQ(scenarios[0].variants.at(0).name, "objects");
}

TEST(AnswerIfAsked, RefusesWhatIsNoRequest) {
  scripted::VirtualClock clock;
  EXPECT_THAT(answer_to("{}", scripted::catalogue_of(clock, {})), testing::HasSubstr("refusal"));
}

}  // namespace
}  // namespace mileage
