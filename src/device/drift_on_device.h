// The lanterns of drift as columns in the device's memory, and the shader that carries them.
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
  /// Columns of `count()` floats one after the other, in the order of festival::Lantern; the key as bits.
  const Buffer& columns() const { return columns_; }

  /// What carry() needs of a frame.
  void send_work(const festival::FrameWork& work, Frame& frame);
  /// Hands the frame's work to the device.
  void carry() const;

  /// Sets the velocity of a lantern over the water.
  void push(std::int64_t index, float vx, float vy);
  /// Columns between the device and the processor.
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
