#include <memory>
#include <optional>

#include "festival/drift/drift_variants.h"
#include "festival/drift/mirrored_lanterns.h"

namespace mileage::festival {
namespace {

class DriftMirroredFresh : public MirroredLanterns {
 public:
  using MirroredLanterns::MirroredLanterns;

 private:
  std::int64_t carry_all(const FrameWork& work, Frame& frame) override {
    std::optional<SortedColumns> columns;
    {
      const auto phase = frame.phase(gather_phase);
      columns.emplace(sorting());
      append_new(*columns);
    }
    {
      const auto phase = frame.phase(update_phase);
      carry_all_columns(*columns, work, Vectors::usual);
    }
    const auto phase = frame.phase(write_back_phase);
    write_back(*columns, 0, alive());
    columns.reset();
    return alive();
  }
};

}  // namespace

std::unique_ptr<Variant> make_drift_mirrored_fresh(const SetUp& set_up) {
  return std::make_unique<DriftMirroredFresh>(set_up);
}

}  // namespace mileage::festival
