#include "measure/runners/visit_bracket.h"

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

class Bracket : public testing::Test {
 protected:
  /// A visit between yardsticks that read these in turn, the last one for ever.
  Visit bracketed(std::vector<double> readings, bool comes_to_something = true) {
    std::size_t next = 0;
    scripted::ScriptedYardstick yardstick(
        [&] { return readings[next + 1 < readings.size() ? next++ : readings.size() - 1]; });
    const Instruments instruments{&clock_, &yardstick, nullptr};
    VisitBracket bracket(request_, instruments);
    bracket.before_frames();
    if (comes_to_something) bracket.after_frames();
    Visit visit;
    bracket.tell(visit);
    return visit;
  }

  scripted::VirtualClock clock_;
  VisitRequest request_;
};

TEST_F(Bracket, TakesTheYardstickBeforeAndAfter) {
  const Visit visit = bracketed({100, 130});
  ASSERT_TRUE(visit.yardstick);
  EXPECT_EQ(visit.yardstick->before.arithmetic_ns, 100);
  EXPECT_EQ(visit.yardstick->after.arithmetic_ns, 130);
  EXPECT_EQ(visit.waited_s, 0);
  EXPECT_FALSE(visit.load) << "nobody reads it";
}

TEST_F(Bracket, WaitsForSeveralQuietLooks) {
  request_.quiet_below_ns = 110;
  request_.patience_s = 1;
  const Visit visit = bracketed({200, 200, 100, 200, 100, 100, 100, 100});
  EXPECT_NEAR(visit.waited_s, 6 * pause_between_looks_s, 1e-9) << "a single quiet look is not believed";
  EXPECT_EQ(visit.yardstick->before.arithmetic_ns, 100);
}

TEST_F(Bracket, LosesItsPatience) {
  request_.quiet_below_ns = 110;
  request_.patience_s = 0.1;
  EXPECT_NEAR(bracketed({200, 200}).waited_s, 0.1, 1e-9);
}

TEST_F(Bracket, AVisitThatCameToNothingAndACheckHaveNone) {
  EXPECT_FALSE(bracketed({100, 100}, false).yardstick);
  request_.check_frames = 20;
  EXPECT_FALSE(bracketed({100, 100}).yardstick);
}

}  // namespace
}  // namespace mileage
