// The world of moths, as all its variants see it: lanterns that drift, go out and are replaced, and moths that fly to
// the lantern they remember, or to the nearest one where that is gone or they look again. How a moth finds either is up
// to each variant; lanterns lie in one array, and the last one takes the place of one that goes out.
#pragma once

#include <cstdint>
#include <vector>

#include "mileage/types/variant.h"

namespace mileage::festival::moths {

/// Fastest drift of a lantern along each axis.
inline constexpr float drift_m_per_s = 0.5F;

struct Lanterns {
  std::vector<float> x, y;
  std::vector<std::uint32_t> number;  ///< For life; new ones go on counting.
  std::vector<std::uint32_t> slot;    ///< Of its handle.

  std::size_t size() const { return x.size(); }
};

/// Names a lantern: a slot is used again, its generation is not.
struct Handle {
  std::uint32_t slot = 0;
  std::uint32_t generation = 0;
};

struct Moth {
  float x = 0;
  float y = 0;
  bool remembers = false;
  std::uint32_t number = 0;  ///< Of the lantern that it remembers,
  Handle handle;             ///< its handle,
  std::uint32_t place = 0;   ///< and where it lay when it was found.
};

inline constexpr std::uint32_t nowhere = 0xffffffff;

/// The nearest lantern so far; of two as near the one with the lower number.
struct Nearest {
  float squared = 1e30F;
  std::uint32_t number = nowhere;
  std::uint32_t place = nowhere;

  void look_at(const Lanterns& lanterns, std::size_t at, float x, float y) {
    const float dx = lanterns.x[at] - x;
    const float dy = lanterns.y[at] - y;
    const float away = dx * dx + dy * dy;
    if (away > squared || (away == squared && lanterns.number[at] > number)) return;
    squared = away;
    number = lanterns.number[at];
    place = static_cast<std::uint32_t>(at);
  }
};

/// What looking came to.
struct Looked {
  std::int64_t lanterns = 0;  ///< Looked at.
  std::int64_t again = 0;     ///< Moths that looked for the nearest.

  Looked& operator+=(const Looked& other) {
    lanterns += other.lanterns;
    again += other.again;
    return *this;
  }
};

/// What all variants share. Knobs lanterns, churn and forget; the count is that of the moths.
class MothsVariant : public Variant {
 public:
  explicit MothsVariant(const SetUp& set_up);

  void run_frame(Frame& frame) final;
  std::int64_t alive() const final { return static_cast<std::int64_t>(moths_.size()); }
  Outcome outcome() const final;
  Picture picture() const final;

 protected:
  const Lanterns& lanterns() const { return lanterns_; }
  float side_m() const { return side_m_; }
  std::int64_t frames() const { return frame_; }

  /// Where a lantern lies, by its handle; nowhere when it is gone.
  std::uint32_t place_of(Handle handle) const {
    return generation_[handle.slot] == handle.generation ? place_of_slot_[handle.slot] : nowhere;
  }
  /// By its number, looking at one after the other.
  std::uint32_t place_of_number(std::uint32_t number, Looked& looked) const;
  /// Looking at all.
  Nearest nearest_of_all(float x, float y, Looked& looked) const;

  /// Brings moths [from, to) forward.
  Looked fly(std::int64_t from, std::int64_t to);

 private:
  /// Once a frame, after lanterns have moved and before moths look.
  virtual void prepare() {}
  /// Where the lantern lies that the moth remembers; nowhere when it is gone.
  virtual std::uint32_t remembered(const Moth& moth, Looked&) const { return place_of(moth.handle); }
  virtual Nearest nearest(float x, float y, Looked& looked) const = 0;
  virtual Looked fly_all(Frame&) { return fly(0, alive()); }

  void add_lantern();
  void move_lanterns(float step_s);
  void replace_lantern(std::size_t place);
  void add_moths(std::int64_t moths);

  SetUp set_up_;
  float side_m_;
  std::uint64_t forget_below_;
  Lanterns lanterns_;
  std::vector<float> vx_, vy_, left_s_;
  std::vector<std::uint32_t> generation_, place_of_slot_;
  std::uint32_t next_number_ = 0;
  std::vector<Moth> moths_;
  std::int64_t frame_ = 0;
};

}  // namespace mileage::festival::moths
