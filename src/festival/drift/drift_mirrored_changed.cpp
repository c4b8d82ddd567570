#include <memory>
#include <vector>

#include "festival/drift/drift_variants.h"
#include "festival/drift/mirrored_lanterns.h"

namespace mileage::festival {
namespace {

/// The columns keep what they wrote back: only objects that were changed since, or are new, are gathered again.
class DriftMirroredChanged : public MirroredLanterns {
 public:
  explicit DriftMirroredChanged(const SetUp& set_up) : MirroredLanterns(set_up), columns_(sorting()) {
    append_new(columns_);
  }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame& frame) override {
    {
      const auto phase = frame.phase(gather_phase);
      gather_changed();
    }
    {
      const auto phase = frame.phase(update_phase);
      carry_all_columns(columns_, work, Vectors::usual);
    }
    const auto phase = frame.phase(write_back_phase);
    write_back(columns_, 0, alive());
    return alive();
  }

  void gather_changed() {
    for (const std::int64_t index : changed_)
      if (index < columns_.size()) columns_.set(index, objects().at(index).lantern());
    changed_.clear();
    append_new(columns_);
  }

  void push(std::int64_t index, float vx, float vy) override {
    objects().at(index).push(vx, vy);
    changed_.push_back(index);
  }

  SortedColumns columns_;
  std::vector<std::int64_t> changed_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_mirrored_changed(const SetUp& set_up) {
  return std::make_unique<DriftMirroredChanged>(set_up);
}

}  // namespace mileage::festival
