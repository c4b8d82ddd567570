// A lantern as an object of its own, the way an object-oriented code base has it.
#pragma once

#include <cstddef>
#include <memory>
#include <vector>

#include "festival/drift/directory.h"
#include "festival/drift/drift_world.h"

namespace mileage::festival {

/// Name of the frame's work in the directory.
inline constexpr const char* frame_work_name = "wind";

/// Whatever takes part in the festival's night and is updated once per frame.
class FestivalObject {
 public:
  virtual ~FestivalObject() = default;
  /// Looks up what it needs.
  virtual void update(const Directory& directory) = 0;
  /// Is given what it needs.
  virtual void update(const FrameWork& work) = 0;
};

class LanternObject : public FestivalObject {
 public:
  const Lantern& lantern() const { return lantern_; }
  void set(const Lantern& lantern) { lantern_ = lantern; }
  void push(float vx, float vy) {
    lantern_.vx = vx;
    lantern_.vy = vy;
  }

  /// With this many bytes behind it that the update does not touch: what else an object of a large program holds.
  static void* operator new(std::size_t bytes, std::size_t ballast) { return ::operator new(bytes + ballast); }
  static void operator delete(void* place) { ::operator delete(place); }
  static void operator delete(void* place, std::size_t) { ::operator delete(place); }

 protected:
  explicit LanternObject(bool is_heavy) : is_heavy_(is_heavy) {}

  Lantern lantern_;
  bool is_heavy_;
};

/// A lantern of the class of its kind. The classes are defined in a file of their own: a call of update() is a real
/// virtual call, as it is between the parts of a large program.
std::unique_ptr<LanternObject> make_lantern_object(Sort sort, std::size_t ballast);

}  // namespace mileage::festival
