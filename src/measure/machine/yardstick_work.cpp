#include "measure/machine/yardstick_work.h"

#include <cstdint>

namespace mileage {
namespace {

using Floats = float __attribute__((vector_size(16)));
using Words = std::uint32_t __attribute__((vector_size(16)));

constexpr int float_chains = 4;
constexpr int word_chains = 8;
constexpr int rounds = 3'200;

/// Keeps the compiler from dropping the work.
volatile float float_witness;
volatile std::uint32_t word_witness;

}  // namespace

void yardstick_work() {
  Floats floats[float_chains];
  Words words[word_chains];
  for (int i = 0; i < float_chains; ++i) floats[i] = Floats{1, 2, 3, 4} + static_cast<float>(i);
  for (int i = 0; i < word_chains; ++i) words[i] = Words{1, 2, 3, 4} + static_cast<std::uint32_t>(i);
  for (int round = 0; round < rounds; ++round) {
    for (int i = 0; i < word_chains; ++i) {
      words[i] ^= words[i] >> 16;
      words[i] += words[i] << 3;
    }
    for (int i = 0; i < float_chains; ++i) floats[i] = floats[i] * 0.999F + 0.001F;
  }
  for (int i = 1; i < word_chains; ++i) words[0] += words[i];
  for (int i = 1; i < float_chains; ++i) floats[0] += floats[i];
  word_witness = words[0][0] + words[0][1] + words[0][2] + words[0][3];
  float_witness = floats[0][0] + floats[0][1] + floats[0][2] + floats[0][3];
}

}  // namespace mileage
