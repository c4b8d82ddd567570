#include <memory>

#include "festival/drift/drift_variants.h"
#include "festival/drift/carry_in_batches.h"
#include "festival/drift/mirrored_lanterns.h"

namespace mileage::festival {
namespace {

class DriftMirroredJobs : public MirroredLanterns {
 public:
  explicit DriftMirroredJobs(const SetUp& set_up) : MirroredLanterns(set_up), columns_(sorting()), jobs_(set_up.knobs) {
    append_new(columns_);
  }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame& frame) override {
    std::int64_t updates = 0;
    {
      const auto phase = frame.phase(gather_phase);
      append_new(columns_);
      jobs_.for_batches(frame, alive(), [&](std::int64_t from, std::int64_t to) {
        for (std::int64_t i = from; i < to; ++i) columns_.set(i, objects().at(i).lantern());
      });
    }
    {
      const auto phase = frame.phase(update_phase);
      updates = jobs_.arena().execute([&] { return carry_in_batches(frame, jobs_, columns_, work, Vectors::usual); });
    }
    const auto phase = frame.phase(write_back_phase);
    jobs_.for_batches(frame, alive(), [&](std::int64_t from, std::int64_t to) { write_back(columns_, from, to); });
    return updates;
  }

  SortedColumns columns_;
  Jobs jobs_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_mirrored_jobs(const SetUp& set_up) {
  return std::make_unique<DriftMirroredJobs>(set_up);
}

}  // namespace mileage::festival
