// Memory bandwidth beyond the caches.
#pragma once

#include <map>
#include <string>

#include "study/study.h"

namespace mileage {

/// Bytes per second read and written by adding to each word in place, for one core and all (Machine::pass_bytes_per_s).
/// Fastest of a few passes over twice the largest cache (32 to 256 MiB). 0.1 s.
std::map<std::string, double> pass_speeds(const Machine& machine);

}  // namespace mileage
