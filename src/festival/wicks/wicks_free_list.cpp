#include "festival/wicks/wicks_variants.h"
#include "festival/wicks/wicks_world.h"

namespace mileage::festival::wicks {
namespace {

class FreeList : public WicksVariant {
 public:
  explicit FreeList(const SetUp& set_up) : WicksVariant(set_up) {
    for (const Wick& wick : first_wicks()) put(wick);
  }
  std::int64_t alive() const override { return alive_; }

 private:
  static constexpr std::int32_t none = -1;
  struct Place {
    Wick wick;
    bool is_used = false;
    std::int32_t before = none, after = none;  ///< By number, if order is kept.
  };

  std::int64_t burn_all(Frame& frame, float step_s) override {
    const auto phase = frame.phase("burn");
    const std::int64_t burnt = alive_;
    if (keeps_order()) {
      for (std::int32_t at = first_; at != none;) {
        Place& place = places_[static_cast<std::size_t>(at)];
        const std::int32_t next = place.after;
        burn(place.wick, step_s);
        if (place.wick.is_out()) free(at);
        at = next;
      }
      return burnt;
    }
    for (std::size_t at = 0; at < places_.size(); ++at) {
      if (!places_[at].is_used) continue;
      burn(places_[at].wick, step_s);
      if (places_[at].wick.is_out()) free(static_cast<std::int32_t>(at));
    }
    return burnt;
  }

  void free(std::int32_t at) {
    Place& place = places_[static_cast<std::size_t>(at)];
    place.is_used = false;
    free_.push_back(at);
    --alive_;
    if (!keeps_order()) return;
    (place.before == none ? first_ : places_[static_cast<std::size_t>(place.before)].after) = place.after;
    (place.after == none ? last_ : places_[static_cast<std::size_t>(place.after)].before) = place.before;
  }

  void put(const Wick& wick) {
    if (free_.empty()) {
      free_.push_back(static_cast<std::int32_t>(places_.size()));
      places_.emplace_back();
    }
    const std::int32_t at = free_.back();
    free_.pop_back();
    places_[static_cast<std::size_t>(at)] = {wick, true, last_, none};
    ++alive_;
    if (!keeps_order()) return;
    (last_ == none ? first_ : places_[static_cast<std::size_t>(last_)].after) = at;
    last_ = at;
  }
  void add(const Wick& wick) override { put(wick); }

  std::vector<Wick> in_order() const override {
    std::vector<Wick> wicks;
    if (keeps_order())
      for (std::int32_t at = first_; at != none; at = places_[static_cast<std::size_t>(at)].after)
        wicks.push_back(places_[static_cast<std::size_t>(at)].wick);
    else
      for (const Place& place : places_)
        if (place.is_used) wicks.push_back(place.wick);
    return wicks;
  }

  std::vector<Place> places_;
  std::vector<std::int32_t> free_;
  std::int32_t first_ = none, last_ = none;
  std::int64_t alive_ = 0;
};

}  // namespace

std::unique_ptr<Variant> make_free_list(const SetUp& set_up) { return std::make_unique<FreeList>(set_up); }

}  // namespace mileage::festival::wicks
