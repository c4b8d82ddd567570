#include <algorithm>

#include "festival/groups/groups.h"
#include "festival/wicks/wicks_variants.h"
#include "festival/wicks/wicks_world.h"

namespace mileage::festival::wicks {
namespace {

struct Number {
  std::uint32_t value;
};
struct Burnt {
  float value;
};
struct Burns {
  float value;
};
struct Height {
  float value;
};
struct Glow {
  float value;
};
struct PlaceX {
  float value;
};

class Groups : public WicksVariant {
 public:
  explicit Groups(const SetUp& set_up) : WicksVariant(set_up) {
    for (const Wick& wick : first_wicks()) make(wick);
    sort_order();
  }
  std::int64_t alive() const override { return world_.size(); }

 private:
  std::int64_t burn_all(Frame& frame, float step_s) override {
    const auto phase = frame.phase("burn");
    const std::int64_t burnt = alive();
    world_.walk<groups::Handle, Number, Burnt, Burns, Height, Glow, PlaceX>(
        [&](std::int64_t count, const groups::Handle* handle, const std::uint32_t*, float* burnt_s,
            const float* burns_s, float* height, float* glow, float* x) {
          for (std::int64_t i = 0; i < count; ++i) {
            Wick wick{0, burnt_s[i], burns_s[i], height[i], glow[i], x[i]};
            burn(wick, step_s);
            burnt_s[i] = wick.burnt_s;
            height[i] = wick.height;
            glow[i] = wick.glow;
            x[i] = wick.x;
            if (wick.is_out()) world_.destroy(handle[i]);
          }
        });
    is_sorted_ = is_sorted_ && alive() == burnt;
    return burnt;
  }

  void make(const Wick& wick) {
    world_.make(Number{wick.number}, Burnt{wick.burnt_s}, Burns{wick.burns_s}, Height{wick.height}, Glow{wick.glow},
                PlaceX{wick.x});
    is_sorted_ = false;
  }
  void add(const Wick& wick) override { make(wick); }
  void settle_order() override {
    if (keeps_order() && !is_sorted_) sort_order();
  }

  /// Removal swaps rows, so an order needs a separate list.
  void sort_order() {
    is_sorted_ = true;
    if (!keeps_order()) return;
    order_.clear();
    world_.walk<groups::Handle, Number>(
        [&](std::int64_t count, const groups::Handle* handle, const std::uint32_t* number) {
          for (std::int64_t i = 0; i < count; ++i) order_.push_back({number[i], handle[i]});
        });
    std::sort(order_.begin(), order_.end(), [](const auto& a, const auto& b) { return a.number < b.number; });
  }

  std::vector<Wick> in_order() const override {
    std::vector<Wick> wicks;
    world_.walk<Number, Burnt, Burns, Height, Glow, PlaceX>(
        [&](std::int64_t count, const std::uint32_t* number, const float* burnt_s, const float* burns_s,
            const float* height, const float* glow, const float* x) {
          for (std::int64_t i = 0; i < count; ++i)
            wicks.push_back({number[i], burnt_s[i], burns_s[i], height[i], glow[i], x[i]});
        });
    if (!keeps_order()) return wicks;
    std::vector<std::uint32_t> listed;
    for (const auto& one : order_)
      if (world_.alive(one.handle)) listed.push_back(one.number);
    std::vector<Wick> sorted;
    std::sort(wicks.begin(), wicks.end(), [](const Wick& a, const Wick& b) { return a.number < b.number; });
    for (const std::uint32_t number : listed)
      sorted.push_back(*std::lower_bound(wicks.begin(), wicks.end(), number,
                                         [](const Wick& wick, std::uint32_t wanted) { return wick.number < wanted; }));
    return sorted;
  }

  struct Listed {
    std::uint32_t number;
    groups::Handle handle;
  };
  mutable groups::World world_;
  std::vector<Listed> order_;
  bool is_sorted_ = false;
};

}  // namespace

std::unique_ptr<Variant> make_groups(const SetUp& set_up) { return std::make_unique<Groups>(set_up); }

}  // namespace mileage::festival::wicks
