#include "festival/jostle/jostle_variants.h"
#include "festival/jostle/jostle_world.h"

namespace mileage::festival::jostle {
namespace {

class JostlePairs : public JostleVariant {
 public:
  using JostleVariant::JostleVariant;

 private:
  Found push_apart(Frame& frame) override {
    const auto phase = frame.phase("pairs");
    Found found;
    for (std::int64_t a = 0; a < alive(); ++a) meet_all(lanterns(), a, a + 1, alive(), found);
    return found;
  }
};

}  // namespace

std::unique_ptr<Variant> make_pairs(const SetUp& set_up) { return std::make_unique<JostlePairs>(set_up); }

}  // namespace mileage::festival::jostle
