#include <atomic>

#include "festival/jobs.h"
#include "festival/moths/lantern_cells.h"
#include "festival/moths/moths_variants.h"

namespace mileage::festival::moths {
namespace {

class MothsGrid : public MothsVariant {
 public:
  explicit MothsGrid(const SetUp& set_up) : MothsVariant(set_up), cells_(side_m(), lanterns().size()) {}

 private:
  void prepare() override { cells_.fill(lanterns()); }
  Nearest nearest(float x, float y, Looked& looked) const override { return cells_.nearest(lanterns(), x, y, looked); }

  LanternCells cells_;
};

class MothsJobs : public MothsGrid {
 public:
  explicit MothsJobs(const SetUp& set_up) : MothsGrid(set_up), jobs_(set_up.knobs) {}

 private:
  Looked fly_all(Frame& frame) override {
    std::atomic<std::int64_t> looked{0}, again{0};
    jobs_.for_batches(frame, alive(), [&](std::int64_t from, std::int64_t to) {
      const Looked one = fly(from, to);
      looked.fetch_add(one.lanterns, std::memory_order_relaxed);
      again.fetch_add(one.again, std::memory_order_relaxed);
    });
    return {looked, again};
  }

  Jobs jobs_;
};

}  // namespace

std::unique_ptr<Variant> make_grid(const SetUp& set_up) { return std::make_unique<MothsGrid>(set_up); }

std::unique_ptr<Variant> make_jobs(const SetUp& set_up) { return std::make_unique<MothsJobs>(set_up); }

}  // namespace mileage::festival::moths
