#include "festival/jetty/jetty_variants.h"
#include "festival/jetty/jetty_world.h"

namespace mileage::festival::jetty {
namespace {

class JettyPlanks : public JettyVariant {
 public:
  explicit JettyPlanks(const SetUp& set_up) : JettyVariant(set_up) { box_all(); }

 private:
  const std::vector<Box>& boxes() const override { return boxes_; }
  void changed(Cell) override { box_all(); }
  void box_all() {
    boxes_.clear();
    for (const Cell cell : planks()) boxes_.push_back(box_of(cell));
  }

  std::vector<Box> boxes_;
};

}  // namespace

std::unique_ptr<Variant> make_planks(const SetUp& set_up) { return std::make_unique<JettyPlanks>(set_up); }

}  // namespace mileage::festival::jetty
