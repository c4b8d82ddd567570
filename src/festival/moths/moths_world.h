// World of moths: lanterns that drift, go out and are replaced; moths that fly to a remembered lantern, or to the
// nearest one if it is gone. Lanterns are in one array; the last one fills a gap.
#pragma once

#include <cstdint>
#include <vector>

#include "mileage/types/variant.h"

namespace mileage::festival::moths {

/// Per axis.
inline constexpr float drift_m_per_s = 0.5F;

struct Lanterns {
  std::vector<float> x, y;
  std::vector<std::uint32_t> number;  ///< Permanent and increasing.
  std::vector<std::uint32_t> slot;    ///< Of its handle.

  std::size_t size() const { return x.size(); }
};

/// A slot is reused, its generation is not.
struct Handle {
  std::uint32_t slot = 0;
  std::uint32_t generation = 0;
};

struct Moth {
  float x = 0;
  float y = 0;
  bool remembers = false;
  std::uint32_t number = 0;  ///< Of the remembered lantern.
  Handle handle;             ///< Its handle.
  std::uint32_t place = 0;   ///< Where it was found.
};

inline constexpr std::uint32_t nowhere = 0xffffffff;

/// Ties go to the lower number.
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

struct Looked {
  std::int64_t lanterns = 0;  ///< Lanterns tested.
  std::int64_t again = 0;     ///< Moths that searched again.

  Looked& operator+=(const Looked& other) {
    lanterns += other.lanterns;
    again += other.again;
    return *this;
  }
};

/// Common part of moths' variants. Knobs lanterns, churn, forget; the count is that of moths.
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

  /// `nowhere` for a stale handle.
  std::uint32_t place_of(Handle handle) const {
    return generation_[handle.slot] == handle.generation ? place_of_slot_[handle.slot] : nowhere;
  }
  /// Linear search.
  std::uint32_t place_of_number(std::uint32_t number, Looked& looked) const;
  Nearest nearest_of_all(float x, float y, Looked& looked) const;

  /// Updates moths [from, to).
  Looked fly(std::int64_t from, std::int64_t to);

 private:
  /// Once per frame, after lanterns have moved.
  virtual void prepare() {}
  /// Place of the remembered lantern, or nowhere.
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
