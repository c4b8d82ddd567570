#include <memory>

#include <tbb/task_group.h>

#include "festival/drift/drift_variants.h"
#include "festival/drift/carry_in_batches.h"

namespace mileage::festival {
namespace {

class DriftJobs : public DriftVariant {
 public:
  DriftJobs(const SetUp& set_up, Vectors vectors)
      : DriftVariant(set_up), vectors_(vectors), columns_(sorting()), jobs_(set_up.knobs) {
    columns_.set_afloat(set_up.seed, 0, set_up.count);
  }

  std::int64_t alive() const override { return columns_.size(); }

 protected:
  Jobs& jobs() { return jobs_; }
  std::int64_t carry_here(const FrameWork& work, Frame& frame) {
    return carry_in_batches(frame, jobs_, columns_, work, vectors_);
  }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame& frame) override {
    return jobs_.arena().execute([&] { return carry_here(work, frame); });
  }

  void add_lanterns(std::int64_t more) override { columns_.set_afloat(set_up().seed, alive(), alive() + more); }
  void push(std::int64_t index, float vx, float vy) override { columns_.push(index, vx, vy); }
  Lantern lantern(std::int64_t index) const override { return columns_.lantern(index); }

  Vectors vectors_;
  SortedColumns columns_;
  Jobs jobs_;
};

/// The rest of the frame runs concurrently and sees the lanterns of the previous frame.
class DriftJobsLate : public DriftJobs {
 public:
  explicit DriftJobsLate(const SetUp& set_up) : DriftJobs(set_up, Vectors::usual) {}

 private:
  std::int64_t bring_forward(const FrameWork& work, Frame& frame) override {
    std::int64_t updates = 0;
    tbb::task_group carrying;
    {
      const auto phase = frame.phase("start");
      jobs().arena().execute([&] { carrying.run([&] { updates = carry_here(work, frame); }); });
    }
    do_the_rest(frame);
    const auto phase = frame.phase("join");
    jobs().arena().execute([&] { carrying.wait(); });
    frame.add("frames of latency", 1);
    return updates;
  }
};

}  // namespace

std::unique_ptr<Variant> make_drift_jobs(const SetUp& set_up) {
  return std::make_unique<DriftJobs>(set_up, Vectors::usual);
}

std::unique_ptr<Variant> make_drift_jobs_wide(const SetUp& set_up) {
  return std::make_unique<DriftJobs>(set_up, Vectors::widest);
}

std::unique_ptr<Variant> make_drift_jobs_late(const SetUp& set_up) { return std::make_unique<DriftJobsLate>(set_up); }

}  // namespace mileage::festival
