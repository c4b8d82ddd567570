// Yardstick: a short fixed workload, timed repeatedly during runs to measure slowdown.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "measure/machine/clock.h"
#include "study/study.h"

namespace mileage {

/// Changes with the timed work; other versions are not comparable.
inline constexpr int yardstick_version = 3;

/// An interface, so that tests can script slowdowns.
class Yardstick {
 public:
  virtual ~Yardstick() = default;
  /// > 0.
  virtual double probe_ns() = 0;
  /// Probes `cores` cores at once, the caller's included; the slowest that starts in time counts, as for a frame that
  /// waits for its threads.
  virtual void spread_over(int /*cores*/) {}
};

class ProbeThreads;

/// Throughput-bound arithmetic, about 15 us at full speed.
class MachineYardstick : public Yardstick {
 public:
  explicit MachineYardstick(Clock& clock);
  ~MachineYardstick() override;
  double probe_ns() override;
  /// Starts threads that sleep between probes. Waking them adds 25 us per probe, at most 0.1 ms.
  void spread_over(int cores) override;

 private:
  Clock* clock_;
  std::unique_ptr<ProbeThreads> others_;
};

/// When probes are made: per work or per time. A slow moment lasts longer per work, so time sees more of it.
enum class ProbedBy { work, time };

/// Summarises the probes of one run.
class Probes {
 public:
  enum Half { one, other };

  /// Consecutive probes of one half are of the same moment.
  void add(Half half, double ns);
  std::size_t size() const { return ns_[one].size() + ns_[other].size(); }
  double total_ns() const;
  bool are_in_both_halves() const { return !ns_[one].empty() && !ns_[other].empty(); }
  /// Nothing unless both halves have probes. Each half's mean is chosen so that log frame time follows it with one
  /// slope: a power mean weighted by work, with an exponent from 0 (geometric, trimmed; frames far below 1 ms, which
  /// are in one machine state) to the usual response (frames far above 1 ms, which average states). Its excess over the
  /// geometric mean is multiplied by n / (n - 1) for n moments.
  std::optional<YardstickReading> reading(ProbedBy by, double frame_ns, int cores = 1) const;

 private:
  std::array<std::vector<double>, 2> ns_;
  Half last_half_ = one;
  std::array<std::size_t, 2> moments_{};
};

}  // namespace mileage
