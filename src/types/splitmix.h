#pragma once

#include <cstdint>

namespace mileage {

/// Mixing step of splitmix64: G. L. Steele, D. Lea and C. H. Flood, "Fast splittable pseudorandom number generators",
/// OOPSLA 2014 (variant 13 of D. Stafford's finalisers).
inline std::uint64_t splitmix64(std::uint64_t value) {
  value += 0x9e3779b97f4a7c15U;
  value = (value ^ (value >> 30)) * 0xbf58476d1ce4e5b9U;
  value = (value ^ (value >> 27)) * 0x94d049bb133111ebU;
  return value ^ (value >> 31);
}

}  // namespace mileage
