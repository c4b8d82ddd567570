// Lanterns separated by sort, so that loops have one kind and one number of inner steps.
#pragma once

#include <cstdint>
#include <vector>

#include "festival/drift/drift_world.h"
#include "festival/drift/lantern_columns.h"

namespace mileage::festival {

/// `Part`: LanternColumns or LeanLanterns.
template <class Part>
class SortedLanterns {
 public:
  explicit SortedLanterns(const Sorting& sorting) : sorting_(sorting), sorts_(sorting.sorts()), parts_(sorts_.size()) {}

  std::int64_t size() const { return count_; }

  /// Initial lanterns [from, to), with exact capacity.
  void set_afloat(std::uint64_t seed, std::int64_t from, std::int64_t to) {
    make_room(to - from, [&](std::int64_t i) { return lantern_set_afloat(seed, from + i).key; });
    for (std::int64_t i = from; i < to; ++i) append(lantern_set_afloat(seed, i));
  }

  /// Reserves exactly; `key_of(i)`: key of the i-th new lantern.
  template <class KeyOf>
  void make_room(std::int64_t more, const KeyOf& key_of) {
    if (parts_.size() == 1) return parts_.front().reserve(count_ + more);
    std::vector<std::int64_t> of_part(parts_.size());
    for (std::int64_t i = 0; i < more; ++i) ++of_part[part_of(key_of(i))];
    for (std::size_t part = 0; part < parts_.size(); ++part) parts_[part].reserve(parts_[part].size() + of_part[part]);
  }

  /// Needs capacity.
  void append(const Lantern& one) {
    const std::size_t part = part_of(one.key);
    if (parts_.size() > 1) places_.push_back({static_cast<std::uint32_t>(part), parts_[part].size()});
    parts_[part].append(one);
    ++count_;
  }

  void set(std::int64_t index, const Lantern& one) { part_at(index).set(row_at(index), one); }
  void push(std::int64_t index, float vx, float vy) { part_at(index).set_velocity(row_at(index), vx, vy); }
  Lantern lantern(std::int64_t index) const { return parts_[place_at(index).part].lantern(place_at(index).row); }

  std::vector<Part>& parts() { return parts_; }
  Sort sort(std::size_t part) const { return sorts_[part]; }

 private:
  struct Place {
    std::uint32_t part;
    std::int64_t row;
  };

  std::size_t part_of(std::uint32_t key) const { return sorting_.place_of(sorting_.sort_of(key)); }
  Place place_at(std::int64_t index) const {
    return parts_.size() == 1 ? Place{0, index} : places_[static_cast<std::size_t>(index)];
  }
  Part& part_at(std::int64_t index) { return parts_[place_at(index).part]; }
  std::int64_t row_at(std::int64_t index) const { return place_at(index).row; }

  Sorting sorting_;
  std::vector<Sort> sorts_;  ///< By part.
  std::vector<Part> parts_;
  std::vector<Place> places_;
  std::int64_t count_ = 0;
};

using SortedColumns = SortedLanterns<LanternColumns>;

/// On one thread.
inline void carry_all_columns(SortedColumns& columns, const FrameWork& work, Vectors vectors) {
  for (std::size_t part = 0; part < columns.parts().size(); ++part) {
    const Sort sort = columns.sort(part);
    LanternColumns& lanterns = columns.parts()[part];
    lanterns.carry_range(0, lanterns.size(), work.of(sort), carry_strip(vectors, sort.kind));
  }
}

}  // namespace mileage::festival
