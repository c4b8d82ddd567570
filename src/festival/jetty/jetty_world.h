// World of jetty: planks on a lattice, and lanterns that drift and bounce off them. Collision boxes are up to each
// variant. A lantern meets the nearest point of all planks, so joining planks changes no contact.
#pragma once

#include <algorithm>
#include <cstdint>
#include <vector>

#include "mileage/types/variant.h"

namespace mileage::festival::jetty {

inline constexpr float lantern_radius_m = 0.3F;

/// Row times lattice width plus column.
using Cell = std::int32_t;

struct Box {
  float x0 = 0, y0 = 0, x1 = 0, y1 = 0;
};

/// Of several boxes; ties go to the lower, then the left one.
struct NearestPoint {
  float squared = 1e30F;
  float x = 0;
  float y = 0;

  void look_at(const Box& box, float from_x, float from_y) {
    const float at_x = std::clamp(from_x, box.x0, box.x1);
    const float at_y = std::clamp(from_y, box.y0, box.y1);
    const float dx = from_x - at_x;
    const float dy = from_y - at_y;
    const float away = dx * dx + dy * dy;
    if (away > squared) return;
    if (away == squared && (at_y > y || (at_y == y && at_x >= x))) return;
    squared = away;
    x = at_x;
    y = at_y;
  }
};

/// Common part of jetty's variants. Knobs planks and changes.
class JettyVariant : public Variant {
 public:
  explicit JettyVariant(const SetUp& set_up);

  void run_frame(Frame& frame) final;
  std::int64_t alive() const final { return static_cast<std::int64_t>(x_.size()); }
  Outcome outcome() const final;
  Picture picture() const final;

 protected:
  std::int64_t width() const { return width_; }
  bool is_laid(Cell cell) const { return laid_[static_cast<std::size_t>(cell)] != 0; }
  /// Unordered.
  const std::vector<Cell>& planks() const { return planks_; }
  Box box_of(Cell cell) const;

 private:
  /// Cover all planks and nothing else.
  virtual const std::vector<Box>& boxes() const = 0;
  /// A plank was laid or taken.
  virtual void changed(Cell cell) = 0;

  void lay_jetties(std::int64_t planks);
  void add_lanterns(std::int64_t lanterns);
  void change_some(Frame& frame);
  void lay(Cell cell);
  void take(std::size_t plank);

  SetUp set_up_;
  std::int64_t width_;
  std::vector<std::uint8_t> laid_;
  std::vector<Cell> planks_, taken_;
  std::vector<float> x_, y_, vx_, vy_;
  std::int64_t contacts_ = 0;  ///< Of the last frame.
  double changes_due_ = 0;
  std::int64_t changes_ = 0;
};

}  // namespace mileage::festival::jetty
