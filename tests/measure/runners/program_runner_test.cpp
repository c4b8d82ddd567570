#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "measure/runners/program_runner.h"
#include "support/scratch.h"
#include "types/error.h"

namespace mileage {
namespace {

using testing::HasSubstr;

mileage::Run run_of(const char* variant, double limit_s = 20) {
  return ProgramRunner(MILEAGE_ODD_PROGRAM).run({"odd", {variant, {}}, 1, 1, 5, 1}, limit_s);
}

struct Misdeed {
  const char* variant;
  const char* reason;
};
void PrintTo(const Misdeed& misdeed, std::ostream* out) { *out << misdeed.variant << ": " << misdeed.reason; }
class MisbehavingVariant : public testing::TestWithParam<Misdeed> {};

TEST_P(MisbehavingVariant, BecomesAFailedRunWithAPlainReason) {
  const mileage::Run run = run_of(GetParam().variant);
  EXPECT_EQ(run.status, RunStatus::failed);
  EXPECT_THAT(run.failure, HasSubstr(GetParam().reason));
}

INSTANTIATE_TEST_SUITE_P(ProgramRunner, MisbehavingVariant,
                         testing::Values(Misdeed{"throws", "the variant threw: the wick is wet"},
                                         Misdeed{"worker-throws", "SIGABRT"},
                                         Misdeed{"worker-throws", "the wick of a worker is wet"},
                                         Misdeed{"crashes", "SIGSEGV"}, Misdeed{"aborts", "SIGABRT"},
                                         Misdeed{"leaves", "exit code 3"}));

TEST(ProgramRunner, AVariantThatHangsIsEndedAtItsLimit) {
  const mileage::Run run = run_of("hangs", 0.7);
  EXPECT_EQ(run.status, RunStatus::failed);
  EXPECT_THAT(run.failure, HasSubstr("longer than its limit of 0.7 s"));
}

TEST(ProgramRunner, AVariantThatAllocatesWithoutEndIsEndedAtItsLimit) {
  const mileage::Run run =
      ProgramRunner(MILEAGE_ODD_PROGRAM, {.memory_bytes = 100e6}).run({"odd", {"allocates", {}}, 1, 1, 5, 1}, 20);
  EXPECT_EQ(run.status, RunStatus::failed);
  EXPECT_THAT(run.failure, HasSubstr("more memory than its limit of 0.1 GB"));
}

TEST(ProgramRunner, WhatAVariantPrintsIsNotTakenForItsAnswer) {
  const mileage::Run run = run_of("chatters");
  EXPECT_EQ(run.status, RunStatus::kept) << run.failure;
  EXPECT_GE(run.samples_ns.size(), 5U);
}

TEST(ProgramRunner, EveryRunIsAProcessOfItsOwn) {
  EXPECT_EQ(run_of("behaves").status, RunStatus::kept);
  EXPECT_EQ(run_of("crashes").status, RunStatus::failed);
  EXPECT_EQ(run_of("behaves").status, RunStatus::kept);
}

TEST(ProgramRunner, AsksAProgramWhatItOffers) {
  const auto scenarios = ProgramRunner(MILEAGE_ODD_PROGRAM).describe();
  ASSERT_EQ(scenarios.size(), 1U);
  EXPECT_EQ(scenarios[0].name, "odd");
  EXPECT_EQ(scenarios[0].variants.size(), 12U);
}

TEST(ProgramRunner, SaysWhenAProgramDoesNotAnswerAtAll) {
  EXPECT_THROW(ProgramRunner("/bin/true").describe(), Error);
  EXPECT_THROW(ProgramRunner("/no/such/program").describe(), Error);
  EXPECT_THAT(ProgramRunner("/no/such/program").run({"odd", {"behaves", {}}, 1, 1, 1, 1}, 5).failure,
              HasSubstr("could not be started"));
}

TEST(OwnMain, AnOrdinaryRunGoesOnAsIfNothingWas) {
  const auto ran = testing_support::run_in(".", std::string("'") + MILEAGE_ODD_PROGRAM + "' --mileage");
  EXPECT_EQ(ran.code, 0);
  EXPECT_EQ(ran.out, "an ordinary run\n");
}

}  // namespace
}  // namespace mileage
