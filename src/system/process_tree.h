#pragma once

#include <sys/types.h>

#include <set>

namespace mileage {

/// Of all threads; may be empty.
std::set<pid_t> children_of(pid_t process);

/// Excluding `process`. Above `exact_above_bytes` shared memory counts once (walks page tables, which disturbs a run).
/// 50 us per process.
double resident_bytes_below(pid_t process, double exact_above_bytes);

}  // namespace mileage
