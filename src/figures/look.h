// The look of figures and page, in one place: night-blue ink on paper white, lantern amber for what matters, series
// distinguished by hue, marker and dash.
#pragma once

#include <array>
#include <cstddef>

namespace mileage::look {

inline constexpr const char* paper = "#fdfcf8";
inline constexpr const char* ink = "#16243d";
inline constexpr const char* faint_ink = "#8a93a5";
inline constexpr const char* rule = "#dcdcd4";
inline constexpr const char* amber = "#d98200";

/// Hue and marker (gnuplot's number) of the variants, by their place in the scenario.
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

/// From the ninth on hues come again, each with another marker, and not the next one, which stands for a neighbour: 64
/// variants differ significantly.
inline Mark mark_of(int rank) {
  const auto place = static_cast<std::size_t>(rank);
  return {marks[place % marks.size()].colour, marks[(place + 3 * (place / marks.size())) % marks.size()].point};
}

}  // namespace mileage::look
