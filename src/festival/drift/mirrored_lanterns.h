// What the mirrored variants share: objects that stay the truth.
#pragma once

#include <cstdint>

#include "festival/drift/lantern_objects.h"
#include "festival/drift/sorted_lanterns.h"

namespace mileage::festival {

inline constexpr const char* gather_phase = "gather";
inline constexpr const char* update_phase = "update";
inline constexpr const char* write_back_phase = "write back";

class MirroredLanterns : public DriftVariant {
 public:
  explicit MirroredLanterns(const SetUp& set_up) : DriftVariant(set_up), objects_(set_up, sorting(), 0, set_up.count) {}

  std::int64_t alive() const final { return objects_.size(); }

 protected:
  LanternObjects& objects() { return objects_; }

  /// Copies all objects into columns: those that have a place there already, and those that have none yet.
  void gather_into(SortedColumns& columns) {
    for (std::int64_t i = 0; i < columns.size(); ++i) columns.set(i, objects_.at(i).lantern());
    append_new(columns);
  }
  /// Copies objects that have no place in the columns yet.
  void append_new(SortedColumns& columns) {
    const std::int64_t first = columns.size();
    if (first == alive()) return;
    columns.make_room(alive() - first, [&](std::int64_t i) { return objects_.at(first + i).lantern().key; });
    while (columns.size() < alive()) columns.append(objects_.at(columns.size()).lantern());
  }
  void write_back(const SortedColumns& columns, std::int64_t from, std::int64_t to) {
    for (std::int64_t i = from; i < to; ++i) objects_.at(i).set(columns.lantern(i));
  }

 private:
  void add_lanterns(std::int64_t more) final { objects_.add(more); }
  void push(std::int64_t index, float vx, float vy) override { objects_.at(index).push(vx, vy); }
  Lantern lantern(std::int64_t index) const final { return objects_.at(index).lantern(); }

  LanternObjects objects_;
};

}  // namespace mileage::festival
