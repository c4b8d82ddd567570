#include "device/draw_variants.h"

#include <vector>

#include <epoxy/gl.h>
#include <fmt/format.h>

#include "device/draw_stage.h"
#include "device/drawer.h"
#include "types/unmarked.h"

namespace mileage::device {
namespace {

/// The picture is stated as mean brightness over so many tiles; two pictures of one frame may differ where edges fall between
/// pixels.
constexpr int tiles_across = 16;
constexpr int tiles_down = 9;
constexpr double tile_tolerance = 0.01;

class DrawVariant : public Variant {
 public:
  using MakeDrawer = std::unique_ptr<Drawer> (*)(DrawStage&, const Knobs&);

  DrawVariant(const SetUp& set_up, MakeDrawer make)
      : step_s_(set_up.step_s),
        stage_(std::make_unique<DrawStage>(set_up)),
        drawer_(make(*stage_, set_up.knobs)),
        under_way_(stage_->context(), static_cast<int>(set_up.knobs.whole("in-flight"))) {}

  void run_frame(Frame& frame) override {
    ++frames_;
    stage_->clear();
    drawer_->draw(time_s(), frame);
    const auto phase = frame.phase("wait");
    under_way_.handed_over();
  }

  std::int64_t alive() const override { return static_cast<std::int64_t>(stage_->world().lanterns.size()); }

  /// Draws the last frame once more, counting: in measured frames that would alter the time.
  Outcome outcome() const override {
    stage_->start_counting();
    draw_again();
    const DrawStage::Counted counted = stage_->stop_counting();
    Outcome outcome;
    outcome.state("lanterns drawn", static_cast<double>(counted.lanterns), 0);
    outcome.state("samples passed", static_cast<double>(counted.samples), tile_tolerance, 1);
    state_picture(outcome, stage_->canvas().pixels());
    return outcome;
  }

  Picture picture() const override {
    draw_again();
    return {stage_->canvas().width(), stage_->canvas().height(), stage_->canvas().pixels()};
  }

 private:
  float time_s() const { return static_cast<float>(static_cast<double>(frames_) * step_s_); }

  void draw_again() const {
    Unmarked unmarked;
    Frame frame(unmarked);
    stage_->clear();
    drawer_->draw(time_s(), frame);
    ::glFinish();
    stage_->context().check();
  }

  void state_picture(Outcome& outcome, const std::vector<std::uint8_t>& pixels) const {
    const int width = stage_->canvas().width() / tiles_across;
    const int height = stage_->canvas().height() / tiles_down;
    for (int row = 0; row < tiles_down; ++row)
      for (int column = 0; column < tiles_across; ++column) {
        double sum = 0;
        for (int y = row * height; y < (row + 1) * height; ++y)
          for (int x = 3 * column * width; x < 3 * (column + 1) * width; ++x)
            sum += pixels[static_cast<std::size_t>(y * stage_->canvas().width() * 3 + x)];
        outcome.state(fmt::format("brightness of tile {},{}", column, row), sum / (3.0 * width * height), tile_tolerance, 1);
      }
  }

  double step_s_;
  std::int64_t frames_ = 0;
  std::unique_ptr<DrawStage> stage_;
  std::unique_ptr<Drawer> drawer_;
  FramesUnderWay under_way_;
};

std::unique_ptr<Variant> made(const SetUp& set_up, DrawVariant::MakeDrawer make) { return std::make_unique<DrawVariant>(set_up, make); }

}  // namespace

std::unique_ptr<Variant> make_draw_each(const SetUp& set_up) { return made(set_up, make_each_drawer); }

std::unique_ptr<Variant> make_draw_each_own(const SetUp& set_up) { return made(set_up, make_each_own_drawer); }

std::unique_ptr<Variant> make_draw_instanced(const SetUp& set_up) { return made(set_up, make_instanced_drawer); }

std::unique_ptr<Variant> make_draw_instanced_all(const SetUp& set_up) { return made(set_up, make_instanced_all_drawer); }

std::unique_ptr<Variant> make_draw_multi(const SetUp& set_up) { return made(set_up, make_multi_drawer); }

std::unique_ptr<Variant> make_draw_resident(const SetUp& set_up) { return made(set_up, make_resident_drawer); }

std::unique_ptr<Variant> make_draw_near(const SetUp& set_up) { return made(set_up, make_near_drawer); }

std::unique_ptr<Variant> make_draw_near_device(const SetUp& set_up) { return made(set_up, make_near_device_drawer); }

std::unique_ptr<Variant> make_draw_detail(const SetUp& set_up) { return made(set_up, make_detail_drawer); }

}  // namespace mileage::device
