#include <memory>

#include "festival/drift/drift_variants.h"
#include "festival/drift/lean_lanterns.h"
#include "festival/drift/sorted_lanterns.h"

namespace mileage::festival {
namespace {

class DriftLean : public DriftVariant {
 public:
  explicit DriftLean(const SetUp& set_up) : DriftVariant(set_up), lanterns_(sorting()) {
    lanterns_.set_afloat(set_up.seed, 0, set_up.count);
  }

  std::int64_t alive() const override { return lanterns_.size(); }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame&) override {
    for (std::size_t part = 0; part < lanterns_.parts().size(); ++part) {
      const Sort sort = lanterns_.sort(part);
      lanterns_.parts()[part].carry_all(work.of(sort), sort.kind);
    }
    return alive();
  }

  void add_lanterns(std::int64_t more) override { lanterns_.set_afloat(set_up().seed, alive(), alive() + more); }
  void push(std::int64_t index, float vx, float vy) override { lanterns_.push(index, vx, vy); }
  Lantern lantern(std::int64_t index) const override { return lanterns_.lantern(index); }

  SortedLanterns<LeanLanterns> lanterns_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_lean(const SetUp& set_up) { return std::make_unique<DriftLean>(set_up); }

}  // namespace mileage::festival
