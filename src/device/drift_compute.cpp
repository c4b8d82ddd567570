#include "device/drift_compute.h"

#include <vector>

#include "device/drift_on_device.h"

namespace mileage::device {
namespace {

using festival::FrameWork;
using festival::Lantern;

/// Copies between processor and device per frame.
enum class Copies { none, back, there_and_back };

class DriftCompute : public festival::DriftVariant {
 public:
  DriftCompute(const SetUp& set_up, Copies copies)
      : DriftVariant(set_up),
        copies_(copies),
        drift_(context_, set_up, sorting()),
        under_way_(context_, copies == Copies::none ? static_cast<int>(set_up.knobs.whole("in-flight")) : 1) {
    if (copies_ == Copies::there_and_back) drift_.fetch(seen_);
  }

  std::int64_t alive() const override { return drift_.count(); }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame& frame) override {
    under_way_.begin();
    {
      const auto phase = frame.phase("upload");
      drift_.send_work(work, frame);
      if (copies_ == Copies::there_and_back) drift_.send(seen_, frame);
    }
    {
      const auto phase = frame.phase("submit");
      drift_.carry();
    }
    {
      const auto phase = frame.phase(wait_phase);
      under_way_.handed_over(frame);
    }
    has_seen_ = copies_ != Copies::none;
    if (has_seen_) read_back(frame);
    return alive();
  }

  void read_back(Frame& frame) {
    const auto phase = frame.phase("read back");
    drift_.fetch(seen_);
    frame.add("bytes read back", static_cast<double>(drift_.columns().bytes()));
  }

  void push(std::int64_t index, float vx, float vy) override {
    if (copies_ == Copies::there_and_back)
      drift_.push_in(seen_, index, vx, vy);
    else
      drift_.push(index, vx, vy);
  }

  Lantern lantern(std::int64_t index) const override {
    if (!has_seen_) drift_.fetch(seen_);
    has_seen_ = true;
    return drift_.lantern(seen_, index);
  }

  Copies copies_;
  Context context_;
  DriftOnDevice drift_;
  mutable std::vector<float> seen_;  ///< Last state on the processor.
  mutable bool has_seen_ = false;    ///< Whether it is current.
  FramesUnderWay under_way_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_compute(const SetUp& set_up) {
  return std::make_unique<DriftCompute>(set_up, Copies::none);
}

std::unique_ptr<Variant> make_drift_compute_readback(const SetUp& set_up) {
  return std::make_unique<DriftCompute>(set_up, Copies::back);
}

std::unique_ptr<Variant> make_drift_compute_upload(const SetUp& set_up) {
  return std::make_unique<DriftCompute>(set_up, Copies::there_and_back);
}

}  // namespace mileage::device
