#include <memory>
#include <vector>

#include "festival/drift_variants.h"
#include "festival/lantern_columns.h"

namespace mileage::festival {
namespace {

class DriftColumns : public DriftVariant {
 public:
  explicit DriftColumns(const SetUp& set_up) : DriftVariant(set_up), columns_(set_up.seed, set_up.count) {}

  std::int64_t alive() const override { return columns_.size(); }

 private:
  std::int64_t carry_all(const std::vector<Moment>& moments, Frame&) override {
    columns_.carry_range(0, columns_.size(), moments);
    return columns_.size();
  }

  void add_lanterns(std::int64_t more) override { columns_.add(set_up().seed, more); }

  Lantern lantern(std::int64_t index) const override { return columns_.lantern(index); }

  LanternColumns columns_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_columns(const SetUp& set_up) { return std::make_unique<DriftColumns>(set_up); }

}  // namespace mileage::festival
