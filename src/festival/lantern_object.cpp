#include "festival/lantern_object.h"

namespace mileage::festival {

void LanternObject::update(const std::vector<Moment>& moments) {
  for (const Moment& now : moments) carry(now, lantern_);
}

}  // namespace mileage::festival
