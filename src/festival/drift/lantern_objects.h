// Objects of drift, in order of use.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "festival/drift/lantern_object.h"

namespace mileage::festival {

/// Knobs scatter and ballast.
class LanternObjects {
 public:
  /// Lanterns [from, to).
  LanternObjects(const SetUp& set_up, const Sorting& sorting, std::int64_t from, std::int64_t to);

  std::int64_t size() const { return static_cast<std::int64_t>(objects_.size()); }
  LanternObject& at(std::int64_t index) { return *objects_[static_cast<std::size_t>(index)]; }
  const LanternObject& at(std::int64_t index) const { return *objects_[static_cast<std::size_t>(index)]; }
  void add(std::int64_t more);

  auto begin() const { return objects_.begin(); }
  auto end() const { return objects_.end(); }

 private:
  std::uint64_t seed_;
  std::int64_t first_;
  Sorting sorting_;
  std::size_t ballast_;
  std::vector<std::unique_ptr<LanternObject>> objects_;
};

}  // namespace mileage::festival
