// Memory aligned to cache lines, so that no 64-byte vector crosses one.
#pragma once

#include <cstddef>
#include <new>
#include <utility>
#include <vector>

namespace mileage::festival {

inline constexpr std::size_t cache_line_bytes = 64;

template <class Value>
struct LineAligned {
  using value_type = Value;

  LineAligned() = default;
  template <class Other>
  LineAligned(const LineAligned<Other>&) {}

  Value* allocate(std::size_t count) {
    return static_cast<Value*>(::operator new (count * sizeof(Value), std::align_val_t{cache_line_bytes}));
  }
  void deallocate(Value* place, std::size_t) { ::operator delete (place, std::align_val_t{cache_line_bytes}); }

  /// Left uninitialised: millions of numbers are written right after.
  template <class Made, class... From>
  void construct(Made* place, From&&... from) {
    if constexpr (sizeof...(From) == 0)
      ::new (static_cast<void*>(place)) Made;
    else
      ::new (static_cast<void*>(place)) Made(std::forward<From>(from)...);
  }

  bool operator==(const LineAligned&) const { return true; }
};

template <class Value>
using LineVector = std::vector<Value, LineAligned<Value>>;

}  // namespace mileage::festival
