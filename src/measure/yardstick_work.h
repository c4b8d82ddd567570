// The work of the yardstick. Compiled by itself with fixed flags, whatever the build type (see CMakeLists.txt), so that
// rebuilding a program does not change it. Change yardstick_version with it.
#pragma once

#include <cstddef>

namespace mileage {

inline constexpr std::size_t yardstick_memory_bytes = std::size_t{2} << 20;

/// Twelve independent chains of multiplications and additions on four floats each: more of them are in flight than the
/// processor can start at once, so that throughput bounds it and not latency.
void yardstick_arithmetic();

/// Reads and writes every double of the memory once.
void yardstick_memory(double* memory);

}  // namespace mileage
