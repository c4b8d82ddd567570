#include <memory>

#include "festival/drift/drift_variants.h"
#include "festival/drift/mirrored_lanterns.h"

namespace mileage::festival {

std::unique_ptr<Variant> make_drift_mirrored(const SetUp& set_up) { return std::make_unique<MirroredLanterns>(set_up); }

}  // namespace mileage::festival
