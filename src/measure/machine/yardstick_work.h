// The work of the yardstick. Compiled by itself with fixed flags, whatever the build type (see CMakeLists.txt), so that
// rebuilding a program does not change it. Change yardstick_version with it.
#pragma once

namespace mileage {

/// Twelve independent chains on four lanes each: eight of shifts, exclusive ors and additions of whole numbers, four of
/// multiplications and additions. That keeps more kinds of the processor's units busy than either alone: beside a busy
/// sibling it slows down by 1.7, as vectorised frames do, where multiplications and additions alone slow down by 1.25.
/// In registers alone, so that caches stay as the frame before left them. About 15 us.
void yardstick_work();

}  // namespace mileage
