// World of wicks: each burns for its own time and is replaced. Storage and removal are up to each variant.
#pragma once

#include <cstdint>
#include <vector>

#include "mileage/types/variant.h"

namespace mileage::festival::wicks {

struct Wick {
  std::uint32_t number = 0;  ///< Permanent and increasing.
  float burnt_s = 0;
  float burns_s = 0;
  float height = 1;  ///< Share left.
  float glow = 0;
  float x = 0;

  bool is_out() const { return burnt_s >= burns_s; }
};

inline void burn(Wick& wick, float step_s) {
  wick.burnt_s += step_s;
  const float left = 1.0F - wick.burnt_s / wick.burns_s;
  wick.height = left;
  const float wanted = 0.4F + 0.6F * left * (2.0F - left);
  wick.glow += (wanted - wick.glow) * 4.0F * step_s;
  wick.x += (0.3F - 0.2F * wick.glow) * step_s;
}

/// Common part of wicks' variants. Knobs churn and order.
class WicksVariant : public Variant {
 public:
  explicit WicksVariant(const SetUp& set_up);

  void run_frame(Frame& frame) final;
  Outcome outcome() const final;
  Picture picture() const final;

 protected:
  bool keeps_order() const { return keeps_order_; }
  /// For constructors, in order of number.
  std::vector<Wick> first_wicks();

 private:
  /// Burns and removes wicks; returns the number burnt.
  virtual std::int64_t burn_all(Frame& frame, float step_s) = 0;
  virtual void add(const Wick& wick) = 0;
  /// After new ones were added.
  virtual void settle_order() {}
  /// In the order of a frame's loop.
  virtual std::vector<Wick> in_order() const = 0;

  Wick new_wick();

  SetUp set_up_;
  bool keeps_order_;
  std::uint32_t next_ = 0;
};

}  // namespace mileage::festival::wicks
