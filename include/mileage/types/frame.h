// Frame: phases and counters of a running frame.
#pragma once

#include <cstdint>

namespace mileage {

/// Phase in which a frame waits for a device, and counter of the device timer's milliseconds.
inline constexpr const char* wait_phase = "wait";
inline constexpr const char* device_time_counter = "device ms";
/// Counter of bytes that a frame reads and writes, compared with memory bandwidth.
inline constexpr const char* bytes_counter = "bytes touched";

/// Receives marks. To run variants outside Mileage, implement it with empty bodies.
class FrameSink {
 public:
  virtual ~FrameSink() = default;
  virtual void begin_phase(const char* name) = 0;
  virtual void end_phase() = 0;
  virtual void add(const char* counter, double amount) = 0;
  /// On the worker's thread. Default: ignored.
  virtual void begin_work(int /*worker*/, double /*entities*/) {}
  virtual void end_work(int /*worker*/) {}
};

/// Valid during one call of Variant::run_frame, on its thread (except work()). Names must be literals or outlive the
/// variant. A phase takes two clock readings, a counter none.
class Frame {
 public:
  /// Ends with its scope.
  class Phase {
   public:
    explicit Phase(FrameSink& sink) : sink_(&sink) {}
    ~Phase() { sink_->end_phase(); }
    Phase(const Phase&) = delete;
    Phase& operator=(const Phase&) = delete;

   private:
    FrameSink* sink_;
  };

  /// Ends with its scope.
  class Work {
   public:
    Work(FrameSink& sink, int worker) : sink_(&sink), worker_(worker) {}
    ~Work() { sink_->end_work(worker_); }
    Work(const Work&) = delete;
    Work& operator=(const Work&) = delete;

   private:
    FrameSink* sink_;
    int worker_;
  };

  explicit Frame(FrameSink& sink, std::int64_t arriving = 0) : sink_(&sink), arriving_(arriving) {}

  /// Entities to add in this frame before the call returns; 0 except in one frame of a run with arrivals
  /// (SetUp::arrivals).
  std::int64_t arriving() const { return arriving_; }

  /// A named part: `const auto gather = frame.phase("gather");`. Nests one level; repeated names add up.
  [[nodiscard]] Phase phase(const char* name) {
    sink_->begin_phase(name);
    return Phase(*sink_);
  }

  /// A named quantity per frame: "updates", "draws", "bytes copied".
  void add(const char* counter, double amount) { sink_->add(counter, amount); }

  /// A worker's batch until the result is destroyed: `const auto work = frame.work(worker, to - from);`. Callable from
  /// any thread; workers are numbered from 0 to 255, one thread each. Of nested batches the outer counts. Two clock
  /// readings.
  [[nodiscard]] Work work(int worker, double entities) {
    sink_->begin_work(worker, entities);
    return Work(*sink_, worker);
  }

 private:
  FrameSink* sink_;
  std::int64_t arriving_;
};

}  // namespace mileage
