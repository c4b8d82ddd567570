// Virtual clock, and variants with scripted frame times.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "measure/machine/clock.h"
#include "measure/machine/yardstick.h"
#include "mileage/types/catalogue.h"

namespace mileage::scripted {

class VirtualClock : public Clock {
 public:
  /// Cost of a reading.
  explicit VirtualClock(std::int64_t reading_ns = 0) : reading_ns_(reading_ns) {}
  std::int64_t now_ns() override {
    ++readings_;
    return now_ns_ += reading_ns_;
  }
  void pause_ns(std::int64_t ns) override { now_ns_ += ns; }
  void pass(std::int64_t ns) { now_ns_ += ns; }
  std::int64_t readings() const { return readings_; }

 private:
  std::int64_t now_ns_ = 0;
  std::int64_t reading_ns_;
  std::int64_t readings_ = 0;
};

/// Scripted readings; takes no virtual time.
class ScriptedYardstick : public Yardstick {
 public:
  explicit ScriptedYardstick(std::function<double()> probe_ns) : probe_ns_(std::move(probe_ns)) {}
  double probe_ns() override { return probe_ns_(); }

 private:
  std::function<double()> probe_ns_;
};

/// Nanoseconds of frame `frame` (from 0) at `count`.
using FrameTimes = std::function<std::int64_t(std::int64_t count, std::int64_t frame)>;

/// Variants with wrong outcomes: always, beyond 65,535 entities, after 64 frames, and after 64 frames of more than
/// 5,000 entities.
inline constexpr const char* other_work = "other-work";
inline constexpr const char* narrow_index = "narrow-index";
inline constexpr const char* stops = "stops";
inline constexpr const char* stops_when_large = "stops-when-large";

/// Added per arriving entity.
inline constexpr std::int64_t arriving_ns = 1000;

/// Scenario "night" with a variant per name and script.
Catalogue catalogue_of(VirtualClock& clock, std::vector<std::pair<std::string, FrameTimes>> variants);

/// Within 4 % of `ms`, up and down, in nanoseconds.
std::vector<std::int64_t> uneven_ns(double ms, std::size_t frames);

}  // namespace mileage::scripted
