#include "measure/runners/drive_runner.h"

#include <sys/socket.h>
#include <unistd.h>

#include <cmath>
#include <thread>

#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

#include "measure/loop/measure_study.h"
#include "measure/loop/plan.h"
#include "support/simulated_game.h"
#include "types/error.h"
#include "support/reports.h"

namespace mileage {
namespace {

using nlohmann::json;
using testing::HasSubstr;
using testing::SizeIs;

class ScriptedLine : public LineChannel {
 public:
  explicit ScriptedLine(std::vector<std::string> answers) : answers_(std::move(answers)) {}
  bool send(const std::string& line) override {
    sent.push_back(json::parse(line));
    return !closed_;
  }
  std::optional<std::string> receive(double) override {
    if (closed_ || next_ == answers_.size()) return std::nullopt;
    return answers_[next_++];
  }
  bool is_closed() const override { return closed_; }
  void hang_up() override { closed_ = true; }

  std::vector<json> sent;

 private:
  std::vector<std::string> answers_;
  std::size_t next_ = 0;
  bool closed_ = false;
};

const std::string hello =
    R"({"hello":1,"scenario":"night","entities":"lanterns","variants":["linked","columns"],"most":5000})";

std::string times(int frames, double ms = 2) {
  json list = json::array();
  for (int i = 0; i < frames; ++i) list.push_back(ms);
  return list.dump();
}

class Drive : public testing::Test {
 protected:
  mileage::Run answered(const std::string& answer) {
    line_.emplace(std::vector<std::string>{answer});
    runner_.emplace(*line_, Instruments{&clock_, nullptr});
    return runner_->run({"night", {"linked", {}}, 100, 7, 20, 20}, 10);
  }
  std::string failure(const std::string& answer) {
    const mileage::Run run = answered(answer);
    EXPECT_EQ(run.status, RunStatus::failed) << answer;
    return run.failure;
  }
  SystemClock clock_;
  std::optional<ScriptedLine> line_;
  std::optional<DriveRunner> runner_;
};

TEST_F(Drive, WhatArrivesIsToldAndCutOut) {
  const std::string frames = "[1,1,1,1,1,9,4,2" + times(30).replace(0, 1, ",");
  line_.emplace(std::vector<std::string>{R"({"done":1,"alive":100,"arrived_at":6,"frames_ms":)" + frames + "}",
                                         R"({"done":2,"alive":100,"frames_ms":)" + times(60) + "}"});
  runner_.emplace(*line_, Instruments{&clock_, nullptr});
  RunRequest request{"night", {"linked", {}}, 100, 7, 5, 20};
  request.arrive = 30;
  const mileage::Run run = runner_->run(request, 10);
  ASSERT_EQ(run.status, RunStatus::kept) << run.failure;
  EXPECT_EQ(line_->sent.front()["arrive"], 30);
  EXPECT_EQ(run.arrived, 30);
  EXPECT_EQ(run.warmup_ns.front(), 9'000'000);
  EXPECT_THAT(runner_->run(request, 10).failure, HasSubstr("sent no \"arrived_at\", and 30 were to come at once"));
}

std::string refused_hello(const std::string& line) {
  ScriptedLine channel({line});
  SystemClock clock;
  DriveRunner runner(channel, {&clock, nullptr});
  try {
    runner.describe();
  } catch (const Error& error) {
    EXPECT_TRUE(channel.is_closed());
    return error.what();
  }
  return "accepted";
}

TEST_F(Drive, AHelloBecomesAScenario) {
  ScriptedLine channel({hello});
  DriveRunner runner(channel, {&clock_, nullptr});
  const Scenario scenario = runner.describe().front();
  EXPECT_EQ(scenario.name, "night");
  EXPECT_EQ(scenario.entities, "lanterns");
  ASSERT_THAT(scenario.variants, SizeIs(2));
  EXPECT_EQ(scenario.variants[1].name, "columns");
  EXPECT_EQ(runner.max(), 5000);
}

TEST_F(Drive, AHelloThatDoesNotReadIsRefused) {
  EXPECT_THAT(refused_hello("GET / HTTP/1.1"), HasSubstr("no JSON object"));
  EXPECT_THAT(refused_hello("{}"), HasSubstr("hello: the field is missing"));
  EXPECT_THAT(refused_hello(R"({"hello":2,"scenario":"night","variants":["a"]})"), HasSubstr("another version"));
  EXPECT_THAT(refused_hello(R"({"hello":1,"scenario":"night\u001b[2J","variants":["a"]})"), HasSubstr("no plain name"));
  EXPECT_THAT(refused_hello(R"({"hello":1,"scenario":"night","variants":[]})"), HasSubstr("no list of names"));
  EXPECT_THAT(refused_hello(R"({"hello":1,"scenario":"night","variants":["a","a"]})"), HasSubstr("twice"));
  EXPECT_THAT(refused_hello(R"({"hello":1,"scenario":"../x","variants":["a"]})"), HasSubstr("no plain name"));
  EXPECT_THAT(refused_hello(R"({"hello":1,"scenario":"night","variants":["a"],"most":"many"})"),
              HasSubstr("most: the value has the wrong type (a whole number is wanted)"));
}

TEST_F(Drive, TellsWhatToShowAndTakesTheFrames) {
  const mileage::Run run = answered(R"({"done":1,"alive":100,"frames_ms":)" + times(30) + "}");
  ASSERT_EQ(run.status, RunStatus::kept) << run.failure;
  EXPECT_EQ(run.warmup_ns.size() + run.samples_ns.size(), 30U);
  EXPECT_EQ(line_->sent.front(),
            (json{{"next", 1}, {"variant", "linked"}, {"count", 100}, {"seed", 7}, {"frames", 30}, {"yardstick", 1}}));
  EXPECT_EQ(runner_->frames_shown(), 30);
  EXPECT_FALSE(run.yardstick);
}

TEST_F(Drive, TakesOffWhatFramesWaitedForACore) {
  const mileage::Run run =
      answered(R"({"done":1,"alive":100,"waited_us":[[1,90],[30,250.5]],"frames_ms":)" + times(30) + "}");
  ASSERT_EQ(run.status, RunStatus::kept) << run.failure;
  ASSERT_EQ(run.waited_ns.size(), run.samples_ns.size()) << "the first frame is of the warm-up";
  EXPECT_EQ(run.waited_ns.back(), 250'500);
  EXPECT_EQ(run.waited_ns.front(), 0);
  EXPECT_THAT(failure(R"({"done":1,"alive":100,"waited_us":[[31,15]],"frames_ms":)" + times(30) + "}"),
              HasSubstr("\"waited_us\" that are no list"));
}

TEST_F(Drive, TakesTheYardstickOfTheProgram) {
  const mileage::Run run =
      answered(R"({"done":1,"alive":100,"yardstick_us":[[1,90],[20,15],[30,16.5]],"frames_ms":)" + times(30) + "}");
  ASSERT_EQ(run.status, RunStatus::kept) << run.failure;
  ASSERT_TRUE(run.yardstick);
  EXPECT_EQ(run.yardstick->probes, 2) << "one is of the warm-up";
  EXPECT_NEAR(run.yardstick->one_half_ns, 15'000, 1e-6);
  EXPECT_NEAR(run.yardstick->other_half_ns, 16'500, 1e-6);
  EXPECT_FALSE(run.yardstick->program.empty());
  for (const char* odd : {"[[0,15]]", "[[31,15]]", "[[1,-1]]", "[15]", "{}", "[[1,1,1]]", "[[1,\"fast\"]]"})
    EXPECT_THAT(
        failure(std::string(R"({"done":1,"alive":100,"yardstick_us":)") + odd + R"(,"frames_ms":)" + times(30) + "}"),
        HasSubstr("\"yardstick_us\" that are no list"));
}

TEST_F(Drive, WhateverElseIsAnsweredFailsTheRunWithOnePlainLine) {
  EXPECT_THAT(failure("not json"), HasSubstr("no JSON object"));
  EXPECT_THAT(failure("[1,2]"), HasSubstr("no JSON object"));
  EXPECT_THAT(failure(R"({"done":2,"alive":100,"frames_ms":)" + times(30) + "}"), HasSubstr("another question"));
  EXPECT_THAT(failure(R"({"done":1,"alive":90,"frames_ms":)" + times(30) + "}"),
              HasSubstr("was asked for 100 entities, and 90 are alive"));
  EXPECT_THAT(failure(R"({"done":1,"alive":100,"frames_ms":)" + times(12) + "}"),
              HasSubstr("sent 12 frames, and 30 were asked for"));
  EXPECT_THAT(failure(R"({"done":1,"alive":100,"frames_ms":)" + times(900) + "}"),
              HasSubstr("sent 900 frames, where 30 were asked for"));
  EXPECT_THAT(failure(R"({"done":1,"alive":100,"frames_ms":)" + times(30, -1) + "}"),
              HasSubstr("no number of milliseconds above 0"));
  EXPECT_THAT(failure(R"({"done":1,"alive":100,"frames_ms":[null]})"), HasSubstr("sent 1 frames"));
  EXPECT_THAT(failure(R"({"done":1,"alive":1e300,"frames_ms":)" + times(30) + "}"),
              HasSubstr("alive: the value has the wrong type (a whole number is wanted)"));
  EXPECT_THAT(failure(R"({"done":1,"refused":true})"), HasSubstr("refused this count"));
}

TEST_F(Drive, AfterThreeBadAnswersItHangsUp) {
  ScriptedLine channel({"x", "x", "x", R"({"done":4,"alive":100,"frames_ms":)" + times(30) + "}"});
  DriveRunner runner(channel, {&clock_, nullptr});
  const RunRequest request{"night", {"linked", {}}, 100, 7, 20, 20};
  for (int i = 0; i < 3; ++i) {
    EXPECT_FALSE(runner.is_gone());
    runner.run(request, 10);
  }
  EXPECT_TRUE(runner.is_gone());
  EXPECT_THROW(runner.run(request, 10), Runner::Stopped) << "nothing failed";
  EXPECT_THAT(runner.hung_up_because(), HasSubstr("no JSON object"));
  EXPECT_TRUE(channel.sent.back().contains("end")) << "the program is told";
}

TEST_F(Drive, SilenceEndsTheLink) {
  ScriptedLine channel({});
  DriveRunner runner(channel, {&clock_, nullptr});
  EXPECT_THAT(runner.run({"night", {"linked", {}}, 100, 7, 20, 20}, 0.5).failure,
              HasSubstr("longer than its limit of 0.5 s"));
  EXPECT_TRUE(runner.is_gone());
}

TEST_F(Drive, FindsTheCapacityOfASimulatedGameAndSaysWhatOneRunIsWorth) {
  simulated::GameTruth truth;
  truth.frame_ms = [](double n) { return 2 + 0.002 * n; };
  scripted::VirtualClock clock;
  simulated::SimulatedGame game(truth, clock, 5);
  DriveRunner runner(game, {&clock, nullptr});
  Head head;
  head.scenario = runner.describe().front();
  PlanRequest request;
  request.counts = {200, 1000, 5000, 25'000};
  request.blocks = 5;
  request.aim = true;
  request.min_frames = 10;
  head.plan = make_plan(head.scenario, request);
  Study study{head, {}, "game.study.jsonl", {}};
  Watch watch;
  watch.keep = [&](const mileage::Run& run) { study.runs.push_back(run); };
  measure_study(head, {}, runner, clock, watch);
  for (const mileage::Run& run : study.runs) EXPECT_EQ(run.process, 0);
  const Report report = report_of(study);
  EXPECT_NEAR(*report.capacities.capacities.front().capacity.at / simulated::capacity_of(truth), 1, 0.05);
  EXPECT_EQ(report.about.processes, 1U);
  EXPECT_THAT(report.about.warnings, testing::Contains(HasSubstr("one process made these runs")));
}

struct Ends {
  Ends() {
    int sockets[2];
    EXPECT_EQ(::socketpair(AF_UNIX, SOCK_STREAM, 0, sockets), 0);
    here = std::make_unique<DescriptorChannel>(sockets[0], sockets[0], true);
    there = sockets[1];
  }
  ~Ends() {
    if (there >= 0) ::close(there);
  }
  void write(const std::string& text) const {
    EXPECT_EQ(::write(there, text.data(), text.size()), static_cast<ssize_t>(text.size()));
  }
  std::unique_ptr<LineChannel> here;
  int there;
};

TEST(LineChannels, CutWhatComesIntoLines) {
  const Ends ends;
  ends.write("one\r\ntwo\nthr");
  EXPECT_EQ(ends.here->receive(1), "one");
  EXPECT_EQ(ends.here->receive(1), "two");
  EXPECT_EQ(ends.here->receive(0.05), std::nullopt);
  EXPECT_FALSE(ends.here->is_closed());
  ends.write("ee\n");
  EXPECT_EQ(ends.here->receive(1), "three");
}

TEST(LineChannels, ReadNoFurtherInALineWithoutEnd) {
  const Ends ends;
  std::thread flood([&] {
    const std::string much(1 << 20, 'x');
    for (int i = 0; i < 8; ++i)
      if (::send(ends.there, much.data(), much.size(), MSG_NOSIGNAL) <= 0) break;
  });
  EXPECT_EQ(ends.here->receive(10), std::nullopt);
  EXPECT_TRUE(ends.here->is_flooded());
  ends.here->hang_up();
  flood.join();
}

TEST(LineChannels, NoticeThatTheOtherEndIsGone) {
  Ends ends;
  ::close(ends.there);
  ends.there = -1;
  EXPECT_EQ(ends.here->receive(1), std::nullopt);
  EXPECT_TRUE(ends.here->is_closed());
  EXPECT_FALSE(ends.here->send("anyone?"));
}

TEST(LineChannels, AddressesThatDoNotReadAreRefused) {
  for (const char* address : {"7300", "localhost:7300", "127.0.0.1:", "127.0.0.1:70000", "127.0.0.1:x", "1.2.3:4"})
    EXPECT_THROW(Listening{address}, Error) << address;
  Listening free("127.0.0.1:0");
  EXPECT_GT(free.port(), 0);
  EXPECT_TRUE(free.is_local());
  EXPECT_THROW(Listening("127.0.0.1:" + std::to_string(free.port())), Error);
}

}  // namespace
}  // namespace mileage
