#include <algorithm>
#include <atomic>
#include <memory>
#include <vector>

#include <tbb/global_control.h>
#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include "festival/drift_variants.h"
#include "festival/lantern_columns.h"

namespace mileage::festival {
namespace {

class DriftJobs : public DriftVariant {
 public:
  explicit DriftJobs(const SetUp& set_up)
      : DriftVariant(set_up),
        columns_(set_up.seed, set_up.count),
        batch_(set_up.knobs.whole("batch")),
        threads_(tbb::global_control::max_allowed_parallelism, static_cast<std::size_t>(set_up.knobs.whole("workers"))),
        arena_(static_cast<int>(set_up.knobs.whole("workers"))) {}

  std::int64_t alive() const override { return columns_.size(); }

 private:
  std::int64_t carry_all(const std::vector<Moment>& moments, Frame&) override {
    const std::int64_t batches = (columns_.size() + batch_ - 1) / batch_;
    std::atomic<std::int64_t> updated{0};
    arena_.execute([&] {
      const auto carry_batch = [&](std::int64_t index) {
        const std::int64_t from = index * batch_;
        const std::int64_t to = std::min(columns_.size(), from + batch_);
        columns_.carry_range(from, to, moments);
        updated.fetch_add(to - from, std::memory_order_relaxed);
      };
      tbb::parallel_for(std::int64_t{0}, batches, carry_batch, tbb::simple_partitioner{});
    });
    return updated;
  }

  void add_lanterns(std::int64_t more) override { columns_.add(set_up().seed, more); }

  Lantern lantern(std::int64_t index) const override { return columns_.lantern(index); }

  LanternColumns columns_;
  std::int64_t batch_;
  tbb::global_control threads_;
  tbb::task_arena arena_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_jobs(const SetUp& set_up) { return std::make_unique<DriftJobs>(set_up); }

}  // namespace mileage::festival
