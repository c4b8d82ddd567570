#include "measure/machine/probe_threads.h"

#include <algorithm>
#include <cstdint>

#include "measure/machine/yardstick_work.h"

namespace mileage {
namespace {

constexpr int ended = -1;
/// Looks at a flag before the core is offered to others: some microseconds.
constexpr int looks_before_yielding = 2000;

template <class IsReady>
void spin_until(IsReady is_ready) {
  for (int looks = 0; !is_ready(); ++looks)
    if (looks >= looks_before_yielding) std::this_thread::yield();
}

}  // namespace

double timed_work_ns(Clock& clock) {
  const std::int64_t start = clock.now_ns();
  yardstick_work();
  return static_cast<double>(std::max<std::int64_t>(1, clock.now_ns() - start));
}

ProbeThreads::ProbeThreads(int threads, Clock& clock) : clock_(&clock), ns_(static_cast<std::size_t>(threads)) {
  for (std::size_t thread = 0; thread < ns_.size(); ++thread) threads_.emplace_back([this, thread] { run(thread); });
}

ProbeThreads::~ProbeThreads() {
  probe_ = ended;
  probe_.notify_all();
  for (std::thread& thread : threads_) thread.join();
}

void ProbeThreads::run(std::size_t thread) {
  for (int last = 0;;) {
    probe_.wait(last);
    last = probe_;
    if (last == ended) return;
    ++awake_;
    spin_until([&] { return begun_ == last; });
    ns_[thread] = timed_work_ns(*clock_);
    ++done_;
  }
}

void ProbeThreads::wait_until(const std::atomic<int>& count) {
  spin_until([&] { return count == static_cast<int>(threads_.size()); });
}

void ProbeThreads::begin_together() {
  awake_ = 0;
  done_ = 0;
  const int probe = probe_ + 1;
  probe_ = probe;
  probe_.notify_all();
  wait_until(awake_);
  begun_ = probe;
}

double ProbeThreads::slowest_ns() {
  wait_until(done_);
  return *std::max_element(ns_.begin(), ns_.end());
}

}  // namespace mileage
