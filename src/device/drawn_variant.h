// Common part of drawing variants: frames, picture, counters, comparison.
#pragma once

#include <memory>

#include "device/draw_stage.h"
#include "mileage/types/variant.h"

namespace mileage::device {

class DrawnVariant : public Variant {
 public:
  /// `set_up`: knobs of DrawWorld and `in-flight`.
  explicit DrawnVariant(const SetUp& set_up);

  void run_frame(Frame& frame) final;
  std::int64_t alive() const override { return static_cast<std::int64_t>(stage_->world().lanterns.size()); }
  /// Redraws the last frame with counting, which would alter measured times.
  Outcome outcome() const final;
  void count_untimed(Frame& frame) const final;
  /// With sky and river.
  Picture picture() const final;

 protected:
  DrawStage& stage() const { return *stage_; }
  std::int64_t frames() const { return frames_; }  ///< Including the current one.
  float time_s() const { return static_cast<float>(static_cast<double>(frames_) * step_s_); }
  /// Redraws the last frame and waits.
  template <class Draw>
  void draw_again(const Draw& draw) const {
    stage_->clear();
    draw();
    finish();
  }
  void paint_again() const;

 private:
  /// If the world moves.
  virtual void bring_forward(Frame&) {}
  /// On the cleared stage.
  virtual void paint(Frame& frame) const = 0;
  virtual void state_more(Outcome&) const {}

  void paint_unmarked() const;
  void finish() const;
  DrawStage::Counted counted() const;

  double step_s_;
  std::int64_t frames_ = 0;
  std::unique_ptr<DrawStage> stage_;
  FramesUnderWay under_way_;
};

/// Off by over 1 % in a color. Equal sizes.
std::int64_t unlike_pixels(const Picture& one, const Picture& other);

}  // namespace mileage::device
