#include "support/scripted.h"

#include <string>
#include <utility>

namespace mileage::scripted {
namespace {

class ScriptedVariant : public Variant {
 public:
  ScriptedVariant(VirtualClock& clock, FrameTimes times, std::int64_t count, std::string name)
      : clock_(clock), times_(std::move(times)), count_(count), name_(std::move(name)) {
    clock_.pass(5'000'000);  // Set-up takes 5 ms.
  }

  void run_frame(Frame& frame) override {
    const std::int64_t time = times_(count_ += frame.arriving(), frame_++) + arriving_ns * frame.arriving();
    const auto move = frame.phase("move");
    clock_.pass(time);
    frame.add("updates", static_cast<double>(count_));
  }
  std::int64_t alive() const override { return count_; }
  Outcome outcome() const override {
    Outcome outcome;
    outcome.state("frames", static_cast<double>(does_other_work() ? -frame_ : frame_), 0);
    return outcome;
  }

 private:
  bool does_other_work() const {
    return name_ == other_work || (name_ == narrow_index && count_ > 65'535) || (name_ == stops && frame_ > 64) ||
           (name_ == stops_when_large && count_ > 5000 && frame_ > 64);
  }

  VirtualClock& clock_;
  FrameTimes times_;
  std::int64_t count_;
  std::string name_;
  std::int64_t frame_ = 0;
};

}  // namespace

Catalogue catalogue_of(VirtualClock& clock, std::vector<std::pair<std::string, FrameTimes>> variants) {
  Catalogue catalogue;
  Scenario night;
  night.name = "night";
  night.build = {"scripted", "", true, true};
  catalogue.add(night);
  for (auto& [name, times] : variants)
    catalogue.add_variant("night", {name, "scripted", {}, ""},
                          [&clock, times = times, name = name](const SetUp& set_up) {
                            return std::make_unique<ScriptedVariant>(clock, times, set_up.count, name);
                          });
  return catalogue;
}

std::vector<std::int64_t> uneven_ns(double ms, std::size_t frames) {
  std::vector<std::int64_t> all;
  for (std::size_t i = 0; i < frames; ++i)
    all.push_back(static_cast<std::int64_t>(ms * 1e6 * (1 + 0.02 * static_cast<double>(i * 7 % 5) - 0.04)));
  return all;
}

}  // namespace mileage::scripted
