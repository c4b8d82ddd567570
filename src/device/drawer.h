// One way to draw all lanterns at a moment: what its variants differ in.
#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "device/draw_stage.h"

namespace mileage::device {

/// Places of lanterns that are built on the processor and sent to the device.
class SentPlaces {
 public:
  /// Each takes `bytes` on the device, sizeof(Placed) at least: what an instance carries besides travels with it.
  SentPlaces(const Context& context, std::size_t max, std::int64_t bytes = sizeof(Placed));

  std::vector<Placed>& on_processor() { return on_processor_; }  ///< `most` of them, until it is changed.
  const Buffer& on_device() const { return on_device_; }
  std::int64_t stride() const { return stride_; }
  /// Sends some of them, in a phase of its own.
  void send(std::int64_t first, std::int64_t count, Frame& frame);
  void send_all(Frame& frame) { send(0, static_cast<std::int64_t>(on_processor_.size()), frame); }

 private:
  std::vector<Placed> on_processor_;
  std::int64_t stride_;
  std::vector<std::byte> carried_;  ///< Places with what they carry; empty where they carry nothing.
  Buffer on_device_;
};

/// The lanterns that can be drawn together: how many, their bytes on the device, and sending them there again.
std::size_t together(const DrawWorld& world);
std::int64_t bytes_together(const DrawWorld& world);
void send_lanterns(Buffer& lanterns, const DrawWorld& world, Frame& frame);

/// What an instance takes on its way to the device: knob payload.
std::int64_t bytes_of_instance(const Knobs& knobs);

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
  /// Some lanterns have become another kind (DrawWorld::change_kinds): brings kinds together, and what depends on it up
  /// to date.
  virtual void regroup(Frame& frame);
  /// Draws the same lantern by lantern, as rule() says.
  void draw_by_rule(float time_s) const;

 protected:
  const DrawWorld& world() const { return stage_.world(); }
  DrawWorld& world() { return stage_.world(); }
  /// Draws the lanterns that cannot be drawn together, one by one.
  void draw_singles(float time_s, Frame& frame) const;
  DrawStage& stage() { return stage_; }
  const DrawStage& stage() const { return stage_; }

 private:
  /// How a lantern is to look at a time; nothing for one that is excluded. Every one at its finest, unless a drawer
  /// chooses.
  virtual std::optional<Look> rule(const Afloat& lantern, float time_s) const { return Look{placed(lantern, time_s)}; }
  /// One lantern by the rule, one call a part.
  void draw_one_by_rule(const Afloat& lantern, float time_s, DrawStage::Called& called) const;

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
