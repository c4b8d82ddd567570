// What every way of drawing the lanterns shares: the device, the meshes on it, the programs, and the picture.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "device/device_objects.h"
#include "device/draw_world.h"
#include "device/lantern_meshes.h"
#include "mileage/types/frame.h"

namespace mileage::device {

/// Where a part of a mesh lies in the shared buffers.
struct MeshRange {
  std::uint32_t indices = 0;
  std::uint32_t first_index = 0;
  std::int32_t first_vertex = 0;
};

/// One line of an indirect draw, as the device reads it.
struct DrawCommand {
  std::uint32_t indices;
  std::uint32_t instances;
  std::uint32_t first_index;
  std::int32_t first_vertex;
  std::uint32_t first_instance;
};

/// How the vertex shader learns of a lantern.
enum class Feed {
  uniforms,   ///< From two uniforms, one lantern a call.
  instances,  ///< From an instance buffer of Placed.
  resident    ///< From an instance buffer of Afloat; the shader places it.
};

class DrawStage {
 public:
  explicit DrawStage(const SetUp& set_up);

  const Context& context() const { return context_; }
  const DrawWorld& world() const { return world_; }
  DrawWorld& world() { return world_; }
  const Canvas& canvas() const { return canvas_; }

  /// The part of the mesh of a kind at a detail.
  const MeshRange& range(int kind, int detail, int part) const;
  /// Begins a frame: darkness. Sky and river are no lanterns, and would hide in every frame what lanterns cost.
  void clear() const;
  /// Sky and river, for pictures.
  void draw_background() const;
  /// Makes the program for a feed current; the time matters for `resident`. While counting, the vertex shader notes
  /// every lantern that it sees.
  void use(Feed feed, float time_s) const;
  /// What the shader is to know of the next lantern of Feed::uniforms.
  void give(const Placed& lantern) const;
  /// Makes meshes and an instance buffer (which may be missing) current. An instance begins every `stride` bytes.
  void bind(const Buffer* instances, std::int64_t stride = sizeof(Placed)) const;

  /// Calls of one mesh each, that are known together: adding to counters for each of them would be timed.
  struct Called {
    std::int64_t calls = 0;
    std::int64_t triangles = 0;
    void tell(Frame& frame) const;
  };
  /// One call.
  void draw_one(const MeshRange& range, Called& called) const;
  /// One call, with its counters.
  void draw_instances(const MeshRange& range, std::int64_t first, std::int64_t count, const Buffer& instances,
                      Frame& frame, std::int64_t stride = sizeof(Placed)) const;

  /// From here to stop_counting(), lanterns are noted that reach the device.
  void start_counting();
  struct Counted {
    std::int64_t lanterns = 0;  ///< Different ones.
    std::int64_t in_view = 0;   ///< Those of them whose middle lies within the picture.
    std::int64_t samples = 0;   ///< That lanterns cover, hidden ones too.
  };
  Counted stop_counting();

 private:
  struct Drawing {
    Program program;
    int camera;
    int time;  ///< -1 where it has none.
    int own;   ///< Of Feed::uniforms, -1 else.
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
