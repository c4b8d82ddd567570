// World of jostle: a basin with eddies that attract lanterns, which push each other apart and come to rest. How pairs
// are found is up to each variant. Pushes are summed as integers, so that processor variants agree exactly.
#pragma once

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <vector>

#include "mileage/types/variant.h"

namespace mileage::festival::jostle {

inline constexpr float radius_m = 0.15F;
inline constexpr float diameter_m = 2 * radius_m;
inline constexpr float reach_squared = diameter_m * diameter_m;
inline constexpr float stiffness = 400.0F;           ///< 1/s^2, per overlap.
inline constexpr float steps_of_a_push = 1 << 14;    ///< Per 1 m/s^2.
inline constexpr float wakes_from_m_per_s = 0.06F;   ///< Speed that wakes touched sleepers.
inline constexpr float still_below_m_per_s = 0.02F;  ///< Falls asleep after still_frames below it.
inline constexpr int still_frames = 12;
inline constexpr float drawn_m_per_s2 = 4.0F;  ///< Towards an eddy's middle, at most.
inline constexpr float slowed_per_s = 3.0F;    ///< Damping.

/// Bits of a lantern's state.
inline constexpr std::uint8_t asleep = 1;
inline constexpr std::uint8_t fast = 2;

/// Two vectors of four.
inline constexpr std::int64_t at_once = 8;

/// Columns, in any order.
struct Lanterns {
  std::vector<float> x, y;  ///< Padded with distant places for vector reads.
  std::vector<float> vx, vy;
  std::vector<std::int32_t> number;          ///< From 0, permanent.
  std::vector<std::int32_t> push_x, push_y;  ///< In steps; 0 before pairs are found.
  std::vector<std::uint8_t> state;           ///< Bits asleep and fast.
  std::vector<std::uint8_t> still;           ///< Consecutive frames.
  std::vector<std::uint8_t> woken;           ///< 1 if woken.

  std::int64_t size() const { return static_cast<std::int64_t>(number.size()); }
  void resize(std::int64_t size);
  /// Copies lantern `from` of another world to place `to`, before pushes.
  void take(const Lanterns& other, std::size_t from, std::size_t to) {
    x[to] = other.x[from];
    y[to] = other.y[from];
    vx[to] = other.vx[from];
    vy[to] = other.vy[from];
    number[to] = other.number[from];
    state[to] = other.state[from];
    still[to] = other.still[from];
    push_x[to] = push_y[to] = 0;
    woken[to] = 0;
  }
};

struct Found {
  std::int64_t tested = 0;
  std::int64_t contacts = 0;
  std::int64_t overlap = 0;  ///< In micrometres.

  Found& operator+=(const Found& other) {
    tested += other.tested;
    contacts += other.contacts;
    overlap += other.overlap;
    return *this;
  }
};

/// Both, or only the first if each lantern tests all its neighbours.
enum class Moves { both, first };

/// A contact is counted per call; with Moves::first that is twice per pair.
template <Moves moves>
inline void meet(Lanterns& lanterns, std::int64_t a, std::int64_t b, Found& found) {
  const auto one = static_cast<std::size_t>(a);
  const auto other = static_cast<std::size_t>(b);
  const float dx = lanterns.x[one] - lanterns.x[other];
  const float dy = lanterns.y[one] - lanterns.y[other];
  const float squared = dx * dx + dy * dy;
  if (squared >= reach_squared) return;
  const float distance = std::sqrt(squared);
  const float overlap = diameter_m - distance;
  ++found.contacts;
  found.overlap += static_cast<std::int64_t>(overlap * 1e6F);
  const std::uint8_t here = lanterns.state[one];
  const std::uint8_t there = lanterns.state[other];
  if ((here & there & asleep) != 0) return;
  // At equal places the lower number goes left.
  const float apart = lanterns.number[one] < lanterns.number[other] ? -1.0F : 1.0F;
  const float away_x = distance > 1e-6F ? dx / distance : apart;
  const float away_y = distance > 1e-6F ? dy / distance : 0.0F;
  const float push = stiffness * steps_of_a_push * overlap;
  const auto push_x = static_cast<std::int32_t>(push * away_x);
  const auto push_y = static_cast<std::int32_t>(push * away_y);
  lanterns.push_x[one] += push_x;
  lanterns.push_y[one] += push_y;
  if ((there & fast) != 0) lanterns.woken[one] = 1;
  if constexpr (moves == Moves::both) {
    lanterns.push_x[other] -= push_x;
    lanterns.push_y[other] -= push_y;
    if ((here & fast) != 0) lanterns.woken[other] = 1;
  }
}

/// Bit mask of overlapping places, with explicit vectors: the compiler does not vectorise this loop.
inline unsigned near_ones(const float* x, const float* y, float own_x, float own_y) {
  using Floats = float __attribute__((vector_size(16)));
  using Ints = std::int32_t __attribute__((vector_size(16)));
  constexpr Ints bits{1, 2, 4, 8};
  Ints near{};
  for (int half = 0; half < 2; ++half) {
    Floats xs, ys;
    std::memcpy(&xs, x + 4 * half, sizeof xs);
    std::memcpy(&ys, y + 4 * half, sizeof ys);
    const Floats dx = own_x - xs;
    const Floats dy = own_y - ys;
    near |= (dx * dx + dy * dy < reach_squared) & (bits << (4 * half));
  }
  return static_cast<unsigned>(near[0] | near[1] | near[2] | near[3]);
}

/// Tests one place against [from, to), several at once; most are far away.
inline void meet_all(Lanterns& lanterns, std::int64_t a, std::int64_t from, std::int64_t to, Found& found) {
  found.tested += to - from;
  const float* const x = lanterns.x.data();
  const float* const y = lanterns.y.data();
  const float own_x = x[a];
  const float own_y = y[a];
  for (std::int64_t b = from; b < to; b += at_once) {
    unsigned near = near_ones(x + b, y + b, own_x, own_y);
    if (to - b < at_once) near &= (1U << (to - b)) - 1;
    for (; near != 0; near &= near - 1) meet<Moves::both>(lanterns, a, b + std::countr_zero(near), found);
  }
}

struct Basin {
  float side_m = 1;
  float eddy_m = 1;  ///< Distance of eddies.

  /// Size for this number of lanterns and covered share.
  static Basin of(std::int64_t lanterns, double density);
};

/// Common part of jostle's variants. Knobs density, rest, launch, together.
class JostleVariant : public Variant {
 public:
  explicit JostleVariant(const SetUp& set_up);

  void run_frame(Frame& frame) final;
  std::int64_t alive() const final { return lanterns_.size(); }
  Outcome outcome() const final;
  Picture picture() const final;

 protected:
  const SetUp& set_up() const { return set_up_; }
  const Basin& basin() const { return basin_; }
  /// May be reordered.
  Lanterns& lanterns() { return lanterns_; }
  const Lanterns& lanterns() const { return lanterns_; }
  const Found& found() const { return found_; }
  bool rests() const { return rests_; }
  /// Speed kept per frame.
  float kept_a_frame() const { return 1.0F / (1.0F + slowed_per_s * static_cast<float>(set_up_.step_s)); }

  /// For variants that store lanterns elsewhere: filled by look().
  Lanterns& seen() const { return lanterns_; }
  void describe_overlap(std::int64_t overlap) const { found_.overlap = overlap; }

  /// Applies and clears pushes of places [from, to); returns the number awake.
  std::int64_t move(std::int64_t from, std::int64_t to);

 private:
  /// Finds overlapping pairs and pushes them.
  virtual Found push_apart(Frame& frame) = 0;
  /// Returns the number awake.
  virtual std::int64_t move_all(Frame&) { return move(0, alive()); }
  /// Copies lanterns here if stored elsewhere.
  virtual void look() const {}
  /// A lantern was moved or arrived.
  virtual void was_set_afloat(std::size_t) {}

  void add_to_rafts(std::int64_t lanterns);
  void add_anywhere(std::int64_t lanterns);
  void launch(Frame& frame);
  void stop_at_banks(float& place, float& speed) const;
  void set_afloat(std::size_t place, float x, float y);

  SetUp set_up_;
  Basin basin_;
  bool rests_;
  mutable Lanterns lanterns_;
  mutable Found found_;
  std::int64_t awake_ = 0;
  std::int64_t frame_ = 0;
};

}  // namespace mileage::festival::jostle
