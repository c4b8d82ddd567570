#include "festival/jetty/jetty_world.h"

#include <cmath>
#include <string>

#include "festival/mixing.h"
#include "festival/plot.h"
#include "festival/sampled.h"

namespace mileage::festival::jetty {
namespace {

/// By planks.
constexpr double covered = 0.1;
constexpr std::int64_t shortest_run = 6;
constexpr std::uint64_t longer_runs = 20;
constexpr std::int64_t lanterns_sampled = 6;
constexpr double tolerance = 1e-5;

}  // namespace

JettyVariant::JettyVariant(const SetUp& set_up)
    : set_up_(set_up),
      width_(std::max<std::int64_t>(shortest_run + static_cast<std::int64_t>(longer_runs) + 2,
                                    static_cast<std::int64_t>(std::sqrt(set_up.knobs.number("planks") / covered)))) {
  laid_.resize(static_cast<std::size_t>(width_ * width_));
  lay_jetties(set_up.knobs.whole("planks"));
  add_lanterns(set_up.count);
}

Box JettyVariant::box_of(Cell cell) const {
  const auto column = static_cast<float>(cell % width_);
  const auto row = static_cast<float>(cell / width_);
  return {column, row, column + 1, row + 1};
}

void JettyVariant::lay(Cell cell) {
  laid_[static_cast<std::size_t>(cell)] = 1;
  planks_.push_back(cell);
}

void JettyVariant::take(std::size_t plank) {
  laid_[static_cast<std::size_t>(planks_[plank])] = 0;
  taken_.push_back(planks_[plank]);
  planks_[plank] = planks_.back();
  planks_.pop_back();
}

/// Runs of planks in rows until there are enough.
void JettyVariant::lay_jetties(std::int64_t planks) {
  std::uint64_t chance = splitmix64(set_up_.seed + 17);
  while (static_cast<std::int64_t>(planks_.size()) < planks) {
    chance = splitmix64(chance);
    const auto length = shortest_run + static_cast<std::int64_t>(splitmix64(chance + 1) % longer_runs);
    const auto row = static_cast<std::int64_t>(splitmix64(chance + 2) % static_cast<std::uint64_t>(width_));
    const auto column = static_cast<std::int64_t>(splitmix64(chance + 3) % static_cast<std::uint64_t>(width_ - length));
    for (std::int64_t i = 0; i < length && static_cast<std::int64_t>(planks_.size()) < planks; ++i) {
      const auto cell = static_cast<Cell>(row * width_ + column + i);
      if (!is_laid(cell)) lay(cell);
    }
  }
}

/// In the middle of open cells.
void JettyVariant::add_lanterns(std::int64_t lanterns) {
  for (std::int64_t i = 0; i < lanterns; ++i) {
    std::uint64_t own = splitmix64(set_up_.seed ^ splitmix64(x_.size() + 0x300000000U));
    while (is_laid(static_cast<Cell>(own % laid_.size()))) own = splitmix64(own);
    const auto cell = static_cast<Cell>(own % laid_.size());
    const Box box = box_of(cell);
    x_.push_back(box.x0 + 0.5F);
    y_.push_back(box.y0 + 0.5F);
    const float turn = 6.2831853F * share_of(splitmix64(own + 1));
    const float speed = 0.5F + share_of(splitmix64(own + 2));
    vx_.push_back(speed * std::cos(turn));
    vy_.push_back(speed * std::sin(turn));
  }
}

/// Takes a plank, then lays one.
void JettyVariant::change_some(Frame& frame) {
  changes_due_ += set_up_.knobs.number("changes") * set_up_.step_s;
  for (; changes_due_ >= 1 && !planks_.empty(); changes_due_ -= 1, ++changes_) {
    const auto phase = frame.phase("change");
    if (taken_.size() > 8) {
      const Cell cell = taken_[taken_.size() - 8];
      taken_.erase(taken_.end() - 8);
      lay(cell);
      changed(cell);
    } else {
      const std::uint64_t chance = splitmix64(set_up_.seed ^ splitmix64(static_cast<std::uint64_t>(changes_)));
      take(chance % planks_.size());
      changed(taken_.back());
    }
  }
}

void JettyVariant::run_frame(Frame& frame) {
  if (frame.arriving() > 0) add_lanterns(frame.arriving());
  change_some(frame);
  const auto phase = frame.phase("bump");
  const std::vector<Box>& all = boxes();
  const auto step_s = static_cast<float>(set_up_.step_s);
  const auto side_m = static_cast<float>(width_);
  contacts_ = 0;
  for (std::size_t i = 0; i < x_.size(); ++i) {
    float& x = x_[i];
    float& y = y_[i];
    x += vx_[i] * step_s;
    y += vy_[i] * step_s;
    NearestPoint nearest;
    for (const Box& box : all) nearest.look_at(box, x, y);
    if (nearest.squared < lantern_radius_m * lantern_radius_m) {
      ++contacts_;
      const float away = std::sqrt(nearest.squared);
      // A plank laid under a lantern pushes it upwards.
      const float nx = away > 0 ? (x - nearest.x) / away : 0.0F;
      const float ny = away > 0 ? (y - nearest.y) / away : 1.0F;
      const float towards = vx_[i] * nx + vy_[i] * ny;
      if (towards < 0) {
        vx_[i] -= 2 * towards * nx;
        vy_[i] -= 2 * towards * ny;
      }
      x = nearest.x + nx * lantern_radius_m;
      y = nearest.y + ny * lantern_radius_m;
    }
    if (x < 0 || x > side_m) vx_[i] = -vx_[i];
    if (y < 0 || y > side_m) vy_[i] = -vy_[i];
    x = std::clamp(x, 0.0F, side_m);
    y = std::clamp(y, 0.0F, side_m);
  }
  frame.add("updates", static_cast<double>(alive()));
  frame.add("boxes", static_cast<double>(all.size()));
  frame.add("boxes tested", static_cast<double>(all.size()) * static_cast<double>(alive()));
  frame.add("contacts", static_cast<double>(contacts_));
}

Outcome JettyVariant::outcome() const {
  double x = 0, y = 0;
  for (std::size_t i = 0; i < x_.size(); ++i) {
    x += x_[i];
    y += y_[i];
  }
  const auto count = static_cast<double>(alive());
  Outcome outcome;
  outcome.state("alive", count, 0);
  outcome.state("planks", static_cast<double>(planks_.size()), 0);
  outcome.state("contacts", static_cast<double>(contacts_), 0);
  outcome.state("mean x", x / count, tolerance, 1);
  outcome.state("mean y", y / count, tolerance, 1);
  for (const std::int64_t one : sampled(alive(), lanterns_sampled)) {
    const auto number = static_cast<std::size_t>(one);
    const std::string name = "lantern " + std::to_string(number);
    outcome.state(name + " x", x_[number], tolerance, 1);
    outcome.state(name + " y", y_[number], tolerance, 1);
  }
  return outcome;
}

Picture JettyVariant::picture() const {
  Plot plot(static_cast<float>(width_), static_cast<float>(width_));
  for (const Box& box : boxes()) plot.box(box.x0, box.y0, box.x1, box.y1, colours::wood);
  for (std::size_t i = 0; i < x_.size(); ++i) plot.disc(x_[i], y_[i], lantern_radius_m, colours::glow);
  return std::move(plot).picture();
}

}  // namespace mileage::festival::jetty
