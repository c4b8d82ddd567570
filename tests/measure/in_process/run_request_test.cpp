#include "measure/in_process/run_request.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace mileage {
namespace {

RunRequest night() { return {"night", {"objects", {}}, 100, 7}; }

TEST(RunRequest, AFailedRunIsTheOneAskedForWithAReason) {
  const mileage::Run run = failed_run(night(), "ended by SIGSEGV");
  EXPECT_EQ(run.status, RunStatus::failed);
  EXPECT_EQ(run.series.variant, "objects");
  EXPECT_EQ(run.count, 100);
  EXPECT_EQ(run.seed, 7U);
  EXPECT_EQ(run.failure, "ended by SIGSEGV");
}

TEST(RunRequest, ReasonsAreCleanedAndCut) {
  const std::string reason =
      failed_run(night(), "no /home/somebody/night.csv\x1b[31m\n" + std::string(5000, 'x')).failure;
  EXPECT_THAT(reason, testing::StartsWith("no night.csv"));
  EXPECT_EQ(reason.find('\x1b'), std::string::npos);
  EXPECT_EQ(reason.find('\n'), std::string::npos);
  EXPECT_LT(reason.size(), 700U);
}

}  // namespace
}  // namespace mileage
