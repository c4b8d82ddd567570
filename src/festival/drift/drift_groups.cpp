#include <memory>
#include <vector>

#include "festival/drift/drift_variants.h"
#include "festival/drift/drift_world.h"
#include "festival/drift/strips.h"
#include "festival/groups/groups.h"

namespace mileage::festival {
namespace {

using groups::FieldSet;
using groups::Handle;

struct X {
  float value;
};
struct Y {
  float value;
};
struct Height {
  float value;
};
struct Vx {
  float value;
};
struct Vy {
  float value;
};
struct Vz {
  float value;
};
struct Age {
  float value;
};
struct Flicker {
  float value;
};
struct Lean {
  float value;
};
struct Key {
  std::uint32_t value;
};
/// Tags that separate groups.
template <int kind>
struct Kind {};
struct Light {};
struct Heavy {};

class DriftGroups : public DriftVariant {
 public:
  explicit DriftGroups(const SetUp& set_up) : DriftVariant(set_up) { make_lanterns(set_up.count); }

  std::int64_t alive() const override { return world_.size(); }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame&) override {
    std::int64_t updates = 0;
    for (const Sort& sort : sorting().sorts())
      with_kind(sort.kind, [&](auto kind) {
        using OfKind = Kind<decltype(kind)::value>;
        const FieldSet tags = sort.is_heavy ? FieldSet::of<OfKind, Heavy>() : FieldSet::of<OfKind, Light>();
        updates += carry_group(work.of(sort), usual_carry_strip(sort.kind), tags);
      });
    return updates;
  }

  std::int64_t carry_group(const std::vector<Moment>& moments, CarryStrip carry_strip, FieldSet tags) {
    std::int64_t updates = 0;
    const auto carry_page = [&](std::int64_t count, float* x, float* y, float* height, float* vx, float* vy, float* vz,
                                float* age, float* flicker, float* lean, std::uint32_t* key) {
      for (const Moment& now : moments) carry_strip(count, now, {x, y, height, vx, vy, vz, age, flicker, lean, key});
      updates += count;
    };
    world_.walk<X, Y, Height, Vx, Vy, Vz, Age, Flicker, Lean, Key>(carry_page, tags);
    return updates;
  }

  void make_lanterns(std::int64_t more) {
    for (const std::int64_t end = alive() + more; alive() < end;)
      make_lantern(lantern_set_afloat(set_up().seed, alive()));
  }

  void make_lantern(const Lantern& one) {
    const Sort sort = sorting().sort_of(one.key);
    with_kind(sort.kind, [&](auto kind) {
      const Kind<decltype(kind)::value> of_kind;
      handles_.push_back(sort.is_heavy ? make_with(one, of_kind, Heavy{}) : make_with(one, of_kind, Light{}));
    });
  }

  template <class OfKind, class Load>
  Handle make_with(const Lantern& one, OfKind of_kind, Load load) {
    return world_.make(X{one.x_m}, Y{one.y_m}, Height{one.height_m}, Vx{one.vx}, Vy{one.vy}, Vz{one.vz}, Age{one.age_s},
                       Flicker{one.flicker}, Lean{one.lean}, Key{one.key}, of_kind, load);
  }

  void add_lanterns(std::int64_t more) override { make_lanterns(more); }

  void push(std::int64_t index, float vx, float vy) override {
    const Handle handle = handles_[static_cast<std::size_t>(index)];
    *world_.find<Vx>(handle) = vx;
    *world_.find<Vy>(handle) = vy;
  }

  Lantern lantern(std::int64_t index) const override {
    const Handle handle = handles_[static_cast<std::size_t>(index)];
    return {*world_.find<X>(handle),   *world_.find<Y>(handle),       *world_.find<Height>(handle),
            *world_.find<Vx>(handle),  *world_.find<Vy>(handle),      *world_.find<Vz>(handle),
            *world_.find<Age>(handle), *world_.find<Flicker>(handle), *world_.find<Lean>(handle),
            *world_.find<Key>(handle)};
  }

  groups::World world_;
  std::vector<Handle> handles_;  ///< By lantern number.
};

}  // namespace

std::unique_ptr<Variant> make_drift_groups(const SetUp& set_up) { return std::make_unique<DriftGroups>(set_up); }

}  // namespace mileage::festival
