#include <memory>
#include <vector>

#include "festival/drift/drift_variants.h"
#include "festival/drift/mirrored_lanterns.h"

namespace mileage::festival {
namespace {

/// Columns keep what they wrote back; only changed or new objects are gathered.
class DriftMirroredChanged : public MirroredLanterns {
 public:
  explicit DriftMirroredChanged(const SetUp& set_up) : MirroredLanterns(set_up) { append_new(); }

 private:
  void gather(Frame&) override {
    for (const std::int64_t index : changed_)
      if (index < columns().size()) columns().set(index, objects().at(index).lantern());
    changed_.clear();
    append_new();
  }

  void push(std::int64_t index, float vx, float vy) override {
    objects().at(index).push(vx, vy);
    changed_.push_back(index);
  }

  std::vector<std::int64_t> changed_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_mirrored_changed(const SetUp& set_up) {
  return std::make_unique<DriftMirroredChanged>(set_up);
}

}  // namespace mileage::festival
