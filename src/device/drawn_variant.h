// What every variant that draws shares: its frames, its picture, and what is counted and compared in it.
#pragma once

#include <memory>

#include "device/draw_stage.h"
#include "mileage/types/variant.h"

namespace mileage::device {

class DrawnVariant : public Variant {
 public:
  /// `set_up` holds the knobs of DrawWorld and `in-flight`.
  explicit DrawnVariant(const SetUp& set_up);

  void run_frame(Frame& frame) final;
  std::int64_t alive() const override { return static_cast<std::int64_t>(stage_->world().lanterns.size()); }
  /// Draws the last frame again, counting: in measured frames that would alter the time.
  Outcome outcome() const final;
  void count_untimed(Frame& frame) const final;
  /// With sky and river, which frames skip.
  Picture picture() const final;

 protected:
  DrawStage& stage() const { return *stage_; }
  std::int64_t frames() const { return frames_; }  ///< Run so far, the one in work included.
  float time_s() const { return static_cast<float>(static_cast<double>(frames_) * step_s_); }
  /// Draws the last frame again, by paint() or otherwise, and waits for it.
  template <class Draw>
  void draw_again(const Draw& draw) const {
    stage_->clear();
    draw();
    finish();
  }
  void paint_again() const;

 private:
  /// Brings the world forward, where it does not stand still.
  virtual void bring_forward(Frame&) {}
  /// Draws all lanterns on the cleared stage.
  virtual void paint(Frame& frame) const = 0;
  /// Adds to the outcome.
  virtual void state_more(Outcome&) const {}

  void paint_unmarked() const;
  void finish() const;
  DrawStage::Counted counted() const;

  double step_s_;
  std::int64_t frames_ = 0;
  std::unique_ptr<DrawStage> stage_;
  FramesUnderWay under_way_;
};

/// Pixels of which a colour differs by more than a hundredth. Both pictures are of the same size.
std::int64_t unlike_pixels(const Picture& one, const Picture& other);

}  // namespace mileage::device
