// Columns of drift on the device, and the shader that updates them.
#pragma once

#include <cstdint>
#include <vector>

#include "device/device_objects.h"
#include "festival/drift/drift_world.h"

namespace mileage::device {

class DriftOnDevice {
 public:
  /// `context` must outlive it. Knob work.
  DriftOnDevice(const Context& context, const SetUp& set_up, const festival::Sorting& sorting);

  std::int64_t count() const { return count_; }
  /// `count()` floats per column, in the order of festival::Lantern; keys as bits.
  const Buffer& columns() const { return columns_; }

  /// For carry().
  void send_work(const festival::FrameWork& work, Frame& frame);
  void carry() const;

  void push(std::int64_t index, float vx, float vy);
  void send(const std::vector<float>& seen, Frame& frame);
  void fetch(std::vector<float>& seen) const;
  void push_in(std::vector<float>& seen, std::int64_t index, float vx, float vy) const;
  festival::Lantern lantern(const std::vector<float>& seen, std::int64_t index) const;

 private:
  std::int64_t count_;
  Buffer columns_;
  Buffer moments_;
  Program program_;
};

}  // namespace mileage::device
