// Compiled with fixed flags, whatever the build type (CMakeLists.txt). Change yardstick_version with it.
#pragma once

namespace mileage {

/// Twelve independent chains of four lanes: eight of shifts, xors and integer additions, four of multiply-adds. Next to
/// a busy sibling it slows by 1.7x, like vectorised frames; multiply-adds alone slow by 1.25x. Registers only, so that
/// caches stay warm.
void yardstick_work();

}  // namespace mileage
