// Colors and markers of figures and page.
#pragma once

#include <array>
#include <cstddef>

namespace mileage::look {

inline constexpr const char* paper = "#fdfcf8";
inline constexpr const char* ink = "#16243d";
inline constexpr const char* faint_ink = "#8a93a5";
inline constexpr const char* rule = "#dcdcd4";
inline constexpr const char* amber = "#d98200";

/// Hue and gnuplot marker, by rank.
struct Mark {
  const char* colour;
  int point;
};
inline constexpr std::array<Mark, 8> marks{{{"#a63d40", 7},
                                            {"#2f7f79", 5},
                                            {"#5b4b9a", 9},
                                            {"#2b6cb0", 13},
                                            {"#7a7a1f", 11},
                                            {"#9b4f80", 6},
                                            {"#4f6d3a", 4},
                                            {"#60656f", 8}}};

/// Hues repeat from the ninth, with other markers: 64 distinct variants.
inline Mark mark_of(int rank) {
  const auto place = static_cast<std::size_t>(rank);
  return {marks[place % marks.size()].colour, marks[(place + 3 * (place / marks.size())) % marks.size()].point};
}

}  // namespace mileage::look
