// Arithmetic of one drifting lantern, shared by all processor variants. Inline, without branches and calls other than
// sqrt and fabs, so that loops over columns vectorise.
#pragma once

#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>

namespace mileage::festival {

/// Edge of the square pond; positions are in [0, pond_edge_m], up to rounding.
inline constexpr float pond_edge_m = 256.0F;

/// `salt` differs for every inner step and seeds the random streams; `phase` of the slow wind swing in turns.
struct Moment {
  float step_s = 0;
  float phase = 0;
  std::uint32_t salt = 0;
};

/// sin(2 pi t) to within 0.0011, for |t| below 2^20 turns: parabola with one correction step.
inline float wave(float turns) {
  const float nearest = static_cast<float>(static_cast<std::int32_t>(turns + std::copysign(0.5F, turns)));
  const float t = turns - nearest;
  const float parabola = 8.0F * t - 16.0F * t * std::fabs(t);
  return 0.775F * parabola + 0.225F * parabola * std::fabs(parabola);
}

/// Counter-based random number in [0, 1), independent of the order of calls: two rounds of xor-shift and multiply over
/// `key` and `salt`.
inline float draw(std::uint32_t key, std::uint32_t salt) {
  std::uint32_t bits = key ^ salt;
  bits ^= bits >> 16;
  bits *= 0x7feb352dU;
  bits ^= bits >> 15;
  bits *= 0x846ca68bU;
  bits ^= bits >> 16;
  return static_cast<float>(static_cast<std::int32_t>(bits >> 8)) * 0x1p-24F;
}

/// Wraps a coordinate that left the pond by less than one edge.
inline float wrap(float metres) {
  const float over = static_cast<float>(static_cast<std::int32_t>(metres * (1.0F / pond_edge_m) + 1.0F)) - 1.0F;
  return metres - over * pond_edge_m;
}

/// Parameters of a kind of lantern; each kind has its own compiled code.
struct Temper {
  float along, across;     ///< Pull of the two swells.
  float swirl_x, swirl_y;  ///< Pull of the swirl.
  float follow;            ///< Relaxation rate of velocity, per second.
  float unrest;            ///< Flame change per step.
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

  // Velocity relaxes towards the field, height towards the swell.
  const float follow = own.follow * now.step_s;
  vx += (pull_x - vx) * follow;
  vy += (pull_y - vy) * follow;
  vz += (4.0F * (swell_m + 0.35F - height_m) - vz) * follow;

  x_m = wrap(x_m + vx * now.step_s);
  y_m = wrap(y_m + vy * now.step_s);
  height_m += vz * now.step_s;
  age_s += now.step_s;

  // Random flicker around one half.
  const float chance = draw(key, now.salt);
  flicker += (0.5F - flicker) * (2.0F * now.step_s) + (chance - 0.5F) * own.unrest;

  // Diamond angle instead of atan2, along |x| + |y| = 1.
  const float reach = std::fabs(vx) + std::fabs(vy) + 1e-6F;
  const float slope = vy / reach;
  const float heading = 1.0F - std::copysign(1.0F, vx) * (1.0F - slope);
  lean += (heading - lean) * (4.0F * now.step_s);
}

}  // namespace mileage::festival
