// How all lanterns are drawn: differs between variants.
#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "device/draw_stage.h"

namespace mileage::device {

/// Places computed on the processor and sent.
class SentPlaces {
 public:
  /// `bytes` per lantern on the device, >= sizeof(Placed); the rest is payload.
  SentPlaces(const Context& context, std::size_t max, std::int64_t bytes = sizeof(Placed));

  std::vector<Placed>& on_processor() { return on_processor_; }  ///< `max` of them.
  const Buffer& on_device() const { return on_device_; }
  std::int64_t stride() const { return stride_; }
  /// In a phase.
  void send(std::int64_t first, std::int64_t count, Frame& frame);
  void send_all(Frame& frame) { send(0, static_cast<std::int64_t>(on_processor_.size()), frame); }

 private:
  std::vector<Placed> on_processor_;
  std::int64_t stride_;
  std::vector<std::byte> carried_;  ///< With payload; empty without.
  Buffer on_device_;
};

/// Lanterns drawn together: number, bytes, upload.
std::size_t together(const DrawWorld& world);
std::int64_t bytes_together(const DrawWorld& world);
void send_lanterns(Buffer& lanterns, const DrawWorld& world, Frame& frame);

/// Knob payload.
std::int64_t bytes_of_instance(const Knobs& knobs);

struct Look {
  Placed place;
  int detail = 0;
};

/// `stage` must outlive it.
class Drawer {
 public:
  explicit Drawer(DrawStage& stage) : stage_(stage) {}
  virtual ~Drawer() = default;
  virtual void draw(float time_s, Frame& frame) = 0;
  /// After DrawWorld::change_kinds: sorts and updates.
  virtual void regroup(Frame& frame);
  /// One by one, as rule() says.
  void draw_by_rule(float time_s) const;

 protected:
  const DrawWorld& world() const { return stage_.world(); }
  DrawWorld& world() { return stage_.world(); }
  void draw_singles(float time_s, Frame& frame) const;
  DrawStage& stage() { return stage_; }
  const DrawStage& stage() const { return stage_; }

 private:
  /// Nothing for an excluded lantern. Default: finest detail.
  virtual std::optional<Look> rule(const Afloat& lantern, float time_s) const { return Look{placed(lantern, time_s)}; }
  /// One call per part.
  void draw_one_by_rule(const Afloat& lantern, float time_s, DrawStage::Called& called) const;

  DrawStage& stage_;
};

/// Of one indirect call, finest detail.
std::vector<DrawCommand> commands_of(const DrawStage& stage);
std::int64_t bytes_of(const std::vector<DrawCommand>& commands);
/// One indirect call.
void draw_commands(const Buffer& commands, Frame& frame);

/// In drawers_of_all.cpp.
std::unique_ptr<Drawer> make_each_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_each_own_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_instanced_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_instanced_all_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_multi_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_resident_drawer(DrawStage& stage, const Knobs& knobs);

/// In drawers_that_choose.cpp.
std::unique_ptr<Drawer> make_large_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_large_device_drawer(DrawStage& stage, const Knobs& knobs);
std::unique_ptr<Drawer> make_detail_drawer(DrawStage& stage, const Knobs& knobs);

}  // namespace mileage::device
