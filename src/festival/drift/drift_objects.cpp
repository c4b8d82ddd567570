#include <memory>

#include "festival/drift/drift_variants.h"
#include "festival/drift/lantern_objects.h"

namespace mileage::festival {
namespace {

class DriftObjects : public DriftVariant {
 public:
  explicit DriftObjects(const SetUp& set_up) : DriftVariant(set_up), objects_(set_up, sorting(), 0, set_up.count) {}

  std::int64_t alive() const override { return objects_.size(); }

 protected:
  const LanternObjects& objects() const { return objects_; }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame&) override {
    directory_.offer(frame_work_name, &work);
    for (const auto& object : objects_) static_cast<FestivalObject&>(*object).update(directory_);
    return alive();
  }

  void add_lanterns(std::int64_t more) override { objects_.add(more); }
  void push(std::int64_t index, float vx, float vy) override { objects_.at(index).push(vx, vy); }
  Lantern lantern(std::int64_t index) const override { return objects_.at(index).lantern(); }

  LanternObjects objects_;
  Directory directory_;
};

class DriftObjectsHoisted : public DriftObjects {
 public:
  using DriftObjects::DriftObjects;

 private:
  std::int64_t carry_all(const FrameWork& work, Frame&) override {
    for (const auto& object : objects()) static_cast<FestivalObject&>(*object).update(work);
    return alive();
  }
};

}  // namespace

std::unique_ptr<Variant> make_drift_objects(const SetUp& set_up) { return std::make_unique<DriftObjects>(set_up); }

std::unique_ptr<Variant> make_drift_objects_hoisted(const SetUp& set_up) {
  return std::make_unique<DriftObjectsHoisted>(set_up);
}

}  // namespace mileage::festival
