#include "festival/wicks/leaving.h"
#include "festival/wicks/wicks_variants.h"

namespace mileage::festival::wicks {
namespace {

class SwapRemove : public WicksVariant {
 public:
  explicit SwapRemove(const SetUp& set_up) : WicksVariant(set_up), all_(first_wicks()) {}
  std::int64_t alive() const override { return static_cast<std::int64_t>(all_.size()); }

 private:
  std::int64_t burn_all(Frame& frame, float step_s) override {
    const auto burnt = alive();
    {
      const auto phase = frame.phase("burn");
      for (Wick& wick : all_) burn(wick, step_s);
    }
    const auto phase = frame.phase("leave");
    if (keeps_order()) {
      move_up(all_);
      return burnt;
    }
    for (std::size_t i = 0; i < all_.size();)
      if (all_[i].is_out())
        let_last_take_place(all_, i);
      else
        ++i;
    return burnt;
  }
  void add(const Wick& wick) override { all_.push_back(wick); }
  std::vector<Wick> in_order() const override { return all_; }

  std::vector<Wick> all_;
};

class DeadStay : public WicksVariant {
 public:
  explicit DeadStay(const SetUp& set_up) : WicksVariant(set_up), all_(first_wicks()) {}
  std::int64_t alive() const override { return static_cast<std::int64_t>(all_.size()) - out_; }

 private:
  std::int64_t burn_all(Frame& frame, float step_s) override {
    std::int64_t burnt = 0;
    {
      const auto phase = frame.phase("burn");
      for (Wick& wick : all_) {
        if (wick.is_out()) continue;
        ++burnt;
        burn(wick, step_s);
        out_ += wick.is_out() ? 1 : 0;
      }
    }
    if (4 * out_ < static_cast<std::int64_t>(all_.size())) return burnt;
    const auto phase = frame.phase("leave");
    move_up(all_);
    out_ = 0;
    return burnt;
  }
  void add(const Wick& wick) override { all_.push_back(wick); }
  std::vector<Wick> in_order() const override {
    std::vector<Wick> burning = all_;
    move_up(burning);
    return burning;
  }

  std::vector<Wick> all_;
  std::int64_t out_ = 0;
};

}  // namespace

std::unique_ptr<Variant> make_swap_remove(const SetUp& set_up) { return std::make_unique<SwapRemove>(set_up); }

std::unique_ptr<Variant> make_dead_stay(const SetUp& set_up) { return std::make_unique<DeadStay>(set_up); }

}  // namespace mileage::festival::wicks
