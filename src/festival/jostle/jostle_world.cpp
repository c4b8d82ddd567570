#include "festival/jostle/jostle_world.h"

#include <algorithm>
#include <string>
#include <utility>

#include "festival/mixing.h"
#include "festival/plot.h"
#include "festival/sampled.h"

namespace mileage::festival::jostle {
namespace {

constexpr double area_m2 = 3.14159265358979 * radius_m * radius_m;
constexpr double eddies_every_m = 1.6;
/// Slightly overlapping.
constexpr float raft_pace_m = 0.985F * diameter_m;
constexpr float far_away_m = 1e9F;
constexpr std::int64_t lanterns_sampled = 6;
/// Processor variants agree exactly; devices round differently.
constexpr double tolerance = 1e-5;

/// 0 in the middle of an eddy and halfway to the next; 1 and -1 in between.
float towards_middle(float place_m, float eddy_m) {
  const float turns = place_m / eddy_m;
  const float off = turns - static_cast<float>(static_cast<std::int32_t>(turns)) - 0.5F;
  return -8.0F * off * (1.0F - 2.0F * std::fabs(off));
}

std::uint64_t chance(std::uint64_t seed, std::int64_t index, std::int64_t frame) {
  return splitmix64(seed ^ splitmix64(static_cast<std::uint64_t>(index) * 0x10001 + static_cast<std::uint64_t>(frame)));
}

/// Closest packing around the middle of a raft, nearest first.
std::vector<std::pair<float, float>> raft_places(std::size_t lanterns) {
  const int reach = 2 + static_cast<int>(std::sqrt(static_cast<double>(lanterns)));
  std::vector<std::pair<float, float>> places;
  for (int row = -reach; row <= reach; ++row)
    for (int column = -reach; column <= reach; ++column)
      places.emplace_back(raft_pace_m * (static_cast<float>(column) + (row % 2 != 0 ? 0.5F : 0.0F)),
                          raft_pace_m * 0.8660254F * static_cast<float>(row));
  std::stable_sort(places.begin(), places.end(), [](const auto& a, const auto& b) {
    return a.first * a.first + a.second * a.second < b.first * b.first + b.second * b.second;
  });
  return places;
}

}  // namespace

void Lanterns::resize(std::int64_t size) {
  const auto places = static_cast<std::size_t>(size);
  for (auto* column : {&x, &y}) {
    column->resize(places + at_once);
    std::fill(column->begin() + static_cast<std::ptrdiff_t>(places), column->end(), far_away_m);
  }
  for (auto* column : {&vx, &vy}) column->resize(places);
  for (auto* column : {&number, &push_x, &push_y}) column->resize(places);
  for (auto* column : {&state, &still, &woken}) column->resize(places);
}

Basin Basin::of(std::int64_t lanterns, double density) {
  const double side_m = std::max<double>(2 * diameter_m, std::sqrt(static_cast<double>(lanterns) * area_m2 / density));
  return {static_cast<float>(side_m), static_cast<float>(side_m / std::max(1.0, std::round(side_m / eddies_every_m)))};
}

JostleVariant::JostleVariant(const SetUp& set_up)
    : set_up_(set_up),
      basin_(Basin::of(set_up.count + set_up.arrivals, set_up.knobs.number("density"))),
      rests_(set_up.knobs.text("rest") == "on") {
  add_to_rafts(set_up.count);
}

/// As if they had drifted together; asleep where they rest.
void JostleVariant::add_to_rafts(std::int64_t lanterns) {
  const auto across = static_cast<std::uint64_t>(std::max(1.0F, std::round(basin_.side_m / basin_.eddy_m)));
  std::vector<std::size_t> in_raft(across * across), raft_of;
  for (std::int64_t i = 0; i < lanterns; ++i) {
    raft_of.push_back(chance(set_up_.seed, i, -1) % in_raft.size());
    ++in_raft[raft_of.back()];
  }
  const auto places = raft_places(*std::max_element(in_raft.begin(), in_raft.end()));
  lanterns_.resize(lanterns);
  for (std::size_t i = raft_of.size(); i-- > 0;) {
    const std::size_t raft = raft_of[i];
    const auto& [x, y] = places[--in_raft[raft]];
    lanterns_.number[i] = static_cast<std::int32_t>(i);
    set_afloat(i, (static_cast<float>(raft % across) + 0.5F) * basin_.eddy_m + x,
               (static_cast<float>(raft / across) + 0.5F) * basin_.eddy_m + y);
    if (!rests_) continue;
    lanterns_.state[i] = asleep;
    lanterns_.still[i] = still_frames;
  }
}

void JostleVariant::add_anywhere(std::int64_t lanterns) {
  const std::int64_t before = alive();
  lanterns_.resize(before + lanterns);
  for (std::int64_t i = before; i < alive(); ++i) {
    const std::uint64_t own = chance(set_up_.seed, i, -1);
    lanterns_.number[static_cast<std::size_t>(i)] = static_cast<std::int32_t>(i);
    set_afloat(static_cast<std::size_t>(i), basin_.side_m * share_of(own),
               basin_.side_m * share_of(splitmix64(own + 1)));
  }
}

void JostleVariant::set_afloat(std::size_t place, float x, float y) {
  lanterns_.x[place] = std::clamp(x, radius_m, basin_.side_m - radius_m);
  lanterns_.y[place] = std::clamp(y, radius_m, basin_.side_m - radius_m);
  lanterns_.vx[place] = lanterns_.vy[place] = 0;
  lanterns_.state[place] = fast;
  lanterns_.still[place] = 0;
  was_set_afloat(place);
}

/// Moves lanterns elsewhere in order of number: anywhere, or to one spot four deep.
void JostleVariant::launch(Frame& frame) {
  const double each_frame = std::min(set_up_.knobs.number("launch"), static_cast<double>(alive()));
  const auto due = [&](std::int64_t frames) {
    return static_cast<std::int64_t>(each_frame * static_cast<double>(frames));
  };
  const std::int64_t first = due(frame_);
  const std::int64_t launched = due(frame_ + 1) - first;
  if (launched == 0) return;
  const auto phase = frame.phase("launch");
  const bool together = set_up_.knobs.text("together") == "on";
  const std::uint64_t spot = chance(set_up_.seed, -1, frame_);
  const float spot_x = basin_.side_m * share_of(spot);
  const float spot_y = basin_.side_m * share_of(splitmix64(spot + 1));
  const float reach = radius_m * std::sqrt(static_cast<float>(launched));
  for (std::size_t place = 0; place < lanterns_.number.size(); ++place) {
    const std::int64_t number = lanterns_.number[place];
    if ((number - first % alive() + alive()) % alive() >= launched) continue;
    const std::uint64_t own = chance(set_up_.seed, number, frame_);
    const float u = share_of(own);
    const float v = share_of(splitmix64(own + 1));
    if (together)
      set_afloat(place, spot_x + reach * (u - 0.5F), spot_y + reach * (v - 0.5F));
    else
      set_afloat(place, basin_.side_m * u, basin_.side_m * v);
  }
}

void JostleVariant::run_frame(Frame& frame) {
  if (frame.arriving() > 0) add_anywhere(frame.arriving());
  launch(frame);
  found_ = push_apart(frame);
  {
    const auto phase = frame.phase("move");
    awake_ = move_all(frame);
  }
  frame.add("pairs tested", static_cast<double>(found_.tested));
  frame.add("contacts", static_cast<double>(found_.contacts));
  frame.add("awake", static_cast<double>(awake_));
  ++frame_;
}

void JostleVariant::stop_at_banks(float& place, float& speed) const {
  const float held = std::clamp(place, radius_m, basin_.side_m - radius_m);
  if (held != place) speed = 0;
  place = held;
}

std::int64_t JostleVariant::move(std::int64_t from, std::int64_t to) {
  const auto step_s = static_cast<float>(set_up_.step_s);
  const float kept = kept_a_frame();
  std::int64_t awake = 0;
  for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i) {
    std::uint8_t& state = lanterns_.state[i];
    const float push_x = static_cast<float>(lanterns_.push_x[i]) / steps_of_a_push;
    const float push_y = static_cast<float>(lanterns_.push_y[i]) / steps_of_a_push;
    const bool is_woken = lanterns_.woken[i] != 0;
    lanterns_.push_x[i] = lanterns_.push_y[i] = 0;
    lanterns_.woken[i] = 0;
    if ((state & asleep) != 0) {
      // From the next frame on: sleepers around it have not pushed it yet.
      if (is_woken) state = lanterns_.still[i] = 0;
      awake += is_woken ? 1 : 0;
      continue;
    }
    float& x = lanterns_.x[i];
    float& y = lanterns_.y[i];
    float& vx = lanterns_.vx[i];
    float& vy = lanterns_.vy[i];
    vx = (vx + (push_x + drawn_m_per_s2 * towards_middle(x, basin_.eddy_m)) * step_s) * kept;
    vy = (vy + (push_y + drawn_m_per_s2 * towards_middle(y, basin_.eddy_m)) * step_s) * kept;
    x += vx * step_s;
    y += vy * step_s;
    stop_at_banks(x, vx);
    stop_at_banks(y, vy);
    const float squared = vx * vx + vy * vy;
    const bool is_still = rests_ && squared < still_below_m_per_s * still_below_m_per_s;
    std::uint8_t& still = lanterns_.still[i];
    still = is_still ? static_cast<std::uint8_t>(std::min(still + 1, still_frames)) : std::uint8_t{0};
    state = still >= still_frames ? asleep : squared > wakes_from_m_per_s * wakes_from_m_per_s ? fast : 0;
    if (state == asleep) vx = vy = 0;
    awake += state != asleep;
  }
  return awake;
}

Outcome JostleVariant::outcome() const {
  look();
  std::vector<std::size_t> place_of(lanterns_.number.size());
  for (std::size_t place = 0; place < place_of.size(); ++place)
    place_of[static_cast<std::size_t>(lanterns_.number[place])] = place;
  double energy = 0;  // In order of number, equal in every variant.
  for (const std::size_t place : place_of)
    energy +=
        0.5 * (double{lanterns_.vx[place]} * lanterns_.vx[place] + double{lanterns_.vy[place]} * lanterns_.vy[place]);
  const auto count = static_cast<double>(alive());
  Outcome outcome;
  outcome.state("alive", count, 0);
  outcome.state("contacts a lantern", static_cast<double>(found_.contacts) / count, tolerance, 1e-3);
  outcome.state("mean overlap in mm",
                static_cast<double>(found_.overlap) * 1e-3 / std::max<double>(1, static_cast<double>(found_.contacts)),
                tolerance, 1e-3);
  outcome.state("mean energy", energy / count, tolerance, 0.05);
  outcome.state("share awake", static_cast<double>(awake_) / count, tolerance, 1e-6);
  for (const std::int64_t number : sampled(alive(), lanterns_sampled)) {
    const std::size_t place = place_of[static_cast<std::size_t>(number)];
    const std::string name = "lantern " + std::to_string(number);
    outcome.state(name + " x", lanterns_.x[place], tolerance, 1);
    outcome.state(name + " y", lanterns_.y[place], tolerance, 1);
  }
  return outcome;
}

Picture JostleVariant::picture() const {
  look();
  Plot plot(basin_.side_m, basin_.side_m);
  for (std::size_t i = 0; i < lanterns_.number.size(); ++i)
    plot.disc(lanterns_.x[i], lanterns_.y[i], 0.92F * radius_m,
              (lanterns_.state[i] & asleep) != 0 ? colours::ember : colours::glow);
  return std::move(plot).picture();
}

}  // namespace mileage::festival::jostle
