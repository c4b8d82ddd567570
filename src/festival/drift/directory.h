// Shared objects found by name, as large programs distribute settings.
#pragma once

#include <string>
#include <unordered_map>

namespace mileage::festival {

class Directory {
 public:
  /// `thing` must outlive the directory, or be replaced under its name.
  void offer(const std::string& name, const void* thing);

  /// Throws std::out_of_range if nothing was offered.
  template <class Thing>
  const Thing& find(const std::string& name) const {
    return *static_cast<const Thing*>(thing(name));
  }

 private:
  /// In its own source: a real call and look-up each time.
  const void* thing(const std::string& name) const;

  std::unordered_map<std::string, const void*> things_;
};

}  // namespace mileage::festival
