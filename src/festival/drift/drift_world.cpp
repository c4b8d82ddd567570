#include "festival/drift/drift_world.h"

#include <algorithm>
#include <cmath>
#include <string>

#include "festival/mixing.h"
#include "festival/sampled.h"

namespace mileage::festival {
namespace {

constexpr double wind_turns_per_second = 0.05;
constexpr std::int64_t lanterns_sampled = 8;
/// Same arithmetic in the same order per lantern; only sums may differ.
constexpr double tolerance = 1e-5;

/// Mean and spread of a quantity. Sums are relative to the first value, for precision; no division per lantern.
class Spread {
 public:
  void add(double value) {
    if (n_++ == 0) first_ = value;
    sum_ += value - first_;
    squares_ += (value - first_) * (value - first_);
  }
  double mean() const { return n_ == 0 ? 0 : first_ + mean_from_first(); }
  double deviation() const {
    if (n_ == 0) return 0;
    const double square = squares_ / static_cast<double>(n_) - mean_from_first() * mean_from_first();
    return std::sqrt(std::max(0.0, square));
  }

 private:
  double mean_from_first() const { return sum_ / static_cast<double>(n_); }

  std::int64_t n_ = 0;
  double first_ = 0;
  double sum_ = 0;
  double squares_ = 0;
};

double kinetic_energy(const Lantern& one) {
  return 0.5 * (double{one.vx} * one.vx + double{one.vy} * one.vy + double{one.vz} * one.vz);
}

void state_spread(Outcome& outcome, const std::string& name, const Spread& spread) {
  outcome.state("mean " + name, spread.mean(), tolerance, 1e-3);
  outcome.state("spread of " + name, spread.deviation(), tolerance, 1e-3);
}

void state_lantern(Outcome& outcome, std::int64_t index, const Lantern& one) {
  const std::string name = "lantern " + std::to_string(index);
  outcome.state(name + " x", one.x_m, tolerance, 1);
  outcome.state(name + " y", one.y_m, tolerance, 1);
  outcome.state(name + " flicker", one.flicker, tolerance, 0.1);
  outcome.state(name + " lean", one.lean, tolerance, 0.1);
}

/// `steps` inner steps together make a frame.
std::vector<Moment> moments_of_frame(const SetUp& set_up, std::int64_t steps, std::int64_t frame) {
  const double step_s = set_up.step_s / static_cast<double>(steps);
  std::vector<Moment> moments;
  for (std::int64_t inner = 0; inner < steps; ++inner) {
    const std::int64_t step = frame * steps + inner;
    const double turns = wind_turns_per_second * step_s * static_cast<double>(step);
    moments.push_back({static_cast<float>(step_s), static_cast<float>(turns - std::floor(turns)),
                       static_cast<std::uint32_t>(splitmix64(set_up.seed ^ static_cast<std::uint64_t>(step)))});
  }
  return moments;
}

}  // namespace

FrameWork work_of_frame(const SetUp& set_up, const Sorting& sorting, std::int64_t frame) {
  const std::int64_t work = set_up.knobs.whole("work");
  FrameWork steps{moments_of_frame(set_up, work, frame), {}};
  if (sorting.heavy_steps > 1) steps.heavy = moments_of_frame(set_up, work * sorting.heavy_steps, frame);
  return steps;
}

void DriftVariant::run_frame(Frame& frame) {
  if (frame.arriving() > 0) add_lanterns(frame.arriving());
  push_some(frame);
  frame.add("updates", static_cast<double>(bring_forward(work_of_frame(set_up_, sorting_, frame_), frame)));
  ++frame_;
}

void DriftVariant::push_some(Frame& frame) {
  const auto pushed = std::llround(set_up_.knobs.number("touched") * static_cast<double>(alive()));
  if (pushed == 0) return;
  const auto phase = frame.phase("pushed from outside");
  std::uint64_t chance = splitmix64(set_up_.seed ^ splitmix64(static_cast<std::uint64_t>(frame_)));
  for (std::int64_t i = 0; i < pushed; ++i) {
    chance = splitmix64(chance);
    const auto index = static_cast<std::int64_t>(chance % static_cast<std::uint64_t>(alive()));
    push(index, share_of(splitmix64(chance + 1)) - 0.5F, share_of(splitmix64(chance + 2)) - 0.5F);
  }
}

void DriftVariant::do_the_rest(Frame& frame) {
  const std::int64_t steps = set_up_.knobs.whole("rest");
  if (steps == 0) return;
  const auto phase = frame.phase("rest of the frame");
  for (std::int64_t i = 0; i < steps; ++i) carry<0>({1e-3F, 0, static_cast<std::uint32_t>(i)}, carried_by_hand_);
}

Outcome DriftVariant::outcome() const {
  Spread height, energy, flicker, age, lean;
  for (std::int64_t i = 0; i < alive(); ++i) {
    const Lantern one = lantern(i);
    height.add(one.height_m);
    energy.add(kinetic_energy(one));
    flicker.add(one.flicker);
    age.add(one.age_s);
    lean.add(one.lean);
  }
  Outcome outcome;
  outcome.state("alive", static_cast<double>(alive()), 0);
  state_spread(outcome, "height", height);
  state_spread(outcome, "kinetic energy", energy);
  state_spread(outcome, "flicker", flicker);
  state_spread(outcome, "age", age);
  state_spread(outcome, "lean", lean);
  for (const std::int64_t index : sampled(alive(), lanterns_sampled)) {
    state_lantern(outcome, index, lantern(index));
  }
  return outcome;
}

}  // namespace mileage::festival
