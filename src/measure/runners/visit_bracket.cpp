#include "measure/runners/visit_bracket.h"

namespace mileage {
namespace {

/// Once it had to wait, a single quiet look is not believed: disturbed machines have short quiet moments, above all
/// just after a pause.
constexpr int looks_to_believe = 3;

}  // namespace

VisitBracket::VisitBracket(const VisitRequest& request, const Instruments& instruments)
    : request_(request),
      instruments_(instruments),
      load_before_(instruments.load != nullptr ? instruments.load() : LoadReading{}),
      yardstick_{yardstick_version, {}, {}} {}

void VisitBracket::before_frames() {
  if (instruments_.yardstick == nullptr || request_.check_frames > 0) return;
  yardstick_.before = take_when_quiet();
  if (waited_s_ > 0 && instruments_.load != nullptr) load_before_ = instruments_.load();  // what was waited for is over
}

void VisitBracket::after_frames() {
  if (instruments_.yardstick == nullptr || request_.check_frames > 0) return;
  yardstick_.after = instruments_.yardstick->take();
  has_yardstick_ = true;
}

void VisitBracket::tell(Visit& visit) const {
  visit.waited_s = waited_s_;
  if (has_yardstick_) visit.yardstick = yardstick_;
  if (instruments_.load != nullptr) visit.load = load_between(load_before_, instruments_.load());
}

YardstickTimes VisitBracket::take_when_quiet() {
  YardstickTimes times = instruments_.yardstick->take();
  int quiet_looks = looks_to_believe;
  while (request_.quiet_below_ns > 0 && waited_s_ < request_.patience_s) {
    quiet_looks = times.arithmetic_ns > request_.quiet_below_ns ? 0 : quiet_looks + 1;
    if (quiet_looks >= looks_to_believe) break;
    instruments_.clock->pause_ns(static_cast<std::int64_t>(pause_between_looks_s * 1e9));
    waited_s_ += pause_between_looks_s;
    times = instruments_.yardstick->take();
  }
  return times;
}

}  // namespace mileage
