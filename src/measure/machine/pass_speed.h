// How fast this machine reads and writes memory far beyond its caches.
#pragma once

#include <map>
#include <string>

#include "study/study.h"

namespace mileage {

/// Bytes read and written in a second by a bare pass that adds to each word in place, by how many cores do it at once:
/// one, and all of them (Machine::pass_bytes_per_s). The blocks are together twice the largest cache, 32 MiB at least
/// and 256 MiB at most: the fastest of a few passes. Takes about 0.1 s.
std::map<std::string, double> pass_speeds(const Machine& machine);

}  // namespace mileage
