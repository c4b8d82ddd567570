// Items by series, to walk through a study once.
#pragma once

#include <map>
#include <tuple>
#include <vector>

#include "study/study.h"

namespace mileage {

struct SeriesOrder {
  bool operator()(const Series& a, const Series& b) const {
    return std::tie(a.variant, a.build, a.cold_bytes, a.skipped_phase, a.knobs) <
           std::tie(b.variant, b.build, b.cold_bytes, b.skipped_phase, b.knobs);
  }
};

template <class Item>
class BySeries {
 public:
  void add(const Series& series, Item item) { items_[series].push_back(item); }
  /// In order of insertion; may be empty.
  const std::vector<Item>& of(const Series& series) const {
    const auto found = items_.find(series);
    return found == items_.end() ? none_ : found->second;
  }

 private:
  std::map<Series, std::vector<Item>, SeriesOrder> items_;
  std::vector<Item> none_;
};

}  // namespace mileage
