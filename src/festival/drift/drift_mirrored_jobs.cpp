#include <memory>

#include "festival/drift/drift_variants.h"
#include "festival/drift/carry_in_batches.h"
#include "festival/drift/mirrored_lanterns.h"

namespace mileage::festival {
namespace {

class DriftMirroredJobs : public MirroredLanterns {
 public:
  explicit DriftMirroredJobs(const SetUp& set_up) : MirroredLanterns(set_up), jobs_(set_up.knobs) { append_new(); }

 private:
  void gather(Frame& frame) override {
    append_new();
    jobs_.for_batches(frame, alive(), [&](std::int64_t from, std::int64_t to) {
      for (std::int64_t i = from; i < to; ++i) columns().set(i, objects().at(i).lantern());
    });
  }
  std::int64_t update(const FrameWork& work, Frame& frame) override {
    return jobs_.arena().execute([&] { return carry_in_batches(frame, jobs_, columns(), work, Vectors::usual); });
  }
  void write_back(Frame& frame) override {
    jobs_.for_batches(frame, alive(),
                      [&](std::int64_t from, std::int64_t to) { MirroredLanterns::write_back(from, to); });
  }

  Jobs jobs_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_mirrored_jobs(const SetUp& set_up) {
  return std::make_unique<DriftMirroredJobs>(set_up);
}

}  // namespace mileage::festival
