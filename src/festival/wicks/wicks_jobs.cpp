#include <algorithm>

#include "festival/jobs.h"
#include "festival/wicks/leaving.h"
#include "festival/wicks/wicks_variants.h"

namespace mileage::festival::wicks {
namespace {

class WickJobs : public WicksVariant {
 public:
  explicit WickJobs(const SetUp& set_up) : WicksVariant(set_up), jobs_(set_up.knobs), all_(first_wicks()) {}
  std::int64_t alive() const override { return static_cast<std::int64_t>(all_.size()); }

 private:
  std::int64_t burn_all(Frame& frame, float step_s) override {
    const auto burnt = alive();
    out_in_batch_.resize(static_cast<std::size_t>((burnt + jobs_.batch() - 1) / jobs_.batch()));
    {
      const auto phase = frame.phase("burn");
      jobs_.for_batches(frame, burnt, [&](std::int64_t from, std::int64_t to) {
        auto& out = out_in_batch_[static_cast<std::size_t>(from / jobs_.batch())];
        out.clear();
        for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i) {
          burn(all_[i], step_s);
          if (all_[i].is_out()) out.push_back(i);
        }
      });
    }
    const auto phase = frame.phase("leave");
    const bool leaves_any =
        std::any_of(out_in_batch_.begin(), out_in_batch_.end(), [](const auto& out) { return !out.empty(); });
    if (keeps_order()) {
      if (leaves_any) move_up(all_);
      return burnt;
    }
    // From the end, so that a moved wick is not a burnt one.
    for (auto batch = out_in_batch_.rbegin(); batch != out_in_batch_.rend(); ++batch)
      for (auto place = batch->rbegin(); place != batch->rend(); ++place) let_last_take_place(all_, *place);
    return burnt;
  }
  void add(const Wick& wick) override { all_.push_back(wick); }
  std::vector<Wick> in_order() const override { return all_; }

  Jobs jobs_;
  std::vector<Wick> all_;
  std::vector<std::vector<std::size_t>> out_in_batch_;
};

}  // namespace

std::unique_ptr<Variant> make_jobs(const SetUp& set_up) { return std::make_unique<WickJobs>(set_up); }

}  // namespace mileage::festival::wicks
