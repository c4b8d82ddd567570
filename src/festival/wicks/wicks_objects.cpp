#include <memory>

#include "festival/wicks/wicks_variants.h"
#include "festival/wicks/wicks_world.h"

namespace mileage::festival::wicks {
namespace {

class WickObject {
 public:
  explicit WickObject(const Wick& wick) : wick_(wick) {}
  virtual ~WickObject() = default;
  virtual void update(float step_s) { burn(wick_, step_s); }
  virtual bool is_out() const { return wick_.is_out(); }
  const Wick& wick() const { return wick_; }

 private:
  Wick wick_;
};

class ObjectsErase : public WicksVariant {
 public:
  explicit ObjectsErase(const SetUp& set_up) : WicksVariant(set_up) {
    for (const Wick& wick : first_wicks()) add_object(wick);
  }
  std::int64_t alive() const override { return static_cast<std::int64_t>(all_.size()); }

 private:
  std::int64_t burn_all(Frame& frame, float step_s) override {
    const auto phase = frame.phase("burn");
    const auto burnt = alive();
    for (auto one = all_.begin(); one != all_.end();) {
      (*one)->update(step_s);
      one = (*one)->is_out() ? all_.erase(one) : one + 1;
    }
    return burnt;
  }
  void add_object(const Wick& wick) { all_.push_back(std::make_unique<WickObject>(wick)); }
  void add(const Wick& wick) override { add_object(wick); }
  std::vector<Wick> in_order() const override {
    std::vector<Wick> wicks;
    for (const auto& one : all_) wicks.push_back(one->wick());
    return wicks;
  }

  std::vector<std::unique_ptr<WickObject>> all_;
};

}  // namespace

std::unique_ptr<Variant> make_objects_erase(const SetUp& set_up) { return std::make_unique<ObjectsErase>(set_up); }

}  // namespace mileage::festival::wicks
