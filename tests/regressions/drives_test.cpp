#include <arpa/inet.h>
#include <sys/socket.h>
#include <sys/time.h>
#include <unistd.h>

#include <csignal>
#include <cstdlib>
#include <functional>
#include <fstream>
#include <thread>

#include <fmt/format.h>
#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

#include "support/scratch.h"

#define realloc failing_realloc
static void* failing_realloc(void*, std::size_t) { return nullptr; }
#include "mileage/drive.h"
#undef realloc

namespace mileage {
namespace {

using namespace std::chrono_literals;
using nlohmann::json;
using testing::HasSubstr;
using testing::Not;
using testing_support::Ran;
using testing_support::read_text;
using testing_support::run_in;
using testing_support::ScratchFolder;

class Client {
 public:
  explicit Client(int port) {
    socket_ = ::socket(AF_INET, SOCK_STREAM, 0);
    sockaddr_in place{};
    place.sin_family = AF_INET;
    place.sin_port = htons(static_cast<std::uint16_t>(port));
    place.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
    is_there_ = ::connect(socket_, reinterpret_cast<const sockaddr*>(&place), sizeof place) == 0;
  }
  ~Client() { ::close(socket_); }
  bool is_there() const { return is_there_; }
  bool say(const std::string& text) const { return ::send(socket_, text.data(), text.size(), MSG_NOSIGNAL) > 0; }
  /// Empty at the end.
  std::string hear() {
    while (heard_.find('\n') == std::string::npos) {
      char buffer[4096];
      const ssize_t got = ::recv(socket_, buffer, sizeof buffer, 0);
      if (got <= 0) return {};
      heard_.append(buffer, static_cast<std::size_t>(got));
    }
    const std::string line = heard_.substr(0, heard_.find('\n'));
    heard_.erase(0, line.size() + 1);
    return line;
  }
  void greet(const std::string& more = "") const {
    say(R"({"hello":1,"scenario":"night","entities":"lanterns","variants":["linked","columns"])" + more + "}\n");
  }
  static std::string answer(const std::string& line, const std::string& more = "") {
    const json asked = json::parse(line);
    json frames = json::array();
    const double ms = 0.002 * asked["count"].get<double>() * (asked["variant"] == "linked" ? 1 : 0.5);
    for (int i = 0; i < asked["frames"].get<int>(); ++i) frames.push_back(ms * (1 + 0.01 * (i % 3)));
    return "{\"done\":" + asked["next"].dump() + ",\"alive\":" + asked["count"].dump() + more +
           ",\"frames_ms\":" + frames.dump() + "}\n";
  }
  /// Until told the end, which is returned; "" if the line broke.
  std::string serve(const std::function<std::string(const std::string&, int)>& reply) {
    for (int asked = 0;; ++asked) {
      const std::string line = hear();
      if (line.empty()) return "";
      if (json::parse(line).contains("end")) return json::parse(line)["end"];
      if (!say(reply(line, asked))) return hear();
    }
  }

 private:
  int socket_ = -1;
  bool is_there_ = false;
  std::string heard_;
};

class Drives : public testing::Test {
 protected:
  Drives() { ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1); }
  ~Drives() override {
    if (tool_.joinable()) tool_.join();
  }
  /// Returns the port of `mileage drive`.
  int start(const std::string& options = "", const std::string& counts = "--counts 100..20k --blocks 2") {
    std::filesystem::remove(folder_ / "said");
    tool_ = std::thread([this, options, counts] {
      ran_ = run_in(folder_.path(), "'" MILEAGE_PROGRAM "' drive --listen 127.0.0.1:0 " + counts + " " + options +
                                        " 2>said & echo $! > pid; wait $!");
    });
    for (int i = 0; i < 200; ++i, std::this_thread::sleep_for(50ms)) {
      const std::string said = std::filesystem::exists(folder_ / "said") ? read_text(folder_ / "said") : "";
      const auto at = said.find("127.0.0.1:");
      if (at != std::string::npos && said.find(';') != std::string::npos) return std::stoi(said.substr(at + 10));
    }
    return 0;
  }
  Ran end() {
    tool_.join();
    ran_.err = read_text(folder_ / "said");
    return ran_;
  }
  ScratchFolder folder_;
  std::thread tool_;
  Ran ran_;
};

TEST_F(Drives, RunsAreCountedWithoutAnOutputNamed) {
  for (int run = 1; run <= 2; ++run) {
    Client client(start());
    ASSERT_TRUE(client.is_there());
    client.greet();
    client.serve([](const std::string& line, int) { return Client::answer(line); });
    const Ran ran = end();
    EXPECT_EQ(ran.code, 0) << ran.err;
    EXPECT_THAT(ran.out,
                HasSubstr(run == 1 ? "one process made these runs" : fmt::format("{} processes made these runs", run)));
  }
}

TEST_F(Drives, BadAnswersAreToldToBothSidesAndAreNoInterruption) {
  Client client(start());
  client.greet();
  const std::string ended = client.serve(
      [](const std::string& line, int asked) { return asked < 3 ? Client::answer(line) : std::string("rubbish\n"); });
  EXPECT_THAT(ended, HasSubstr("sent a line that is no JSON object"));
  const Ran ran = end();
  EXPECT_EQ(ran.code, 5) << "nothing was kept";
  EXPECT_THAT(ran.err, HasSubstr("the program was hung up on: it sent a line that is no JSON object"));
  EXPECT_THAT(ran.err, Not(HasSubstr("the program went")));
}

TEST_F(Drives, AnOverLongLineIsToldToBothSides) {
  Client client(start());
  client.greet();
  for (int asked = 0; asked < 4; ++asked) {
    const std::string line = client.hear();
    if (asked < 3) client.say(Client::answer(line));
  }
  const std::string much(1 << 20, 'x');
  for (int i = 0; i < 5 && client.say(much); ++i) {}
  const Ran ran = end();
  EXPECT_NE(ran.code, 130);
  EXPECT_THAT(ran.err, HasSubstr("the program was hung up on: it sent a line that is too long"));
}

TEST_F(Drives, TheLargestCountOfAProgramIsKeptTo) {
  for (const std::string max : {"1", "9223372036854775807"}) {
    Client client(start("-o most" + max + ".study.jsonl", "--blocks 1"));
    client.greet(",\"most\":" + max);
    std::int64_t largest = 0;
    client.serve([&](const std::string& line, int) {
      largest = std::max(largest, json::parse(line)["count"].get<std::int64_t>());
      return Client::answer(line);
    });
    const Ran ran = end();
    EXPECT_THAT(ran.err, Not(HasSubstr("--counts"))) << max;
    EXPECT_LE(largest, max == "1" ? 1 : 1'000'000'000);
    EXPECT_GE(largest, 1);
  }
}

TEST_F(Drives, InterruptedCallsAreRepeated) {
  const int port = start("", "--counts 10,20 --blocks 1");
  struct sigaction noticed {};
  noticed.sa_handler = [](int) {};
  struct sigaction before {};
  ::sigaction(SIGALRM, &noticed, &before);
  const itimerval often{{0, 1000}, {0, 1000}}, never{};
  ::setitimer(ITIMER_REAL, &often, nullptr);
  drive link;
  const char* variants[] = {"columns"};
  const int opened =
      drive_open(&link, ("127.0.0.1:" + std::to_string(port)).c_str(), "night", "lanterns", variants, 1, 0);
  int next = opened == 0 ? drive_next(&link) : -1;
  // A link that gets as far was not interrupted.
  ::setitimer(ITIMER_REAL, &never, nullptr);
  ::sigaction(SIGALRM, &before, nullptr);
  EXPECT_EQ(opened, 0);
  EXPECT_EQ(next, 1);
  drive_close(&link);
  end();
}

TEST_F(Drives, AProbeOfThePortDoesNotEndThem) {
  const int port = start();
  { const Client probe(port); }
  {
    Client browser(port);
    browser.say("GET / HTTP/1.1\r\n\r\n");
    EXPECT_THAT(browser.hear(), HasSubstr("end"));
  }
  Client client(port);
  client.greet();
  EXPECT_EQ(client.serve([](const std::string& line, int) { return Client::answer(line); }), "enough was seen");
  EXPECT_EQ(end().code, 0);
}

TEST_F(Drives, ACountBelowOneIsNoMost) {
  const int port = start();
  {
    Client odd(port);
    odd.greet(",\"most\":-5");
    EXPECT_THAT(odd.hear(), HasSubstr("that is no count"));
  }
  Client client(port);
  client.greet();
  client.serve([](const std::string& line, int) { return Client::answer(line); });
  EXPECT_EQ(end().code, 0);
}

TEST_F(Drives, NotRefusingIsNoRefusal) {
  Client client(start());
  client.greet();
  client.serve([](const std::string& line, int) { return Client::answer(line, ",\"refused\":false"); });
  const Ran ran = end();
  EXPECT_EQ(ran.code, 0);
  EXPECT_THAT(ran.out, Not(HasSubstr("failed")));
}

TEST_F(Drives, ASecondSignalEndsThemAtOnce) {
  Client client(start());
  client.greet();
  client.hear();  // Never answers.
  run_in(folder_.path(), "kill -INT $(cat pid); sleep 0.2; kill -INT $(cat pid)");
  EXPECT_EQ(end().code, 130);
}

TEST(DriveHeader, WithoutMemoryTheLinkIsBrokenAndTheLoopEnds) {
  drive link{};
  link.socket = ::socket(AF_INET, SOCK_STREAM, 0);
  link.frames = 20;
  int frames = 0;
  while (!drive_done(&link) && frames < 1000) {
    drive_frame(&link, 2.0);
    ++frames;
  }
  EXPECT_LT(frames, 1000) << "the loop of the documentation ends";
  EXPECT_EQ(drive_next(&link), -1);
  drive_close(&link);
}

}  // namespace
}  // namespace mileage
