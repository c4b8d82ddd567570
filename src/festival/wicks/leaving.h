#pragma once

#include <algorithm>
#include <vector>

#include "festival/wicks/wicks_world.h"

namespace mileage::festival::wicks {

/// Removes burnt wicks in one pass, keeping order.
inline void move_up(std::vector<Wick>& all) {
  all.erase(std::remove_if(all.begin(), all.end(), [](const Wick& wick) { return wick.is_out(); }), all.end());
}

inline void let_last_take_place(std::vector<Wick>& all, std::size_t place) {
  all[place] = all.back();
  all.pop_back();
}

}  // namespace mileage::festival::wicks
