// What the festival's objects share, found by name: the way large programs hand out their settings.
#pragma once

#include <string>
#include <unordered_map>

namespace mileage::festival {

class Directory {
 public:
  /// `thing` must outlive the directory, or be offered again under its name.
  void offer(const std::string& name, const void* thing);

  /// What was offered under a name, as what it was offered as. Throws std::out_of_range where nothing was.
  template <class Thing>
  const Thing& find(const std::string& name) const {
    return *static_cast<const Thing*>(thing(name));
  }

 private:
  /// In a source of its own: a real call and a real look-up each time.
  const void* thing(const std::string& name) const;

  std::unordered_map<std::string, const void*> things_;
};

}  // namespace mileage::festival
