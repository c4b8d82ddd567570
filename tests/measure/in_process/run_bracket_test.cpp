#include "measure/in_process/run_bracket.h"

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

class Bracket : public testing::Test {
 protected:
  scripted::VirtualClock clock_;
  RunRequest request_;
  double probe_ns_ = 100;
  int probes_ = 0;
  int interrupted_ = 0;  ///< Number of probes that take 4 ms.
  scripted::ScriptedYardstick yardstick_{[this] {
    ++probes_;
    const double ns = interrupted_-- > 0 ? 4e6 : probe_ns_;
    clock_.pass(static_cast<std::int64_t>(ns));
    return ns;
  }};
  Instruments instruments_{&clock_, &yardstick_, nullptr};

  /// Tell how long a probe takes.
  static constexpr int before_frames_ = 3;

  static mileage::Run told_by(const RunBracket& bracket) {
    mileage::Run run;
    bracket.tell(run);
    return run;
  }
};

TEST_F(Bracket, ProbesForAWhileBeforeAndAfterFrames) {
  probe_ns_ = 20'000;
  RunBracket bracket(request_, instruments_);
  bracket.before_frames();
  EXPECT_EQ(probes_, 1000) << "20 ms of 20 us";
  probe_ns_ = 40'000;
  bracket.after_frames();
  EXPECT_EQ(probes_, 1500);
  const mileage::Run run = told_by(bracket);
  ASSERT_TRUE(run.yardstick);
  EXPECT_NEAR(run.yardstick->one_half_ns, 20'000, 1e-6);
  EXPECT_NEAR(run.yardstick->other_half_ns, 40'000, 1e-6);
  EXPECT_FALSE(run.load) << "nobody reads it";
}

TEST_F(Bracket, AYardstickThatTakesNoTimeKeepsNobody) {
  probe_ns_ = 0.001;
  RunBracket bracket(request_, instruments_);
  bracket.before_frames();
  EXPECT_LE(probes_, 4000);
}

TEST_F(Bracket, ProbesAfterTheSamplesOfAMillisecondAndHalvesTakeTurns) {
  RunBracket bracket(request_, instruments_);
  bracket.expect_samples(0.4e6);
  for (const bool is_probed : {false, false, true, false, false, true}) {
    EXPECT_EQ(bracket.between_frames(), is_probed);
    if (is_probed) probe_ns_ = 200;
  }
  EXPECT_EQ(probes_, before_frames_ + 2);
  bracket.after_last_frame();
  EXPECT_EQ(probes_, before_frames_ + 2);
  const mileage::Run run = told_by(bracket);
  EXPECT_NEAR(run.yardstick->one_half_ns, 100, 1e-9);
  EXPECT_NEAR(run.yardstick->other_half_ns, 200, 1e-9);
  EXPECT_EQ(bracket.probes_ns(), 300);
}

TEST_F(Bracket, ProbesLongSamplesOnceForEachOfTheirMilliseconds) {
  RunBracket bracket(request_, instruments_);
  bracket.expect_samples(5e6);
  EXPECT_TRUE(bracket.between_frames());
  EXPECT_EQ(probes_, before_frames_ + 5);
  probe_ns_ = 200;
  EXPECT_TRUE(bracket.between_frames());
  EXPECT_NEAR(told_by(bracket).yardstick->one_half_ns, 100, 1e-9) << "probes in a row are of one half";
  bracket.expect_samples(300e6);
  EXPECT_TRUE(bracket.between_frames());
  EXPECT_EQ(probes_, 2 * before_frames_ + 26) << "sixteen at most in a row";
}

TEST_F(Bracket, SlowProbesAreFewer) {
  probe_ns_ = 36'000;
  RunBracket bracket(request_, instruments_);
  bracket.expect_samples(0.5e6);
  for (int sample = 1; sample <= 8; ++sample) EXPECT_EQ(bracket.between_frames(), sample % 4 == 0) << "55 of 36 us";
  const mileage::Run run = told_by(bracket);
  ASSERT_TRUE(run.yardstick);
  EXPECT_EQ(run.yardstick->probes, 2) << "none of those before the frames";
}

TEST_F(Bracket, AnInterruptedProbeMakesNoneRare) {
  RunBracket bracket(request_, instruments_);
  interrupted_ = 2;
  bracket.expect_samples(1e6);
  EXPECT_TRUE(bracket.between_frames());
}

TEST_F(Bracket, ProbesSeveralCoresLessOftenAndSaysSo) {
  RunBracket bracket(request_, instruments_);
  bracket.probe_on(2);
  bracket.expect_samples(1e6);
  for (int sample = 1; sample <= 8; ++sample) EXPECT_EQ(bracket.between_frames(), sample % 4 == 0);
  EXPECT_EQ(told_by(bracket).yardstick->cores, 2);
}

TEST_F(Bracket, TellsWhatProbesSpend) {
  static std::int64_t spent_ns = 0;
  instruments_.spent = [] {
    spent_ns += 1000;
    return SpentReading{spent_ns, 2 * spent_ns};
  };
  RunBracket bracket(request_, instruments_);
  bracket.expect_samples(1e6);
  bracket.between_frames();
  bracket.between_frames();
  EXPECT_EQ(bracket.spent().thread_ns, 2000);
  EXPECT_EQ(bracket.spent().processor_ns, 4000);
}

TEST_F(Bracket, ARunOfFewShortFramesIsProbedAtItsEnd) {
  RunBracket bracket(request_, instruments_);
  bracket.expect_samples(1000);
  EXPECT_FALSE(bracket.between_frames());
  bracket.after_last_frame();
  EXPECT_EQ(told_by(bracket).yardstick->probes, 2);
}

TEST_F(Bracket, ARunThatCameToNothingAndACheckHaveNone) {
  RunBracket failed(request_, instruments_);
  failed.before_frames();
  EXPECT_FALSE(told_by(failed).yardstick);
  request_.check_frames = 20;
  RunBracket check(request_, instruments_);
  check.before_frames();
  EXPECT_FALSE(check.between_frames());
  check.after_last_frame();
  check.after_frames();
  EXPECT_FALSE(told_by(check).yardstick);
}

}  // namespace
}  // namespace mileage
