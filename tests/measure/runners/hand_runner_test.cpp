#include "measure/runners/hand_runner.h"

#include <gmock/gmock.h>

#include "support/scratch.h"

namespace mileage {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing_support::ScratchFolder;
using testing_support::write_text;

/// After each poll the person does what is next in the script.
class PatientClock : public Clock {
 public:
  std::int64_t now_ns() override { return now_ns_; }
  void pause_ns(std::int64_t ns) override {
    now_ns_ += ns;
    if (++looks_ % 8 == 0 && next_ < deeds.size()) deeds[next_++]();
  }
  std::vector<std::function<void()>> deeds;

 private:
  std::int64_t now_ns_ = 0;
  int looks_ = 0;
  std::size_t next_ = 0;
};

std::string table(int frames, double ms, int alive) {
  std::string text = "frame_ms,alive\n";
  for (int i = 0; i < frames; ++i)
    text += std::to_string(ms * (1 + 0.03 * (i % 4))) + "," + std::to_string(alive) + "\n";
  return text;
}

class ByHand : public testing::Test {
 protected:
  mileage::Run take_run() {
    Scenario scenario;
    scenario.entities = "lanterns";
    HandRunner runner(scenario, folder_.path(),
                      {[this](const std::string& line) { said_.push_back(line); }, [this] { return stop_; }}, clock_);
    return runner.run(request_, 10);
  }
  void save(const std::string& text) { write_text(folder_ / HandRunner::file_name(request_), text); }

  ScratchFolder folder_;
  PatientClock clock_;
  RunRequest request_{"night", {"second", {}}, 12'000, 0xabcd1234, 20, 20};
  std::vector<std::string> said_;
  bool stop_ = false;
};

TEST_F(ByHand, SaysWhatToRecordAndTakesTheFile) {
  clock_.deeds = {[&] { save(table(60, 5, 12'000)); }};
  const mileage::Run run = take_run();
  EXPECT_EQ(run.count, 12'000);
  EXPECT_EQ(run.warmup_ns.size() + run.samples_ns.size(), 60U);
  EXPECT_THAT(said_,
              ElementsAre("12000 lanterns, second, same viewpoint: record about 20 s, save as second-12000-1234.csv",
                          HasSubstr("taken: 60 frames")));
}

TEST_F(ByHand, RefusesWithTheReasonAndWaitsForABetterOne) {
  clock_.deeds = {[&] { save("frame_ms\nx\n"); }, [&] { save(table(5, 5, 12'000)); },
                  [&] { save(table(61, 5, 11'000)); }, [&] { save(table(63, 5, 12'000)); }};
  EXPECT_EQ(take_run().count, 12'000);
  ASSERT_EQ(said_.size(), 5U);
  EXPECT_THAT(said_[1], HasSubstr("not taken"));
  EXPECT_THAT(said_[1], HasSubstr("not a number"));
  EXPECT_THAT(said_[2], HasSubstr("5 frames are too few"));
  EXPECT_THAT(said_[3], HasSubstr("12000 were asked for, and it holds 11000"));
}

std::string capped_table() {
  std::string text = "frame_ms\n";
  for (int i = 0; i < 62; ++i) text += "16.6667\n";
  return text;
}

TEST_F(ByHand, ACapIsWarnedOfAtOneCountAndRefusedAtTheNext) {
  Scenario scenario;
  scenario.entities = "lanterns";
  HandRunner runner(scenario, folder_.path(),
                    {[this](const std::string& line) { said_.push_back(line); }, [] { return false; }}, clock_);
  clock_.deeds = {[&] { save(capped_table()); }};
  EXPECT_EQ(runner.run(request_, 10).count, 12'000);
  EXPECT_THAT(said_, testing::Contains(HasSubstr("at one count alone")));
  request_.count = 6000;
  clock_.deeds.insert(clock_.deeds.end(), {[&] { save(capped_table()); }, [&] { save(table(63, 3, 6000)); }});
  EXPECT_EQ(runner.run(request_, 10).samples_ns.front() / 1'000'000, 3);
  EXPECT_THAT(said_, testing::Contains(testing::AllOf(HasSubstr("not taken"), HasSubstr("record uncapped"))));
}

TEST_F(ByHand, StopsInTheMiddleOfARun) {
  clock_.deeds = {[&] { stop_ = true; }};
  EXPECT_THROW(take_run(), HandRunner::Stopped);
}

TEST_F(ByHand, EveryRunHasAFileOfItsOwn) {
  const std::string first = HandRunner::file_name(request_);
  request_.seed += 1;
  EXPECT_NE(HandRunner::file_name(request_), first);
  request_.series.knobs.set("batch", 64.0);
  EXPECT_THAT(HandRunner::file_name(request_), HasSubstr("second-batch=64-12000-"));
}

}  // namespace
}  // namespace mileage
