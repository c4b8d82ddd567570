#include <memory>

#include "festival/drift/drift_variants.h"
#include "festival/drift/mirrored_lanterns.h"

namespace mileage::festival {
namespace {

class DriftMirrored : public MirroredLanterns {
 public:
  explicit DriftMirrored(const SetUp& set_up) : MirroredLanterns(set_up), columns_(sorting()) {}

 private:
  std::int64_t carry_all(const FrameWork& work, Frame& frame) override {
    if (has(gather_phase)) {
      const auto phase = frame.phase(gather_phase);
      gather_into(columns_);
    } else {
      append_new(columns_);
    }
    {
      const auto phase = frame.phase(update_phase);
      carry_all_columns(columns_, work, Vectors::usual);
    }
    if (has(write_back_phase)) {
      const auto phase = frame.phase(write_back_phase);
      write_back(columns_, 0, alive());
    }
    return alive();
  }

  SortedColumns columns_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_mirrored(const SetUp& set_up) { return std::make_unique<DriftMirrored>(set_up); }

}  // namespace mileage::festival
