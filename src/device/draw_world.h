// World of draw: lanterns, sway, view.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "mileage/types/variant.h"

namespace mileage::device {

/// Knob `pixels`; 16:9.
struct PictureSize {
  int width;
  int height;
};
/// Default first.
std::vector<std::string> picture_sizes();

/// Initial lantern: 8 floats, shader layout.
struct Afloat {
  float x_m = 0;  ///< Across the river.
  float z_m = 0;  ///< Away from the viewer; negative behind.
  float scale = 1;
  float turn = 0;    ///< Own axis, radians.
  float swing = 0;   ///< Phase of the sway, turns.
  float glow = 1;    ///< Of the flame.
  float number = 0;  ///< Index, exact up to 16 million.
  float kind = 0;
};

/// Lantern in a frame: 8 floats, shader layout.
struct Placed {
  float x_m, y_m, z_m, scale;
  float cosine, sine;  ///< Of its turn.
  float glow, number;
};

/// Indices are floats on the device.
inline constexpr std::int64_t max_lanterns = 16'000'000;

/// Lanterns by kind, then single ones. Depends on count, seed and the knobs kinds, parts, facets, size, view, pixels,
/// single, regroup. Throws Error (variant) beyond max_lanterns.
struct DrawWorld {
  explicit DrawWorld(const SetUp& set_up);

  int kinds = 0;
  int parts = 0;
  int facets = 0;
  float changing = 0;  ///< Share changing kind per frame.
  PictureSize size{};
  std::vector<Afloat> lanterns;
  std::vector<std::int64_t> first_of_kind;  ///< kinds + 1 places; the last is the first single lantern's.

  std::int64_t count() const { return static_cast<std::int64_t>(lanterns.size()); }
  std::int64_t count_of_kind(int kind) const;
  std::int64_t first_single() const { return first_of_kind.back(); }

  /// In place; kinds are then mixed.
  void change_kinds();
  /// Sorts by kind again.
  void regroup();

 private:
  std::vector<Afloat> sorting_;  ///< For regroup().
};

/// Metres of a picture position: `across` in [-1, 1], `along` in [0, 1) evenly over the visible water.
struct OnRiver {
  float x_m;
  float z_m;
};
OnRiver on_river(float across, float along);
/// GLSL: `vec2 on_river(float across, float along)`.
std::string on_river_in_shaders();

/// Bobs, turns and flickers in place.
Placed placed(const Afloat& lantern, float time_s);
/// GLSL: `void place(vec4 a, vec4 b, float time, out vec4 p, out vec4 q)`.
const char* placed_in_shaders();

/// View-projection matrix, column-major, from a bridge.
std::array<float, 16> camera();
/// Origin of lantern distances.
inline constexpr float viewer_z_m = -4;
float distance_m(const Placed& lantern);
/// Of one metre at one metre distance; decreases with distance.
float height_px_at_1m(PictureSize size);

}  // namespace mileage::device
