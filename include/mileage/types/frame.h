// Frame: the handle through which a running frame tells of its phases and counters.
#pragma once

#include <cstdint>

namespace mileage {

/// Names that answers look for in variants that run on a device: the phase in which a frame waits for it, and the
/// counter for the time in milliseconds that the device's own timer gives for the frame's work.
inline constexpr const char* wait_phase = "wait";
inline constexpr const char* device_time_counter = "device ms";

/// Where a frame's marks go. Implemented by the measuring side; a program that wants to run its variants outside
/// Mileage, in its own tests for example, may implement it with empty bodies.
class FrameSink {
 public:
  virtual ~FrameSink() = default;
  virtual void begin_phase(const char* name) = 0;
  virtual void end_phase() = 0;
  virtual void add(const char* counter, double amount) = 0;
};

/// Valid during one call of Variant::run_frame, on the thread that was called. Names must be string literals or live
/// as long as the variant. A phase costs two clock readings, a counter none.
class Frame {
 public:
  /// Ends its phase when it goes out of scope.
  class Phase {
   public:
    explicit Phase(FrameSink& sink) : sink_(&sink) {}
    ~Phase() { sink_->end_phase(); }
    Phase(const Phase&) = delete;
    Phase& operator=(const Phase&) = delete;

   private:
    FrameSink* sink_;
  };

  explicit Frame(FrameSink& sink, std::int64_t arriving = 0) : sink_(&sink), arriving_(arriving) {}

  /// So many entities come in this frame, besides those alive: the world is to hold them before the call returns. 0 in
  /// all frames but one of a visit with arrivals (SetUp::arrivals).
  std::int64_t arriving() const { return arriving_; }

  /// Starts a named part of the frame: `const auto gather = frame.phase("gather");`. Phases may be nested at most once;
  /// one of the same name may occur several times in a frame, its times add up.
  [[nodiscard]] Phase phase(const char* name) {
    sink_->begin_phase(name);
    return Phase(*sink_);
  }

  /// Adds to a named per-frame quantity that is not time, such as "updates", "draws" or "bytes copied".
  void add(const char* counter, double amount) { sink_->add(counter, amount); }

 private:
  FrameSink* sink_;
  std::int64_t arriving_;
};

}  // namespace mileage
