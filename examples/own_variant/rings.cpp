// A whole program: rings on the water grow and fade, written in two ways.
#include <memory>
#include <vector>

#include <mileage/tool/tool.h>

struct Ring {
  float radius_m = 0.1F, strength = 1;
};
struct RingObjects : mileage::Variant {
  explicit RingObjects(const mileage::SetUp& set_up) {
    for (std::int64_t i = 0; i < set_up.count; ++i) rings.push_back(std::make_unique<Ring>());
  }
  void run_frame(mileage::Frame&) override {
    for (auto& ring : rings) ring->radius_m += 0.01F * (ring->strength *= 0.995F);
  }
  std::int64_t alive() const override { return static_cast<std::int64_t>(rings.size()); }
  mileage::Outcome outcome() const override { return {{"last radius", rings.back()->radius_m, 1e-5}}; }
  std::vector<std::unique_ptr<Ring>> rings;
};

struct RingColumns : mileage::Variant {
  explicit RingColumns(const mileage::SetUp& set_up) : radius_m(set_up.count, 0.1F), strength(set_up.count, 1.0F) {}
  void run_frame(mileage::Frame&) override {
    for (std::size_t i = 0; i < radius_m.size(); ++i) radius_m[i] += 0.01F * (strength[i] *= 0.995F);
  }
  std::int64_t alive() const override { return static_cast<std::int64_t>(radius_m.size()); }
  mileage::Outcome outcome() const override { return {{"last radius", radius_m.back(), 1e-5}}; }
  std::vector<float> radius_m, strength;
};

int main(int argc, char** argv) {
  mileage::Scenario scenario{"rings", "rings on the water grow and fade", "rings"};
  scenario.build = mileage::build_of_this_file();
  mileage::Catalogue all;
  all.add(scenario);
  all.add_variant("rings", {"objects", "one heap object per ring"}, mileage::make_world<RingObjects>);
  all.add_variant("rings", {"columns", "one array per field"}, mileage::make_world<RingColumns>);
  return mileage::run_tool(argc, argv, all);
}
