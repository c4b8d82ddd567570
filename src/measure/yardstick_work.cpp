#include "measure/yardstick_work.h"

namespace mileage {
namespace {

using Wide = float __attribute__((vector_size(16)));

constexpr int chains = 12;
constexpr int rounds = 20'000;

/// Somebody might look at it: keeps the compiler from dropping the work.
volatile float witness;

}  // namespace

void yardstick_arithmetic() {
  Wide state[chains];
  for (int i = 0; i < chains; ++i) state[i] = Wide{1, 2, 3, 4} + static_cast<float>(i);
  const Wide factor = {0.9999F, 0.9998F, 0.9997F, 0.9996F};
  const Wide offset = {1e-3F, 2e-3F, 3e-3F, 4e-3F};
  for (int round = 0; round < rounds; ++round)
    for (int i = 0; i < chains; ++i) state[i] = state[i] * factor + offset;
  Wide sum = state[0];
  for (int i = 1; i < chains; ++i) sum += state[i];
  witness = sum[0] + sum[1] + sum[2] + sum[3];
}

void yardstick_memory(double* memory) {
  for (std::size_t i = 0; i < yardstick_memory_bytes / sizeof(double); ++i) memory[i] = memory[i] * 0.5 + 0.5;
}

}  // namespace mileage
