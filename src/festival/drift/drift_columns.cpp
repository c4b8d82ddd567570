#include <memory>

#include "festival/drift/drift_variants.h"
#include "festival/drift/sorted_lanterns.h"

namespace mileage::festival {
namespace {

class DriftColumns : public DriftVariant {
 public:
  DriftColumns(const SetUp& set_up, Vectors vectors) : DriftVariant(set_up), vectors_(vectors), columns_(sorting()) {
    columns_.set_afloat(set_up.seed, 0, set_up.count);
  }

  std::int64_t alive() const override { return columns_.size(); }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame&) override {
    carry_all_columns(columns_, work, vectors_);
    return alive();
  }

  void add_lanterns(std::int64_t more) override { columns_.set_afloat(set_up().seed, alive(), alive() + more); }
  void push(std::int64_t index, float vx, float vy) override { columns_.push(index, vx, vy); }
  Lantern lantern(std::int64_t index) const override { return columns_.lantern(index); }

  Vectors vectors_;
  SortedColumns columns_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_columns(const SetUp& set_up) {
  return std::make_unique<DriftColumns>(set_up, Vectors::usual);
}

std::unique_ptr<Variant> make_drift_columns_plain(const SetUp& set_up) {
  return std::make_unique<DriftColumns>(set_up, Vectors::none);
}

std::unique_ptr<Variant> make_drift_columns_wide(const SetUp& set_up) {
  return std::make_unique<DriftColumns>(set_up, Vectors::widest);
}

}  // namespace mileage::festival
