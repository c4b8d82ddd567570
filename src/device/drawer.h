// One way to draw all lanterns at a moment: what its variants differ in.
#pragma once

#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "device/draw_stage.h"

namespace mileage::device {

/// Places of lanterns that are built on the processor and sent to the device.
class SentPlaces {
 public:
  SentPlaces(const Context& context, std::size_t most);

  std::vector<Placed>& on_processor() { return on_processor_; }  ///< `most` of them, until it is changed.
  const Buffer& on_device() const { return on_device_; }
  /// Sends some of them, in a phase of its own.
  void send(std::int64_t first, std::int64_t count, Frame& frame);
  void send_all(Frame& frame) { send(0, static_cast<std::int64_t>(on_processor_.size()), frame); }

 private:
  std::vector<Placed> on_processor_;
  Buffer on_device_;
};

/// How one lantern is to look.
struct Look {
  Placed place;
  int detail = 0;
};

/// Holds what it needs on the device; `stage` must outlive it.
class Drawer {
 public:
  explicit Drawer(DrawStage& stage) : stage_(stage) {}
  virtual ~Drawer() = default;
  virtual void draw(float time_s, Frame& frame) = 0;
  /// Draws the same lantern by lantern, as rule() says.
  void draw_by_rule(float time_s) const;

 protected:
  const DrawWorld& world() const { return stage_.world(); }
  DrawStage& stage() { return stage_; }
  const DrawStage& stage() const { return stage_; }

 private:
  /// How a lantern is to look at a time; nothing for one that is left out. Every one at its finest, unless a drawer
  /// chooses.
  virtual std::optional<Look> rule(const Afloat& lantern, float time_s) const { return Look{placed(lantern, time_s)}; }

  DrawStage& stage_;
};

/// The lines of one indirect call for all kinds and parts of the finest detail.
std::vector<DrawCommand> commands_of(const DrawStage& stage);
std::int64_t bytes_of(const std::vector<DrawCommand>& commands);
/// One indirect call of all lines in a buffer.
void draw_commands(const Buffer& commands, Frame& frame);

/// Those that draw every lantern (drawers_of_all.cpp).
std::unique_ptr<Drawer> make_each_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_each_own_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_instanced_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_instanced_all_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_multi_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_resident_drawer(DrawStage& stage, const Knobs& knobs);

/// Those that choose what to draw, and how finely (drawers_that_choose.cpp).
std::unique_ptr<Drawer> make_large_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_large_device_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_detail_drawer(DrawStage& stage, const Knobs& knobs);

}  // namespace mileage::device
