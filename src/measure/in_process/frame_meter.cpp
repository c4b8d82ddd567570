#include "measure/in_process/frame_meter.h"

#include <cstring>

#include "types/error.h"

namespace mileage {
namespace {

constexpr std::size_t deepest_nesting = 2;

}  // namespace

void FrameMeter::start() {
  for (Sum& sum : phases_) sum.total = 0;
  for (Sum& sum : counters_) sum.total = 0;
  work_.forget();
  if (trace_) trace();
  last_ns_ = clock_->now_ns();
}

std::int64_t FrameMeter::sample(int frames, std::int64_t arriving) {
  if (walk_ != nullptr) {
    walk_->walk();
    last_ns_ = clock_->now_ns();
  }
  Frame frame(*this, arriving);
  for (int i = 0; i < frames; ++i) variant_->run_frame(frame);
  const std::int64_t now = clock_->now_ns();
  const std::int64_t took = now - last_ns_;
  work_.after_frame(last_ns_, now, frames == 1);
  if (trace_) {
    keep_frame(last_ns_);
    last_ns_ = clock_->now_ns();
  } else {
    last_ns_ = now;
  }
  return took;
}

void FrameMeter::trace() {
  trace_ = Trace{};
  frames_kept_ = 0;
  for (Sum& sum : phases_) sum.before = sum.total;
  work_.keep_batches();
}

void FrameMeter::keep_frame(std::int64_t began_ns) {
  for (Sum& sum : phases_) {
    std::vector<std::int64_t>& times = trace_->phases_ns[sum.name];
    times.resize(frames_kept_, 0);  // The phase may have begun in this frame.
    times.push_back(static_cast<std::int64_t>(sum.total - sum.before));
    sum.before = sum.total;
  }
  work_.after_traced_frame(frames_kept_, began_ns, trace_->spans);
  ++frames_kept_;
}

std::map<std::string, double> FrameMeter::phases_ms() const { return by_name(phases_, 1e-6); }

std::vector<std::string> FrameMeter::inner_phases() const {
  std::vector<std::string> inner;
  for (const Sum& sum : phases_)
    if (sum.is_inner) inner.emplace_back(sum.name);
  return inner;
}

std::map<std::string, double> FrameMeter::counters() const { return by_name(counters_, 1.0); }

void FrameMeter::begin_phase(const char* name) {
  if (open_.size() == deepest_nesting)
    throw Error({.kind = FaultKind::variant, .problem = "phases are nested more than once", .found = name});
  const std::size_t sum = place_of(phases_, name);
  phases_[sum].is_inner = !open_.empty();
  open_.push_back({sum, clock_->now_ns()});
}

void FrameMeter::end_phase() {
  const std::int64_t now = clock_->now_ns();
  phases_[open_.back().sum].total += static_cast<double>(now - open_.back().since_ns);
  open_.pop_back();
}

void FrameMeter::add(const char* counter, double amount) { counters_[place_of(counters_, counter)].total += amount; }

std::size_t FrameMeter::place_of(std::vector<Sum>& sums, const char* name) {
  for (std::size_t i = 0; i < sums.size(); ++i)
    if (sums[i].name == name || std::strcmp(sums[i].name, name) == 0) return i;
  sums.push_back({name, 0});
  return sums.size() - 1;
}

std::map<std::string, double> FrameMeter::by_name(const std::vector<Sum>& sums, double factor) {
  std::map<std::string, double> all;
  for (const Sum& sum : sums) all[sum.name] = sum.total * factor;
  return all;
}

}  // namespace mileage
