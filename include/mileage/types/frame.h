// Frame: the handle through which a running frame has its phases and counters.
#pragma once

#include <cstdint>

namespace mileage {

/// Names that answers look for in variants that run on a device: the phase in which a frame waits for it, and the
/// counter for the time in milliseconds that the device's own timer gives for the frame's work.
inline constexpr const char* wait_phase = "wait";
inline constexpr const char* device_time_counter = "device ms";
/// Counter for the bytes of memory that a frame reads and writes, where a variant knows them: compared with what a bare
/// pass over memory moves in that time.
inline constexpr const char* bytes_counter = "bytes touched";

/// Where a frame's marks go. Implemented by the measuring side; a program that wants to run its variants outside
/// Mileage, in its own tests for example, may implement it with empty bodies.
class FrameSink {
 public:
  virtual ~FrameSink() = default;
  virtual void begin_phase(const char* name) = 0;
  virtual void end_phase() = 0;
  virtual void add(const char* counter, double amount) = 0;
  /// From the thread of the worker. A sink that does not ask for work by worker leaves both as they are.
  virtual void begin_work(int /*worker*/, double /*entities*/) {}
  virtual void end_work(int /*worker*/) {}
};

/// Valid during one call of Variant::run_frame, on the thread that was called (work() apart). Names must be string
/// literals or live as long as the variant. A phase costs two clock readings, a counter none.
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

  /// Ends a batch of work when it goes out of scope.
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

  /// This many entities come in this frame, besides those alive: the world is to hold them before the call returns. 0
  /// in all frames but one of a run with arrivals (SetUp::arrivals).
  std::int64_t arriving() const { return arriving_; }

  /// Starts a named part of the frame: `const auto gather = frame.phase("gather");`. Phases may be nested at most once;
  /// one of the same name may occur several times in a frame, its times add up.
  [[nodiscard]] Phase phase(const char* name) {
    sink_->begin_phase(name);
    return Phase(*sink_);
  }

  /// Adds to a named per-frame quantity that is not time, such as "updates", "draws" or "bytes copied".
  void add(const char* counter, double amount) { sink_->add(counter, amount); }

  /// Notes a batch of this many entities that a worker works through, until what comes back goes out of scope:
  /// `const auto work = frame.work(worker, to - from);`. The one call that may come from any thread: workers are
  /// numbered from 0, and a number is used by one thread at a time. Numbers below 0 and above 255 are not noted.
  /// Batches of a worker may be nested: the outer one counts. Costs two clock readings a batch.
  [[nodiscard]] Work work(int worker, double entities) {
    sink_->begin_work(worker, entities);
    return Work(*sink_, worker);
  }

 private:
  FrameSink* sink_;
  std::int64_t arriving_;
};

}  // namespace mileage
