// Common part of all drawing variants: device, meshes, programs, picture.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "device/device_objects.h"
#include "device/draw_world.h"
#include "device/lantern_meshes.h"
#include "mileage/types/frame.h"

namespace mileage::device {

/// In the shared buffers.
struct MeshRange {
  std::uint32_t indices = 0;
  std::uint32_t first_index = 0;
  std::int32_t first_vertex = 0;
};

/// Indirect draw, device layout.
struct DrawCommand {
  std::uint32_t indices;
  std::uint32_t instances;
  std::uint32_t first_index;
  std::int32_t first_vertex;
  std::uint32_t first_instance;
};

/// Input of the vertex shader.
enum class Feed {
  uniforms,   ///< Two uniforms, one lantern per call.
  instances,  ///< Instance buffer of Placed.
  resident    ///< Instance buffer of Afloat, placed by the shader.
};

class DrawStage {
 public:
  explicit DrawStage(const SetUp& set_up);

  const Context& context() const { return context_; }
  const DrawWorld& world() const { return world_; }
  DrawWorld& world() { return world_; }
  const Canvas& canvas() const { return canvas_; }

  const MeshRange& range(int kind, int detail, int part) const;
  /// Clears to black. Sky and river are omitted to measure lanterns only.
  void clear() const;
  /// For pictures.
  void draw_background() const;
  /// `time_s` matters for `resident`. While counting, the shader notes every lantern.
  void use(Feed feed, float time_s) const;
  /// Next lantern of Feed::uniforms.
  void give(const Placed& lantern) const;
  /// `instances` may be nullptr; `stride` in bytes.
  void bind(const Buffer* instances, std::int64_t stride = sizeof(Placed)) const;

  /// Calls per mesh, counted together to save time.
  struct Called {
    std::int64_t calls = 0;
    std::int64_t triangles = 0;
    void tell(Frame& frame) const;
  };
  void draw_one(const MeshRange& range, Called& called) const;
  /// With counters.
  void draw_instances(const MeshRange& range, std::int64_t first, std::int64_t count, const Buffer& instances,
                      Frame& frame, std::int64_t stride = sizeof(Placed)) const;

  /// Notes lanterns that reach the device, until stop_counting().
  void start_counting();
  struct Counted {
    std::int64_t lanterns = 0;  ///< Distinct.
    std::int64_t in_view = 0;   ///< With their middle in view.
    std::int64_t samples = 0;   ///< Covered, hidden ones included.
  };
  Counted stop_counting();

 private:
  struct Drawing {
    Program program;
    int camera;
    int time;  ///< -1 if absent.
    int own;   ///< Of Feed::uniforms, else -1.
  };
  Drawing drawing(Feed feed, bool counting) const;
  const Drawing& current(Feed feed) const;
  void build_meshes();

  DrawWorld world_;
  Context context_;
  Canvas canvas_;
  std::vector<MeshRange> ranges_;
  std::unique_ptr<Buffer> vertices_;
  std::unique_ptr<Buffer> indices_;
  DeviceName layout_;
  Program background_;
  std::vector<Drawing> drawings_;  ///< By feed, plain and counting.
  Buffer seen_;
  DeviceName samples_query_;
  bool counting_ = false;
};

}  // namespace mileage::device
