// Common part of the mirrored variants: objects are authoritative; a frame has three phases.
#pragma once

#include <cstdint>
#include <optional>

#include "festival/drift/lantern_objects.h"
#include "festival/drift/sorted_lanterns.h"

namespace mileage::festival {

inline constexpr const char* gather_phase = "gather";
inline constexpr const char* update_phase = "update";
inline constexpr const char* write_back_phase = "write back";

/// Variants define gathering, updating and writing back.
class MirroredLanterns : public DriftVariant {
 public:
  explicit MirroredLanterns(const SetUp& set_up)
      : DriftVariant(set_up), objects_(set_up, sorting(), 0, set_up.count), columns_(sorting()) {}

  std::int64_t alive() const final { return objects_.size(); }

 protected:
  /// Existing objects, then new ones.
  virtual void gather(Frame&) {
    for (std::int64_t i = 0; i < columns().size(); ++i) columns().set(i, objects_.at(i).lantern());
    append_new();
  }
  /// Returns the number of updates.
  virtual std::int64_t update(const FrameWork& work, Frame&) {
    carry_all_columns(columns(), work, Vectors::usual);
    return alive();
  }
  virtual void write_back(Frame&) { write_back(0, alive()); }

  LanternObjects& objects() { return objects_; }
  SortedColumns& columns() { return *columns_; }
  void make_columns() { columns_.emplace(sorting()); }
  void free_columns() { columns_.reset(); }

  void append_new() {
    const std::int64_t first = columns().size();
    if (first == alive()) return;
    columns().make_room(alive() - first, [&](std::int64_t i) { return objects_.at(first + i).lantern().key; });
    while (columns().size() < alive()) columns().append(objects_.at(columns().size()).lantern());
  }
  void write_back(std::int64_t from, std::int64_t to) {
    for (std::int64_t i = from; i < to; ++i) objects_.at(i).set(columns().lantern(i));
  }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame& frame) final {
    if (has(gather_phase)) {
      const auto phase = frame.phase(gather_phase);
      gather(frame);
    } else {
      append_new();
    }
    std::int64_t updates = 0;
    {
      const auto phase = frame.phase(update_phase);
      updates = update(work, frame);
    }
    if (has(write_back_phase)) {
      const auto phase = frame.phase(write_back_phase);
      write_back(frame);
    }
    return updates;
  }

  void add_lanterns(std::int64_t more) final { objects_.add(more); }
  void push(std::int64_t index, float vx, float vy) override { objects_.at(index).push(vx, vy); }
  Lantern lantern(std::int64_t index) const final { return objects_.at(index).lantern(); }

  LanternObjects objects_;
  std::optional<SortedColumns> columns_;
};

}  // namespace mileage::festival
