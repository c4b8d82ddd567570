#include "device/drawn_variant.h"

#include <cstdlib>
#include <vector>

#include <epoxy/gl.h>
#include <fmt/format.h>

#include "types/unmarked.h"

namespace mileage::device {
namespace {

/// Mean brightness per tile, tolerant of edges between pixels.
constexpr int tiles_across = 16;
constexpr int tiles_down = 9;
constexpr double tile_tolerance = 0.01;
/// Of 255.
constexpr int like_colours = 3;

void state_picture(Outcome& outcome, const Picture& picture) {
  const int width = picture.width / tiles_across;
  const int height = picture.height / tiles_down;
  for (int row = 0; row < tiles_down; ++row)
    for (int column = 0; column < tiles_across; ++column) {
      double sum = 0;
      for (int y = row * height; y < (row + 1) * height; ++y)
        for (int x = 3 * column * width; x < 3 * (column + 1) * width; ++x)
          sum += picture.pixels[static_cast<std::size_t>(y * picture.width * 3 + x)];
      outcome.state(fmt::format("brightness of tile {},{}", column, row), sum / (3.0 * width * height), tile_tolerance,
                    1);
    }
}

}  // namespace

DrawnVariant::DrawnVariant(const SetUp& set_up)
    : step_s_(set_up.step_s),
      stage_(std::make_unique<DrawStage>(set_up)),
      under_way_(stage_->context(), static_cast<int>(set_up.knobs.whole("in-flight"))) {}

void DrawnVariant::run_frame(Frame& frame) {
  ++frames_;
  under_way_.begin();
  bring_forward(frame);
  stage_->clear();
  paint(frame);
  const auto phase = frame.phase(wait_phase);
  under_way_.handed_over(frame);
}

Outcome DrawnVariant::outcome() const {
  const DrawStage::Counted counts = counted();
  Outcome outcome;
  outcome.state("lanterns drawn", static_cast<double>(counts.lanterns), 0);
  outcome.state("samples covered", static_cast<double>(counts.samples), tile_tolerance, 1);
  paint_again();
  state_picture(outcome, stage_->canvas().picture());
  state_more(outcome);
  return outcome;
}

void DrawnVariant::count_untimed(Frame& frame) const {
  const DrawStage::Counted counts = counted();
  frame.add("pixels", static_cast<double>(counts.samples));
  frame.add("lanterns in view", static_cast<double>(counts.in_view));
}

Picture DrawnVariant::picture() const {
  draw_again([this] {
    stage_->draw_background();
    paint_unmarked();
  });
  return stage_->canvas().picture();
}

DrawStage::Counted DrawnVariant::counted() const {
  stage_->start_counting();
  paint_again();
  return stage_->stop_counting();
}

void DrawnVariant::paint_again() const {
  draw_again([this] { paint_unmarked(); });
}

void DrawnVariant::paint_unmarked() const {
  Unmarked unmarked;
  Frame frame(unmarked);
  paint(frame);
}

void DrawnVariant::finish() const {
  ::glFinish();
  stage_->context().check();
}

std::int64_t unlike_pixels(const Picture& one, const Picture& other) {
  std::int64_t unlike = 0;
  for (std::size_t i = 0; i < one.pixels.size(); i += 3) {
    bool differs = false;
    for (std::size_t c = 0; c < 3; ++c)
      differs = differs || std::abs(one.pixels[i + c] - other.pixels[i + c]) > like_colours;
    unlike += differs;
  }
  return unlike;
}

}  // namespace mileage::device
