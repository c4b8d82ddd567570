// Numbers that depend on seed and index alone.
#pragma once

#include <cstdint>

namespace mileage::festival {

/// splitmix64's mixing step (Steele, Lea and Flood 2014).
inline std::uint64_t mixed(std::uint64_t value) {
  value += 0x9e3779b97f4a7c15U;
  value = (value ^ (value >> 30)) * 0xbf58476d1ce4e5b9U;
  value = (value ^ (value >> 27)) * 0x94d049bb133111ebU;
  return value ^ (value >> 31);
}

/// The upper 24 bits as a number in [0, 1).
inline float share_of(std::uint64_t bits) { return static_cast<float>(bits >> 40) * 0x1p-24F; }

}  // namespace mileage::festival
