// The world of jostle, as all its variants see it: a square basin with eddies that draw lanterns together, lanterns
// that push each other apart where they overlap, and come to rest. Who finds the pairs that overlap is up to each
// variant.
//
// Pushes are added up in whole steps, so that their sum is the same in whatever order pairs are found: all ways that
// run on the processor agree to the last bit, however long a world runs.
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
inline constexpr float stiffness = 400.0F;         ///< Of a push: 1 / s^2, by the overlap.
inline constexpr float steps_of_a_push = 1 << 14;  ///< To 1 m/s^2.
inline constexpr float wakes_from_m_per_s =
    0.06F;  ///< A lantern that moves so fast wakes the sleepers that it touches.
inline constexpr float still_below_m_per_s = 0.02F;  ///< So slow for still_frames in a row, a lantern falls asleep.
inline constexpr int still_frames = 12;
inline constexpr float drawn_m_per_s2 = 4.0F;  ///< Towards the middle of an eddy, at most.
inline constexpr float slowed_per_s = 3.0F;    ///< By the water, of the speed.

/// Bits of a lantern's state.
inline constexpr std::uint8_t asleep = 1;
inline constexpr std::uint8_t fast = 2;

/// Places that are tested at once: two vectors of four.
inline constexpr std::int64_t at_once = 8;

/// Lanterns as columns, in an order that suits the variant.
struct Lanterns {
  std::vector<float> x, y;  ///< With a few more at the end, far away, so that a look at several at once may pass it.
  std::vector<float> vx, vy;
  std::vector<std::int32_t> number;          ///< From 0, for life.
  std::vector<std::int32_t> push_x, push_y;  ///< In steps; 0 before pairs are found.
  std::vector<std::uint8_t> state;           ///< Bits asleep and fast.
  std::vector<std::uint8_t> still;           ///< Frames in a row.
  std::vector<std::uint8_t> woken;           ///< 1 where something wakes it.

  std::int64_t size() const { return static_cast<std::int64_t>(number.size()); }
  void resize(std::int64_t size);
  /// Takes over lantern `from` of another world into place `to`, before it is pushed.
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

/// What finding pairs came to.
struct Found {
  std::int64_t tested = 0;
  std::int64_t contacts = 0;
  std::int64_t overlap = 0;  ///< Summed, in steps of a micrometre.

  Found& operator+=(const Found& other) {
    tested += other.tested;
    contacts += other.contacts;
    overlap += other.overlap;
    return *this;
  }
};

/// Whom a push moves: both of the pair, or the first one alone where every lantern looks at all its neighbours itself.
enum class Moves { both, first };

/// Two places that are tested push each other apart where they overlap. A contact is counted by each call: where only
/// the first one moves, both of a pair count it.
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
  // At the very same place the one with the lower number goes left.
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

/// Which of `at_once` neighbouring places overlap this one, a bit for each. In vectors of the compiler's: its own
/// vectoriser leaves such a loop alone.
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

/// A place is tested against those from `from` up to `to`, several at once: most of them are far away, and one look
/// tells that of all.
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

/// Where lanterns may be, and what draws them together.
struct Basin {
  float side_m = 1;
  float eddy_m = 1;  ///< From one eddy to the next.

  /// So large that this many lanterns cover this share of it.
  static Basin of(std::int64_t lanterns, double density);
};

/// What all variants share: setting afloat, launching, moving, resting, and stating the outcome. Knobs density, rest,
/// launch and together.
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
  /// May be put into another order.
  Lanterns& lanterns() { return lanterns_; }
  const Lanterns& lanterns() const { return lanterns_; }
  const Found& found() const { return found_; }
  bool rests() const { return rests_; }
  /// What of its speed a lantern keeps in a frame.
  float kept_a_frame() const { return 1.0F / (1.0F + slowed_per_s * static_cast<float>(set_up_.step_s)); }

  /// For variants whose lanterns lie elsewhere: what look() fills in.
  Lanterns& seen() const { return lanterns_; }
  void describe_overlap(std::int64_t overlap) const { found_.overlap = overlap; }

  /// Moves the lanterns at places [from, to) by their pushes, which are 0 then. Returns how many of them are awake.
  std::int64_t move(std::int64_t from, std::int64_t to);

 private:
  /// Finds the pairs that overlap, and has them push.
  virtual Found push_apart(Frame& frame) = 0;
  /// Moves all lanterns. Returns how many are awake.
  virtual std::int64_t move_all(Frame&) { return move(0, alive()); }
  /// Brings the lanterns here up to what they are, where they lie elsewhere.
  virtual void look() const {}
  /// A lantern was set afloat again, or came.
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
