#include "festival/drift/lantern_object.h"

namespace mileage::festival {
namespace {

template <int kind>
class LanternOfKind final : public LanternObject {
 public:
  explicit LanternOfKind(bool is_heavy) : LanternObject(is_heavy) {}

  void update(const Directory& directory) override { update(directory.find<FrameWork>(frame_work_name)); }
  void update(const FrameWork& work) override {
    for (const Moment& now : work.of({kind, is_heavy_})) carry<kind>(now, lantern_);
  }
};

}  // namespace

std::unique_ptr<LanternObject> make_lantern_object(Sort sort, std::size_t ballast) {
  std::unique_ptr<LanternObject> made;
  with_kind(sort.kind,
            [&](auto kind) { made.reset(new (ballast) LanternOfKind<decltype(kind)::value>(sort.is_heavy)); });
  return made;
}

}  // namespace mileage::festival
