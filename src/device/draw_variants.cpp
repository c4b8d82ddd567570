#include "device/draw_variants.h"

#include <fmt/format.h>

#include "device/drawer.h"
#include "device/drawn_variant.h"
#include "types/error.h"
#include "types/unmarked.h"

namespace mileage::device {
namespace {

/// Limit for comparing with the rule, one call per lantern.
constexpr std::int64_t max_lanterns_by_rule = 5000;
/// Edges between pixels.
constexpr double share_unlike = 2e-4;

class DrawVariant : public DrawnVariant {
 public:
  using MakeDrawer = std::unique_ptr<Drawer> (*)(DrawStage&, const Knobs&);

  DrawVariant(const SetUp& set_up, MakeDrawer make) : DrawnVariant(set_up), drawer_(make(stage(), set_up.knobs)) {}

 private:
  void bring_forward(Frame& frame) override {
    if (stage().world().changing <= 0) return;
    stage().world().change_kinds();
    drawer_->regroup(frame);
  }

  void paint(Frame& frame) const override { drawer_->draw(time_s(), frame); }

  /// Compares the last picture with the drawer's rule, pixel by pixel.
  void state_more(Outcome& outcome) const override {
    if (alive() > max_lanterns_by_rule) return;
    const Picture as_drawn = stage().canvas().picture();
    draw_again([this] { drawer_->draw_by_rule(time_s()); });
    const std::int64_t unlike = unlike_pixels(as_drawn, stage().canvas().picture());
    const auto pixels = static_cast<double>(as_drawn.width) * as_drawn.height;
    if (static_cast<double>(unlike) > share_unlike * pixels)
      throw Error({.kind = FaultKind::variant,
                   .problem = "the picture is not what its rule says of every lantern",
                   .found = fmt::format("{} pixels that differ", unlike),
                   .accepted = fmt::format("at most {:.0f} of {:.0f}", share_unlike * pixels, pixels)});
    outcome.state("pixels unlike its rule", static_cast<double>(unlike), share_unlike, pixels);
  }

  std::unique_ptr<Drawer> drawer_;
};

std::unique_ptr<Variant> made(const SetUp& set_up, DrawVariant::MakeDrawer make) {
  return std::make_unique<DrawVariant>(set_up, make);
}

}  // namespace

std::unique_ptr<Variant> make_draw_each(const SetUp& set_up) { return made(set_up, make_each_drawer); }

std::unique_ptr<Variant> make_draw_each_own(const SetUp& set_up) { return made(set_up, make_each_own_drawer); }

std::unique_ptr<Variant> make_draw_instanced(const SetUp& set_up) { return made(set_up, make_instanced_drawer); }

std::unique_ptr<Variant> make_draw_instanced_all(const SetUp& set_up) {
  return made(set_up, make_instanced_all_drawer);
}

std::unique_ptr<Variant> make_draw_multi(const SetUp& set_up) { return made(set_up, make_multi_drawer); }

std::unique_ptr<Variant> make_draw_resident(const SetUp& set_up) { return made(set_up, make_resident_drawer); }

std::unique_ptr<Variant> make_draw_large(const SetUp& set_up) { return made(set_up, make_large_drawer); }

std::unique_ptr<Variant> make_draw_large_device(const SetUp& set_up) { return made(set_up, make_large_device_drawer); }

std::unique_ptr<Variant> make_draw_detail(const SetUp& set_up) { return made(set_up, make_detail_drawer); }

}  // namespace mileage::device
