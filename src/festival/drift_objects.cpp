#include <cmath>
#include <memory>
#include <random>
#include <utility>
#include <vector>

#include "festival/drift_variants.h"
#include "festival/lantern_object.h"

namespace mileage::festival {
namespace {

/// The order of use after a share of the objects has changed places: what hours of play do to a heap.
void scatter(std::vector<std::unique_ptr<LanternObject>>& objects, double share, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  std::vector<std::size_t> moving;
  for (std::size_t i = 0; i < objects.size(); ++i)
    if (std::uniform_real_distribution<double>(0, 1)(random) < share) moving.push_back(i);
  for (std::size_t i = moving.size(); i > 1; --i) {
    const std::size_t j = std::uniform_int_distribution<std::size_t>(0, i - 1)(random);
    std::swap(objects[moving[i - 1]], objects[moving[j]]);
  }
}

class DriftObjects : public DriftVariant {
 public:
  explicit DriftObjects(const SetUp& set_up) : DriftVariant(set_up) {
    for (std::int64_t i = 0; i < set_up.count; ++i) objects_.push_back(std::make_unique<LanternObject>());
    scatter(objects_, set_up.knobs.number("scatter"), set_up.seed);
    for (std::int64_t i = 0; i < set_up.count; ++i)
      objects_[static_cast<std::size_t>(i)]->set_afloat(lantern_set_afloat(set_up.seed, i));
  }

  std::int64_t alive() const override { return static_cast<std::int64_t>(objects_.size()); }

 private:
  std::int64_t carry_all(const std::vector<Moment>& moments, Frame&) override {
    for (const auto& object : objects_) static_cast<FestivalObject&>(*object).update(moments);
    return alive();
  }

  void add_lanterns(std::int64_t more) override {
    for (const std::int64_t end = alive() + more; alive() < end;) {
      objects_.push_back(std::make_unique<LanternObject>());
      objects_.back()->set_afloat(lantern_set_afloat(set_up().seed, alive() - 1));
    }
  }

  Lantern lantern(std::int64_t index) const override { return objects_[static_cast<std::size_t>(index)]->lantern(); }

  std::vector<std::unique_ptr<LanternObject>> objects_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_objects(const SetUp& set_up) { return std::make_unique<DriftObjects>(set_up); }

}  // namespace mileage::festival
