#include "measure/loop/run_recorder.h"

#include <gtest/gtest.h>

#include "measure/loop/scripted_state.h"
#include "types/error.h"

namespace mileage {
namespace {

class Recorder : public testing::Test {
 protected:
  mileage::Run make(std::int64_t count, int block = 0) {
    Progress progress;
    return state_->recorder.make({{"objects", {}}, {}, count, block, RunStatus::kept}, progress);
  }
  scripted::ScriptedState state_{{{"objects", 50}}, scripted::counts({100, 1000})};
};

TEST_F(Recorder, NumbersRunsAndKeepsWhatTheyTeach) {
  std::vector<int> kept;
  state_.watch.keep = [&](const mileage::Run& run) { kept.push_back(run.order); };
  make(100);
  make(1000);
  EXPECT_EQ(kept, (std::vector<int>{0, 1}));
  EXPECT_EQ(state_->recorder.judge().fast_ns(), 100);
  EXPECT_GT(state_->recorder.runs_s(), 0);
  EXPECT_EQ(state_.runs()[1].process, 1) << "a process each";
}

TEST_F(Recorder, ARunThatTheYardstickCondemnsIsDisturbed) {
  for (int i = 0; i < 5; ++i) EXPECT_EQ(make(100).status, RunStatus::kept);
  state_.yardstick_ns = 250;
  EXPECT_EQ(make(100).status, RunStatus::disturbed);
}

TEST_F(Recorder, SeedsOfACountInABlockAreThoseOfAllItsSeries) {
  EXPECT_EQ(make(100, 1).seed, make(100, 1).seed);
  EXPECT_NE(make(100, 1).seed, make(100, 2).seed);
  EXPECT_NE(make(100, 1).seed, make(1000, 1).seed);
  EXPECT_LT(make(100, 1).seed, std::uint64_t{1} << 53U) << "no reader of the file rounds it";
}

TEST_F(Recorder, TakesRunsOfAnEarlierRunInTheirOrder) {
  const std::vector<mileage::Run> made{make(100), make(1000)};
  SystemClock clock;
  class Nobody : public Runner {
   public:
    MadeBy made_by() const override { return MadeBy::program; }
    std::vector<Scenario> describe() override { return {}; }
    mileage::Run run(const RunRequest& request, double) override { return failed_run(request, "nobody is there"); }
  } nobody;
  const Watch watch;
  RunRecorder replaying(state_.head, made, nobody, clock, watch);
  Progress progress;
  EXPECT_EQ(replaying.make({{"objects", {}}, {}, 100, 0}, progress).samples_ns, made[0].samples_ns);
  EXPECT_TRUE(replaying.is_replaying());
  EXPECT_THROW(replaying.make({{"objects", {}}, {}, 777, 0}, progress), Error) << "another study";
}

}  // namespace
}  // namespace mileage
