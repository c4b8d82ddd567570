// The work of the yardstick. Compiled by itself with fixed flags, whatever the build type (see CMakeLists.txt), so that
// rebuilding a program does not change it. Change yardstick_version with it.
#pragma once

#include <cstddef>

namespace mileage {

inline constexpr std::size_t yardstick_memory_bytes = std::size_t{2} << 20;

/// Twelve independent chains on four lanes each: eight of shifts, exclusive ors and additions of whole numbers, four of
/// multiplications and additions. That keeps more kinds of the processor's units busy than either alone: beside a busy
/// sibling it slows down by 1.7, as vectorised frames do, where multiplications and additions alone slow down by 1.25.
void yardstick_arithmetic();

/// Reads and writes every double of the memory once.
void yardstick_memory(double* memory);

}  // namespace mileage
