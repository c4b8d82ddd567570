// What every target is: a function that takes any bytes, and ends whatever they are. Refusing them with Error is well;
// any other exception, a crash, or a round trip that changes something is a finding.
#pragma once

#include <cstddef>
#include <cstdint>
#include <cstdlib>
#include <iostream>
#include <string>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

namespace mileage::fuzz {

inline std::string text_of(const std::uint8_t* data, std::size_t size) {
  return {reinterpret_cast<const char*>(data), size};
}

/// Ends the process where something that must hold does not.
inline void must(bool holds, const std::string& what) {
  if (holds) return;
  std::cerr << "does not hold: " << what << '\n';
  std::abort();
}

}  // namespace mileage::fuzz
