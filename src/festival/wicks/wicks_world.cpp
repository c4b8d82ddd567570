#include "festival/wicks/wicks_world.h"

#include <algorithm>
#include <cmath>
#include <string>

#include "festival/mixing.h"
#include "festival/plot.h"

namespace mileage::festival::wicks {
namespace {

constexpr float burns_for_ever_s = 1e9F;
constexpr std::size_t wicks_sampled = 6;
constexpr double tolerance = 1e-5;
constexpr float drawn_across_m = 40;

}  // namespace

WicksVariant::WicksVariant(const SetUp& set_up) : set_up_(set_up), keeps_order_(set_up.knobs.text("order") == "kept") {}

/// Burns for 0.5 to 1.5 times the time set by churn.
Wick WicksVariant::new_wick() {
  const std::uint64_t own = splitmix64(set_up_.seed ^ splitmix64(next_));
  const auto churn = static_cast<float>(set_up_.knobs.number("churn"));
  Wick wick;
  wick.number = next_++;
  wick.burns_s = churn > 0 ? (0.5F + share_of(own)) / churn : burns_for_ever_s;
  wick.x = drawn_across_m * share_of(splitmix64(own + 1));
  return wick;
}

std::vector<Wick> WicksVariant::first_wicks() {
  std::vector<Wick> all;
  for (std::int64_t i = 0; i < set_up_.count; ++i) {
    all.push_back(new_wick());
    if (all.back().burns_s < burns_for_ever_s)
      all.back().burnt_s = all.back().burns_s * share_of(splitmix64(set_up_.seed + all.back().number));
  }
  return all;
}

void WicksVariant::run_frame(Frame& frame) {
  const std::int64_t before = alive();
  const std::int64_t burnt = burn_all(frame, static_cast<float>(set_up_.step_s));
  const std::int64_t out = before - alive();
  {
    const auto phase = frame.phase("replace");
    for (std::int64_t i = 0; i < out + frame.arriving(); ++i) add(new_wick());
    settle_order();
  }
  frame.add("updates", static_cast<double>(burnt));
  frame.add("went out", static_cast<double>(out));
  frame.add("alive", static_cast<double>(alive()));
}

Outcome WicksVariant::outcome() const {
  std::vector<Wick> all = in_order();
  const auto older = [](const Wick& a, const Wick& b) { return a.number < b.number; };
  double out_of_order = 0;
  for (std::size_t i = 1; i < all.size(); ++i) out_of_order += older(all[i], all[i - 1]) ? 1 : 0;
  std::sort(all.begin(), all.end(), older);
  double height = 0, glow = 0, numbers = 0;
  for (const Wick& wick : all) {
    height += wick.height;
    glow += wick.glow;
    numbers += wick.number;
  }
  const auto count = static_cast<double>(std::max<std::size_t>(1, all.size()));
  Outcome outcome;
  outcome.state("alive", static_cast<double>(all.size()), 0);
  outcome.state("mean number", numbers / count, tolerance);
  outcome.state("mean height", height / count, tolerance, 1e-3);
  outcome.state("mean glow", glow / count, tolerance, 1e-3);
  if (keeps_order_) outcome.state("wicks out of order", out_of_order, 0);
  const std::size_t sampled = std::min(wicks_sampled, all.size());
  for (std::size_t i = 0; i < sampled; ++i) {
    const Wick& wick = all[i * all.size() / sampled];
    const std::string name = "wick at " + std::to_string(i) + " of " + std::to_string(sampled);
    outcome.state(name + ", number", wick.number, 0);
    outcome.state(name + ", glow", wick.glow, tolerance, 0.1);
    outcome.state(name + ", x", wick.x, tolerance, 1);
  }
  return outcome;
}

Picture WicksVariant::picture() const {
  Plot plot(drawn_across_m, drawn_across_m);
  for (const Wick& wick : in_order()) {
    const float y = drawn_across_m * share_of(splitmix64(wick.number + 7));
    plot.disc(std::fmod(wick.x, drawn_across_m), y, 0.1F + 0.4F * wick.height,
              wick.height > 0.35F ? colours::glow : colours::ember);
  }
  return std::move(plot).picture();
}

}  // namespace mileage::festival::wicks
