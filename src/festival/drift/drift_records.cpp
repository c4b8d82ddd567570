#include <memory>
#include <vector>

#include "festival/drift/drift_variants.h"
#include "festival/drift/drift_world.h"

namespace mileage::festival {
namespace {

class DriftRecords : public DriftVariant {
 public:
  explicit DriftRecords(const SetUp& set_up) : DriftVariant(set_up) {
    records_.reserve(static_cast<std::size_t>(set_up.count));
    for (std::int64_t i = 0; i < set_up.count; ++i) records_.push_back(lantern_set_afloat(set_up.seed, i));
  }

  std::int64_t alive() const override { return static_cast<std::int64_t>(records_.size()); }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame&) override {
    // Lanterns of one sort need no look at each lantern's own.
    if (sorting().sorts().size() == 1)
      for (Lantern& record : records_)
        for (const Moment& now : work.light) carry<0>(now, record);
    else
      for (Lantern& record : records_) carry_by_sort(work, record);
    return alive();
  }

  void carry_by_sort(const FrameWork& work, Lantern& record) const {
    const Sort sort = sorting().sort_of(record.key);
    with_kind(sort.kind, [&](auto kind) {
      for (const Moment& now : work.of(sort)) carry<decltype(kind)::value>(now, record);
    });
  }

  void add_lanterns(std::int64_t more) override {
    for (const std::int64_t end = alive() + more; alive() < end;)
      records_.push_back(lantern_set_afloat(set_up().seed, alive()));
  }

  void push(std::int64_t index, float vx, float vy) override {
    records_[static_cast<std::size_t>(index)].vx = vx;
    records_[static_cast<std::size_t>(index)].vy = vy;
  }

  Lantern lantern(std::int64_t index) const override { return records_[static_cast<std::size_t>(index)]; }

  std::vector<Lantern> records_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_records(const SetUp& set_up) { return std::make_unique<DriftRecords>(set_up); }

}  // namespace mileage::festival
