// The world of wicks, as all its variants see it: each wick burns for a while of its own, those that are out are
// replaced by new ones. How wicks lie in memory, and how they leave it, is up to each variant.
#pragma once

#include <cstdint>
#include <vector>

#include "mileage/types/variant.h"

namespace mileage::festival::wicks {

struct Wick {
  std::uint32_t number = 0;  ///< For life; new ones go on counting.
  float burnt_s = 0;
  float burns_s = 0;  ///< In all.
  float height = 1;   ///< Share that is left.
  float glow = 0;
  float x = 0;

  bool is_out() const { return burnt_s >= burns_s; }
};

/// One frame of a wick.
inline void burn(Wick& wick, float step_s) {
  wick.burnt_s += step_s;
  const float left = 1.0F - wick.burnt_s / wick.burns_s;
  wick.height = left;
  const float wanted = 0.4F + 0.6F * left * (2.0F - left);
  wick.glow += (wanted - wick.glow) * 4.0F * step_s;
  wick.x += (0.3F - 0.2F * wick.glow) * step_s;
}

/// What all variants share: numbers, new wicks, and stating the outcome. Knobs churn and order.
class WicksVariant : public Variant {
 public:
  explicit WicksVariant(const SetUp& set_up);

  void run_frame(Frame& frame) final;
  Outcome outcome() const final;
  Picture picture() const final;

 protected:
  bool keeps_order() const { return keeps_order_; }
  /// For constructors: the wicks of the beginning, in the order of their numbers.
  std::vector<Wick> first_wicks();

 private:
  /// Burns all wicks by one step, and has those leave that are out. Returns how many burnt.
  virtual std::int64_t burn_all(Frame& frame, float step_s) = 0;
  virtual void add(const Wick& wick) = 0;
  /// Called after the new ones have come.
  virtual void settle_order() {}
  /// All wicks, in the order in which a frame would go over them.
  virtual std::vector<Wick> in_order() const = 0;

  Wick new_wick();

  SetUp set_up_;
  bool keeps_order_;
  std::uint32_t next_ = 0;
};

}  // namespace mileage::festival::wicks
