#include "measure/machine/yardstick_work.h"

#include <vector>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(YardstickWork, WritesEveryDoubleOfItsMemoryAndNothingBeside) {
  const std::size_t size = yardstick_memory_bytes / sizeof(double);
  std::vector<double> memory(size + 1, 3.0);
  memory[size] = -7;
  yardstick_memory(memory.data());
  std::size_t untouched = 0;
  for (std::size_t i = 0; i < size; ++i) untouched += memory[i] == 3.0;
  EXPECT_EQ(untouched, 0U);
  EXPECT_EQ(memory[size], -7);
}

TEST(YardstickWork, ItsMemoryStaysFiniteHoweverOftenItIsWalked) {
  std::vector<double> memory(yardstick_memory_bytes / sizeof(double), 1.0);
  for (int walk = 0; walk < 200; ++walk) yardstick_memory(memory.data());
  for (const double value : memory) ASSERT_LT(value * value, 1e300);
  yardstick_arithmetic();  // ends
}

}  // namespace
}  // namespace mileage
