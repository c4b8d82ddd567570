#include "measure/machine/process_facts.h"

#include <vector>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(ProcessFacts, ProcessorTimeGrowsWithWork) {
  const std::int64_t thread_before = thread_busy_ns();
  const std::int64_t all_before = processor_ns();
  volatile double sum = 0;
  for (int i = 0; i < 3'000'000; ++i) sum = sum + i;
  EXPECT_GT(thread_busy_ns(), thread_before);
  EXPECT_GE(processor_ns() - all_before, thread_busy_ns() - thread_before - 1'000'000);
}

TEST(ProcessFacts, ResidentMemoryHoldsWhatIsTouched) {
  const double before = resident_bytes();
  const std::vector<char> touched(std::size_t{32} << 20U, 'x');
  EXPECT_GT(resident_bytes() - before, 24e6);
  EXPECT_GE(peak_resident_bytes(), resident_bytes() - 1e6);
  EXPECT_EQ(touched[5], 'x');
}

TEST(ProcessFacts, LoadIsOverTheTimeThatPassed) {
  // Two cores: one busy for half of 100 s, a tenth stolen.
  const LoadReading before{10, 5, 1000};
  const LoadReading after{10 + 50, 5 + 10, 1000 + 100};
  const auto load = load_between(before, after);
  ASSERT_TRUE(load);
  EXPECT_DOUBLE_EQ(load->stolen_share, 0.1);
  EXPECT_GT(load->busy_cores, 0);
  EXPECT_FALSE(load_between(before, before)) << "no time passed";
}

#if defined(__x86_64__)
TEST(FloatMode, IsToldWhereItIsNotTheUsualOne) {
  EXPECT_EQ(float_mode(), "");
  const unsigned usual = __builtin_ia32_stmxcsr();
  __builtin_ia32_ldmxcsr(usual | 0x8040U);
  const std::string mode = float_mode();
  __builtin_ia32_ldmxcsr(usual);
  EXPECT_EQ(mode, "flush to zero and small operands are zero");
}
#endif

}  // namespace
}  // namespace mileage
