#include "festival/moths/moths_world.h"

#include <algorithm>
#include <cmath>
#include <string>

#include "festival/mixing.h"
#include "festival/plot.h"
#include "festival/sampled.h"

namespace mileage::festival::moths {
namespace {

constexpr double lanterns_each_m2 = 0.25;
constexpr float moth_m_per_s = 2.5F;
constexpr std::int64_t moths_sampled = 6;
constexpr double tolerance = 1e-5;

}  // namespace

MothsVariant::MothsVariant(const SetUp& set_up)
    : set_up_(set_up),
      side_m_(static_cast<float>(std::sqrt(set_up.knobs.number("lanterns") / lanterns_each_m2))),
      forget_below_(static_cast<std::uint64_t>(set_up.knobs.number("forget") * 0x1p32)) {
  for (std::int64_t i = 0; i < set_up.knobs.whole("lanterns"); ++i) {
    generation_.push_back(0);
    place_of_slot_.push_back(static_cast<std::uint32_t>(i));
    lanterns_.slot.push_back(static_cast<std::uint32_t>(i));
    add_lantern();
  }
  add_moths(set_up.count);
}

/// Its slot exists already.
void MothsVariant::add_lantern() {
  const std::uint64_t own = splitmix64(set_up_.seed ^ splitmix64(next_number_ + 0x100000000U));
  const auto churn = static_cast<float>(set_up_.knobs.number("churn"));
  lanterns_.number.push_back(next_number_++);
  lanterns_.x.push_back(side_m_ * share_of(own));
  lanterns_.y.push_back(side_m_ * share_of(splitmix64(own + 1)));
  vx_.push_back(drift_m_per_s * (2 * share_of(splitmix64(own + 2)) - 1));
  vy_.push_back(drift_m_per_s * (2 * share_of(splitmix64(own + 3)) - 1));
  left_s_.push_back(churn > 0 ? 2 * share_of(splitmix64(own + 4)) / churn : 1e9F);
}

void MothsVariant::add_moths(std::int64_t moths) {
  for (std::int64_t i = 0; i < moths; ++i) {
    const std::uint64_t own = splitmix64(set_up_.seed ^ splitmix64(moths_.size() + 0x200000000U));
    Moth moth;
    moth.x = side_m_ * share_of(own);
    moth.y = side_m_ * share_of(splitmix64(own + 1));
    moths_.push_back(moth);
  }
}

/// They turn back at the banks.
void MothsVariant::move_lanterns(float step_s) {
  for (std::size_t i = 0; i < lanterns_.size(); ++i) {
    float& x = lanterns_.x[i];
    float& y = lanterns_.y[i];
    x += vx_[i] * step_s;
    y += vy_[i] * step_s;
    if (x < 0 || x > side_m_) vx_[i] = -vx_[i];
    if (y < 0 || y > side_m_) vy_[i] = -vy_[i];
    x = std::clamp(x, 0.0F, side_m_);
    y = std::clamp(y, 0.0F, side_m_);
    left_s_[i] -= step_s;
  }
  for (std::size_t i = 0; i < lanterns_.size(); ++i)
    while (left_s_[i] <= 0) replace_lantern(i);
}

/// The last lantern takes its place; a new one is added under the same slot.
void MothsVariant::replace_lantern(std::size_t place) {
  const std::uint32_t slot = lanterns_.slot[place];
  ++generation_[slot];
  const auto take_last = [&](auto& column) {
    column[place] = column.back();
    column.pop_back();
  };
  take_last(lanterns_.x);
  take_last(lanterns_.y);
  take_last(lanterns_.number);
  take_last(lanterns_.slot);
  take_last(vx_);
  take_last(vy_);
  take_last(left_s_);
  if (place < lanterns_.size()) place_of_slot_[lanterns_.slot[place]] = static_cast<std::uint32_t>(place);
  lanterns_.slot.push_back(slot);
  place_of_slot_[slot] = static_cast<std::uint32_t>(lanterns_.size());
  add_lantern();
}

void MothsVariant::run_frame(Frame& frame) {
  if (frame.arriving() > 0) add_moths(frame.arriving());
  {
    const auto phase = frame.phase("lanterns");
    move_lanterns(static_cast<float>(set_up_.step_s));
  }
  {
    const auto phase = frame.phase("prepare");
    prepare();
  }
  Looked looked;
  {
    const auto phase = frame.phase("moths");
    looked = fly_all(frame);
  }
  frame.add("updates", static_cast<double>(alive()));
  frame.add("lanterns looked at", static_cast<double>(looked.lanterns));
  frame.add("searched again", static_cast<double>(looked.again));
  ++frame_;
}

std::uint32_t MothsVariant::place_of_number(std::uint32_t number, Looked& looked) const {
  for (std::size_t i = 0; i < lanterns_.size(); ++i) {
    ++looked.lanterns;
    if (lanterns_.number[i] == number) return static_cast<std::uint32_t>(i);
  }
  return nowhere;
}

Nearest MothsVariant::nearest_of_all(float x, float y, Looked& looked) const {
  Nearest nearest;
  for (std::size_t i = 0; i < lanterns_.size(); ++i) nearest.look_at(lanterns_, i, x, y);
  looked.lanterns += static_cast<std::int64_t>(lanterns_.size());
  return nearest;
}

Looked MothsVariant::fly(std::int64_t from, std::int64_t to) {
  Looked looked;
  const float reach_m = moth_m_per_s * static_cast<float>(set_up_.step_s);
  for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i) {
    Moth& moth = moths_[i];
    const std::uint64_t mood = splitmix64(set_up_.seed ^ splitmix64(i * 0x10001 + static_cast<std::uint64_t>(frame_)));
    const bool forgets = (mood >> 32U) < forget_below_;
    std::uint32_t place = moth.remembers && !forgets ? remembered(moth, looked) : nowhere;
    if (place == nowhere) {
      ++looked.again;
      place = nearest(moth.x, moth.y, looked).place;
      moth.remembers = true;
      moth.number = lanterns_.number[place];
      moth.handle = {lanterns_.slot[place], generation_[lanterns_.slot[place]]};
      moth.place = place;
    }
    const float dx = lanterns_.x[place] - moth.x;
    const float dy = lanterns_.y[place] - moth.y;
    const float away = std::sqrt(dx * dx + dy * dy);
    const float share = away > reach_m ? reach_m / away : 1.0F;
    moth.x += dx * share;
    moth.y += dy * share;
  }
  return looked;
}

Outcome MothsVariant::outcome() const {
  double x = 0, y = 0, numbers = 0;
  for (const Moth& moth : moths_) {
    x += moth.x;
    y += moth.y;
    numbers += moth.remembers ? moth.number : 0;
  }
  const auto count = static_cast<double>(alive());
  Outcome outcome;
  outcome.state("alive", count, 0);
  outcome.state("mean x", x / count, tolerance, 1);
  outcome.state("mean y", y / count, tolerance, 1);
  outcome.state("mean number of the lantern", numbers / count, tolerance, 1);
  for (const std::int64_t number : sampled(alive(), moths_sampled)) {
    const Moth& moth = moths_[static_cast<std::size_t>(number)];
    const std::string name = "moth " + std::to_string(number);
    outcome.state(name + " x", moth.x, tolerance, 1);
    outcome.state(name + " y", moth.y, tolerance, 1);
    outcome.state(name + ", its lantern", moth.number, 0);
  }
  return outcome;
}

Picture MothsVariant::picture() const {
  Plot plot(side_m_, side_m_);
  for (std::size_t i = 0; i < lanterns_.size(); ++i) plot.disc(lanterns_.x[i], lanterns_.y[i], 0.3F, colours::glow);
  for (const Moth& moth : moths_) plot.disc(moth.x, moth.y, 0.15F, colours::wing);
  return std::move(plot).picture();
}

}  // namespace mileage::festival::moths
