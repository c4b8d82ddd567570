#include <memory>

#include "festival/drift/drift_variants.h"
#include "festival/drift/mirrored_lanterns.h"

namespace mileage::festival {
namespace {

class DriftMirroredFresh : public MirroredLanterns {
 public:
  using MirroredLanterns::MirroredLanterns;

 private:
  void gather(Frame&) override {
    make_columns();
    append_new();
  }
  void write_back(Frame& frame) override {
    MirroredLanterns::write_back(frame);
    free_columns();
  }
};

}  // namespace

std::unique_ptr<Variant> make_drift_mirrored_fresh(const SetUp& set_up) {
  return std::make_unique<DriftMirroredFresh>(set_up);
}

}  // namespace mileage::festival
