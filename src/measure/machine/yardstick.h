// The yardstick: a short piece of fixed work, timed repeatedly while a run is made, so that frames which a busy
// machine slowed down are known from frames that take long.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "measure/machine/clock.h"
#include "study/study.h"

namespace mileage {

/// Changes with every change of the work that is timed; times of other versions say nothing.
inline constexpr int yardstick_version = 3;

/// Times the work once. An interface, so that tests can script a machine of several speeds.
class Yardstick {
 public:
  virtual ~Yardstick() = default;
  /// Nanoseconds of one probe, more than 0.
  virtual double probe_ns() = 0;
  /// From now on this many cores are probed at once, the calling thread's and others; the slowest of them tells, of
  /// those that are there in time. Where work is shared between cores, the frame waits for that one.
  virtual void spread_over(int /*cores*/) {}
};

class ProbeThreads;

/// The real one: arithmetic that is bound by throughput, about 15 us on a fast machine.
class MachineYardstick : public Yardstick {
 public:
  explicit MachineYardstick(Clock& clock);
  ~MachineYardstick() override;
  double probe_ns() override;
  /// Starts threads that sleep between probes. A probe then takes about 25 us longer, 0.1 ms at most: they wake up, and
  /// all begin together.
  void spread_over(int cores) override;

 private:
  Clock* clock_;
  std::unique_ptr<ProbeThreads> others_;
};

/// When probes are made: after so much work, or after so much time. A slow moment lasts longer for the same work, so
/// that time sees more of it.
enum class ProbedBy { work, time };

/// Gathers the probes of one run into what is kept of them.
class Probes {
 public:
  enum Half { one, other };

  /// Probes that follow each other in one half are of the same moment.
  void add(Half half, double ns);
  std::size_t size() const { return ns_[one].size() + ns_[other].size(); }
  double total_ns() const;
  bool are_in_both_halves() const { return !ns_[one].empty() && !ns_[other].empty(); }
  /// Nothing unless both halves have probes. The means are such that log frame time follows them with one slope,
  /// however long frames are: a short frame lies in one state of the machine, and the typical one is a mean of logs
  /// without the longest and shortest; a long frame adds up moments of several states, slowed down like its work. So
  /// the mean of a half is the power mean of its probes, weighted by the work done during that time, with an exponent
  /// from 0 (the geometric mean, without as many at the ends; frames far below a millisecond) to the usual slope of log
  /// frame time over log probe (all of them; far above it). n moments vary less among themselves than the machine does:
  /// what the power mean lies above the geometric one counts n / (n - 1) times.
  std::optional<YardstickReading> reading(ProbedBy by, double frame_ns, int cores = 1) const;

 private:
  std::array<std::vector<double>, 2> ns_;
  Half last_half_ = one;
  std::array<std::size_t, 2> moments_{};
};

}  // namespace mileage
