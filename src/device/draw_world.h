// The world of draw, as all its variants see it: which lanterns float where, how they sway, and from where they are
// seen.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "mileage/types/variant.h"

namespace mileage::device {

/// Size of the picture: knob `pixels`. All are 16 to 9.
struct PictureSize {
  int width;
  int height;
};
/// The values that the knob takes, the default first.
std::vector<std::string> picture_sizes();

/// One lantern as it is set afloat: 8 floats, as shaders read it.
struct Afloat {
  float x_m = 0;  ///< Across the river,
  float z_m = 0;  ///< and away from the viewer; negative behind.
  float scale = 1;
  float turn = 0;    ///< About its own axis, in radians.
  float swing = 0;   ///< Where its sway stands, in turns.
  float glow = 1;    ///< Brightness of the flame.
  float number = 0;  ///< Its index, exact up to 16 million.
  float kind = 0;
};

/// One lantern in one frame: 8 floats, as shaders read it.
struct Placed {
  float x_m, y_m, z_m, scale;
  float cosine, sine;  ///< Of its turn.
  float glow, number;
};

/// Most lanterns of a world: their numbers are floats on the device.
inline constexpr std::int64_t max_lanterns = 16'000'000;

/// All lanterns of a set-up: those that can be drawn together kind after kind, then the single ones. Depends on count,
/// seed and the knobs kinds, parts, facets, size, view, pixels, single and regroup alone. Throws Error (variant) beyond
/// max_lanterns.
struct DrawWorld {
  explicit DrawWorld(const SetUp& set_up);

  int kinds = 0;
  int parts = 0;
  int facets = 0;
  float changing = 0;  ///< Share of the lanterns that change their kind with every frame.
  PictureSize size{};
  std::vector<Afloat> lanterns;
  std::vector<std::int64_t> first_of_kind;  ///< kinds + 1 places; the last one is that of the first single lantern.

  std::int64_t count() const { return static_cast<std::int64_t>(lanterns.size()); }
  std::int64_t count_of_kind(int kind) const;
  std::int64_t first_single() const { return first_of_kind.back(); }

  /// Those that change become the next kind, where they stand; kinds no longer lie together.
  void change_kinds();
  /// Brings kinds together again.
  void regroup();

 private:
  std::vector<Afloat> sorting_;  ///< Room for regroup().
};

/// Metres across the river and away from the viewer of a place in the picture: `across` in [-1, 1], and `along` in [0,
/// 1), by which places are spread evenly over the water that is seen.
struct OnRiver {
  float x_m;
  float z_m;
};
OnRiver on_river(float across, float along);
/// The same for shaders: `vec2 on_river(float across, float along)`.
std::string on_river_in_shaders();

/// Where a lantern is at a time: it bobs, turns and flickers in place.
Placed placed(const Afloat& lantern, float time_s);
/// The same for shaders: `void place(vec4 a, vec4 b, float time, out vec4 p, out vec4 q)`.
const char* placed_in_shaders();

/// Projection and view in one, by columns: from metres to the picture. The viewer stands on a bridge.
std::array<float, 16> camera();
/// Where the viewer stands: a lantern's distance is counted from there, over the water.
inline constexpr float viewer_z_m = -4;
float distance_m(const Placed& lantern);
/// Height on the picture of what is one metre high, one metre ahead of the viewer. It falls with the distance along the
/// view.
float height_px_at_1m(PictureSize size);

}  // namespace mileage::device
