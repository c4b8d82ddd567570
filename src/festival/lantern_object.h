// A lantern as an object of its own, the way an object-oriented code base has it.
#pragma once

#include <vector>

#include "festival/drift_world.h"

namespace mileage::festival {

/// Whatever takes part in the festival's night and is updated once per frame.
class FestivalObject {
 public:
  virtual ~FestivalObject() = default;
  virtual void update(const std::vector<Moment>& moments) = 0;
};

/// update() is defined in a file of its own: a call of it is a real virtual call, as it is between the parts of a large
/// program.
class LanternObject : public FestivalObject {
 public:
  void set_afloat(const Lantern& lantern) { lantern_ = lantern; }
  const Lantern& lantern() const { return lantern_; }
  void update(const std::vector<Moment>& moments) override;

 private:
  Lantern lantern_;
};

}  // namespace mileage::festival
