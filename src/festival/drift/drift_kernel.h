// The arithmetic of one drifting lantern, shared by every processor variant so that they differ in memory and
// scheduling alone. Everything here is inline, without branches and without library calls other than square root and
// absolute value, so that a loop over columns of lanterns can be vectorised for any target.
#pragma once

#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>

namespace mileage::festival {

/// Edge of the square pond in metres; positions lie in [0, pond_edge_m], to within rounding.
inline constexpr float pond_edge_m = 256.0F;

/// What one inner step needs to know besides the lantern itself. `salt` differs for every inner step of every frame and
/// drives the random streams; `phase` is where the slow swing of the wind stands, in turns.
struct Moment {
  float step_s = 0;
  float phase = 0;
  std::uint32_t salt = 0;
};

/// sin(2 pi t) to within 0.0011, for |t| below 2^20 turns. Parabola with one correction step; no branch, no call.
inline float wave(float turns) {
  const float nearest = static_cast<float>(static_cast<std::int32_t>(turns + std::copysign(0.5F, turns)));
  const float t = turns - nearest;
  const float parabola = 8.0F * t - 16.0F * t * std::fabs(t);
  return 0.775F * parabola + 0.225F * parabola * std::fabs(parabola);
}

/// A well-mixed number in [0, 1) for one lantern at one moment: counter-based, so that it does not depend on the order
/// in which lanterns are visited. Two rounds of xor-shift and multiply over `key` and `salt`.
inline float draw(std::uint32_t key, std::uint32_t salt) {
  std::uint32_t bits = key ^ salt;
  bits ^= bits >> 16;
  bits *= 0x7feb352dU;
  bits ^= bits >> 15;
  bits *= 0x846ca68bU;
  bits ^= bits >> 16;
  return static_cast<float>(static_cast<std::int32_t>(bits >> 8)) * 0x1p-24F;
}

/// Brings a coordinate that left the pond by less than one edge back in on the other side.
inline float wrap(float metres) {
  const float over = static_cast<float>(static_cast<std::int32_t>(metres * (1.0F / pond_edge_m) + 1.0F)) - 1.0F;
  return metres - over * pond_edge_m;
}

/// What the sorts of lantern differ by: each has code of its own, with numbers of its own compiled in.
struct Temper {
  float along, across;     ///< How hard the two swells pull.
  float swirl_x, swirl_y;  ///< And the swirl.
  float follow;            ///< How fast velocity follows the field, per second.
  float unrest;            ///< How far the flame may wander in one step.
};
inline constexpr int max_kinds = 8;
inline constexpr std::array<Temper, max_kinds> tempers{{{1.6F, 1.1F, 0.9F, -0.7F, 1.5F, 0.12F},
                                                        {1.4F, 1.2F, 0.8F, -0.6F, 1.2F, 0.10F},
                                                        {1.7F, 0.9F, 1.0F, -0.8F, 1.8F, 0.14F},
                                                        {1.2F, 1.3F, 0.6F, -0.9F, 1.1F, 0.08F},
                                                        {1.8F, 1.0F, 0.7F, -0.5F, 1.6F, 0.13F},
                                                        {1.5F, 1.4F, 1.1F, -0.4F, 1.3F, 0.11F},
                                                        {1.3F, 0.8F, 0.5F, -1.0F, 1.9F, 0.09F},
                                                        {1.9F, 1.5F, 1.2F, -0.3F, 1.0F, 0.15F}}};

/// One inner step of one lantern of a kind, in place: wind and water at its place pull at its velocity, it moves and
/// wraps at the borders, its flame flickers by its own random stream, and it leans along its velocity.
///   x_m, y_m   place on the pond                 height_m  flame above still water
///   vx, vy, vz velocity in metres per second     age_s     seconds since it was set afloat
///   flicker    brightness of the flame, 0..1     lean      diamond angle of the velocity, -1..3: grows with
///   key        names its random stream                     atan2(vy, vx) and equals it at every multiple of 45
///   degrees,
///                                                          in quarter turns
template <int kind>
inline void carry(const Moment& now, float& x_m, float& y_m, float& height_m, float& vx, float& vy, float& vz,
                  float& age_s, float& flicker, float& lean, std::uint32_t key) {
  constexpr Temper own = tempers[static_cast<std::size_t>(kind)];
  // Wind and water: two crossing swells and a slow swirl, periodic over the pond.
  const float u = x_m * (1.0F / pond_edge_m);
  const float v = y_m * (1.0F / pond_edge_m);
  const float along = wave(2.0F * u + 3.0F * v + now.phase);
  const float across = wave(3.0F * u - 2.0F * v - 0.5F * now.phase);
  const float swirl = wave(u + 0.25F) * wave(v);
  const float pull_x = own.along * along + own.swirl_x * swirl;
  const float pull_y = own.across * across + own.swirl_y * swirl;
  const float swell_m = 0.20F * along * across;

  // Velocity relaxes towards the field, the height towards the swell.
  const float follow = own.follow * now.step_s;
  vx += (pull_x - vx) * follow;
  vy += (pull_y - vy) * follow;
  vz += (4.0F * (swell_m + 0.35F - height_m) - vz) * follow;

  x_m = wrap(x_m + vx * now.step_s);
  y_m = wrap(y_m + vy * now.step_s);
  height_m += vz * now.step_s;
  age_s += now.step_s;

  // One step of the lantern's own random stream: a flicker that wanders about one half.
  const float chance = draw(key, now.salt);
  flicker += (0.5F - flicker) * (2.0F * now.step_s) + (chance - 0.5F) * own.unrest;

  // Diamond angle instead of atan2: along the rhombus |x| + |y| = 1.
  const float reach = std::fabs(vx) + std::fabs(vy) + 1e-6F;
  const float slope = vy / reach;
  const float heading = 1.0F - std::copysign(1.0F, vx) * (1.0F - slope);
  lean += (heading - lean) * (4.0F * now.step_s);
}

}  // namespace mileage::festival
