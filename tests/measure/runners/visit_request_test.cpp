#include "measure/runners/visit_request.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace mileage {
namespace {

VisitRequest night() { return {"night", {"objects", {}}, 100, 7}; }

TEST(VisitRequest, AFailedVisitIsTheOneAskedForWithAReason) {
  const Visit visit = failed_visit(night(), "ended by SIGSEGV");
  EXPECT_EQ(visit.status, VisitStatus::failed);
  EXPECT_EQ(visit.series.variant, "objects");
  EXPECT_EQ(visit.count, 100);
  EXPECT_EQ(visit.seed, 7U);
  EXPECT_EQ(visit.failure, "ended by SIGSEGV");
}

TEST(VisitRequest, ReasonsAreCleanedAndCut) {
  const std::string reason =
      failed_visit(night(), "no /home/somebody/night.csv\x1b[31m\n" + std::string(5000, 'x')).failure;
  EXPECT_THAT(reason, testing::StartsWith("no night.csv"));
  EXPECT_EQ(reason.find('\x1b'), std::string::npos);
  EXPECT_EQ(reason.find('\n'), std::string::npos);
  EXPECT_LT(reason.size(), 700U);
}

}  // namespace
}  // namespace mileage
