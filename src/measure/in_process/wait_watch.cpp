#include "measure/in_process/wait_watch.h"

#include <algorithm>
#include <functional>
#include <numeric>

namespace mileage {
namespace {

/// Asking takes about 1 us.
constexpr double shortest_sample_asked_ns = 50e3;
/// Share of frame time; less is omitted.
constexpr double reported_waiting_share = 0.002;

double sum_of(const std::vector<std::int64_t>& ns) {
  return std::accumulate(ns.begin(), ns.end(), 0.0, std::plus<double>());
}

}  // namespace

WaitWatch::WaitWatch(FrameMeter& meter, double sample_ns, int cores) : meter_(meter), cores_(cores) {
  if (cores == 0 || sample_ns < shortest_sample_asked_ns) return;
  waits_.emplace(cores > 1);
  if (!waits_->waited_ns()) waits_.reset();
}

std::int64_t WaitWatch::busy_ns() const { return cores_ > 1 ? processor_ns() : thread_busy_ns(); }

void WaitWatch::before_sample() {
  if (!waits_) return;
  const std::int64_t start = thread_busy_ns();
  before_ns_ = waits_->waited_ns().value_or(before_ns_);
  busy_before_ns_ = busy_ns();
  spent_ns_ += thread_busy_ns() - start;
  meter_.pass_over();
}

void WaitWatch::after_sample(Run& run) {
  if (!waits_) return;
  const std::int64_t start = thread_busy_ns();
  const std::int64_t not_busy = cores_ * run.samples_ns.back() - (busy_ns() - busy_before_ns_);
  const std::int64_t waited = std::min(waits_->waited_ns().value_or(before_ns_) - before_ns_, not_busy);
  run.waited_ns.push_back(std::max<std::int64_t>(0, waited / cores_));
  spent_ns_ += thread_busy_ns() - start;
}

void WaitWatch::tell(Run& run) const {
  if (sum_of(run.waited_ns) < reported_waiting_share * sum_of(run.samples_ns)) run.waited_ns.clear();
}

}  // namespace mileage
