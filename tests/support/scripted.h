// A clock that only moves when told, and variants whose frames take scripted times on it.
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
  /// Each reading costs this many nanoseconds.
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

/// A yardstick whose readings come from a script that is asked again each time; takes no time on the clock.
class ScriptedYardstick : public Yardstick {
 public:
  explicit ScriptedYardstick(std::function<double()> probe_ns) : probe_ns_(std::move(probe_ns)) {}
  double probe_ns() override { return probe_ns_(); }

 private:
  std::function<double()> probe_ns_;
};

/// Time of frame number `frame` (from 0) of a run at `count`, in nanoseconds.
using FrameTimes = std::function<std::int64_t(std::int64_t count, std::int64_t frame)>;

/// Variants of these names do other work than the rest, and their outcome differs: always, beyond 65,535 entities,
/// after 64 frames, and after 64 frames of more than 5,000 entities.
inline constexpr const char* other_work = "other-work";
inline constexpr const char* narrow_index = "narrow-index";
inline constexpr const char* stops = "stops";
inline constexpr const char* stops_when_large = "stops-when-large";

/// What each entity that arrives adds to its frame.
inline constexpr std::int64_t arriving_ns = 1000;

/// A catalogue with one scenario "night" and a variant for each name and script.
Catalogue catalogue_of(VirtualClock& clock, std::vector<std::pair<std::string, FrameTimes>> variants);

/// Times of `frames` frames that lie within 4 % of `ms`, up and down in turn, in nanoseconds.
std::vector<std::int64_t> uneven_ns(double ms, std::size_t frames);

}  // namespace mileage::scripted
