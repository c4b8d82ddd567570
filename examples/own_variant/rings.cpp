// A scenario of one's own: rings on the water grow and fade, written in two ways.
#include <memory>
#include <numeric>
#include <vector>

#include <mileage/tool/tool.h>

namespace {

void grow(float& radius_m, float& strength, float step_s) {
  radius_m += 0.8F * step_s;
  strength -= 0.3F * strength * step_s;
}

mileage::Outcome outcome_of(double sum_of_radii, std::int64_t count) {
  mileage::Outcome outcome;
  outcome.state("mean radius", sum_of_radii / static_cast<double>(count), 1e-5);
  return outcome;
}

class RingObjects : public mileage::Variant {
 public:
  explicit RingObjects(const mileage::SetUp& set_up) : step_s_(static_cast<float>(set_up.step_s)) {
    for (std::int64_t i = 0; i < set_up.count; ++i) rings_.push_back(std::make_unique<Ring>());
  }
  void run_frame(mileage::Frame& frame) override {
    for (auto& ring : rings_) grow(ring->radius_m, ring->strength, step_s_);
    frame.add("updates", static_cast<double>(rings_.size()));
  }
  std::int64_t alive() const override { return static_cast<std::int64_t>(rings_.size()); }
  mileage::Outcome outcome() const override {
    double sum = 0;
    for (const auto& ring : rings_) sum += ring->radius_m;
    return outcome_of(sum, alive());
  }

 private:
  struct Ring {
    float radius_m = 0.1F, strength = 1;
  };
  float step_s_;
  std::vector<std::unique_ptr<Ring>> rings_;
};

class RingColumns : public mileage::Variant {
 public:
  explicit RingColumns(const mileage::SetUp& set_up)
      : step_s_(static_cast<float>(set_up.step_s)), radius_m_(set_up.count, 0.1F), strength_(set_up.count, 1.0F) {}
  void run_frame(mileage::Frame& frame) override {
    for (std::size_t i = 0; i < radius_m_.size(); ++i) grow(radius_m_[i], strength_[i], step_s_);
    frame.add("updates", static_cast<double>(radius_m_.size()));
  }
  std::int64_t alive() const override { return static_cast<std::int64_t>(radius_m_.size()); }
  mileage::Outcome outcome() const override {
    return outcome_of(std::accumulate(radius_m_.begin(), radius_m_.end(), 0.0), alive());
  }

 private:
  float step_s_;
  std::vector<float> radius_m_, strength_;
};

mileage::Catalogue rings() {
  mileage::Scenario scenario;
  scenario.name = "rings";
  scenario.note = "rings on the water grow and fade";
  scenario.build = mileage::build_of_this_file();
  mileage::Catalogue catalogue;
  catalogue.add(scenario);
  catalogue.add_variant("rings", {"objects", "one heap object per ring", {}, ""},
                        std::make_unique<RingObjects, const mileage::SetUp&>);
  catalogue.add_variant("rings", {"columns", "one array per field", {}, ""},
                        std::make_unique<RingColumns, const mileage::SetUp&>);
  return catalogue;
}

}  // namespace

int main(int argc, char** argv) { return mileage::run_tool(argc, argv, rings()); }
