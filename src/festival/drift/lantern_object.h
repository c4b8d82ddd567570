// A lantern as an object of an object-oriented code base.
#pragma once

#include <cstddef>
#include <memory>
#include <vector>

#include "festival/drift/directory.h"
#include "festival/drift/drift_world.h"

namespace mileage::festival {

/// In the directory.
inline constexpr const char* frame_work_name = "wind";

class FestivalObject {
 public:
  virtual ~FestivalObject() = default;
  /// Looks up what it needs.
  virtual void update(const Directory& directory) = 0;
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

  /// Allocates extra untouched bytes, like other state of a large program's object.
  static void* operator new(std::size_t bytes, std::size_t ballast) { return ::operator new(bytes + ballast); }
  static void operator delete(void* place) { ::operator delete(place); }
  static void operator delete(void* place, std::size_t) { ::operator delete(place); }

 protected:
  explicit LanternObject(bool is_heavy) : is_heavy_(is_heavy) {}

  Lantern lantern_;
  bool is_heavy_;
};

/// Of the class of its kind, defined in another file so that update() is a real virtual call.
std::unique_ptr<LanternObject> make_lantern_object(Sort sort, std::size_t ballast);

}  // namespace mileage::festival
