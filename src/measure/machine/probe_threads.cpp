#include "measure/machine/probe_threads.h"

#include <algorithm>
#include <cstdint>

#include "measure/machine/yardstick_work.h"

namespace mileage {
namespace {

constexpr int ended = -1;
/// Spins before yielding: some microseconds.
constexpr int looks_before_yielding = 2000;
/// 99 % of probes were recorded within 75 us; under host load one in a hundred took up to 27 ms.
constexpr std::int64_t longest_wake_ns = 100'000;

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

ProbeThreads::ProbeThreads(int threads, Clock& clock) : clock_(&clock), places_(static_cast<std::size_t>(threads)) {
  for (Place& place : places_) threads_.emplace_back([this, &place] { run(place); });
}

ProbeThreads::~ProbeThreads() {
  probe_ = ended;
  probe_.notify_all();
  for (std::thread& thread : threads_) thread.join();
}

void ProbeThreads::run(Place& place) {
  for (int last = 0;;) {
    probe_.wait(last);
    last = probe_;
    if (last == ended) return;
    if (begun_ == last) continue;  // Too late.
    place.awake_for = last;
    spin_until([&] { return begun_ >= last; });
    place.ns = timed_work_ns(*clock_);
    place.done_with = last;
  }
}

void ProbeThreads::begin_together() {
  const int probe = probe_ + 1;
  probe_ = probe;
  probe_.notify_all();
  const std::int64_t start_ns = clock_->now_ns();
  const auto is_awake = [&](const Place& place) { return place.awake_for == probe; };
  spin_until([&] {
    return std::all_of(places_.begin(), places_.end(), is_awake) || clock_->now_ns() - start_ns > longest_wake_ns;
  });
  for (Place& place : places_) place.takes_part = is_awake(place);
  begun_ = probe;
}

double ProbeThreads::slowest_ns() {
  double slowest_ns = 0;
  for (const Place& place : places_) {
    if (!place.takes_part) continue;
    spin_until([&] { return place.done_with == begun_; });
    slowest_ns = std::max(slowest_ns, place.ns);
  }
  return slowest_ns;
}

}  // namespace mileage
