#include "measure/in_process/work_notes.h"

#include <algorithm>

namespace mileage {
namespace {

constexpr std::size_t max_workers = 256;
/// Shorter batches are not noted: two readings would matter.
constexpr double readings_per_batch = 40;
/// Later spans are dropped.
constexpr std::size_t max_spans = 20'000;

}  // namespace

WorkNotes::WorkNotes(Clock& clock) : clock_(&clock), slots_(max_workers) {}

WorkNotes::Slot* WorkNotes::slot(int worker) {
  const bool is_noted = is_noting_ && worker >= 0 && worker < static_cast<int>(max_workers);
  return is_noted ? &slots_[static_cast<std::size_t>(worker)] : nullptr;
}

void WorkNotes::begin(int worker, double entities) {
  Slot* own = slot(worker);
  if (own == nullptr || own->depth++ > 0) return;
  int used = used_.load(std::memory_order_relaxed);
  while (used <= worker && !used_.compare_exchange_weak(used, worker + 1, std::memory_order_relaxed)) continue;
  own->open_entities = entities;
  own->since_ns = clock_->now_ns();
}

void WorkNotes::end(int worker) {
  Slot* own = slot(worker);
  if (own == nullptr || own->depth == 0 || --own->depth > 0) return;
  const std::int64_t now = clock_->now_ns();
  if (!own->is_in_frame) own->first_ns = own->since_ns;
  own->is_in_frame = true;
  own->last_ns = now;
  own->busy_ns += static_cast<double>(now - own->since_ns);
  own->largest_ns = std::max(own->largest_ns, now - own->since_ns);
  own->entities += own->open_entities;
  own->batches += 1;
  if (keeps_batches_) own->kept.push_back({own->since_ns, now, own->open_entities});
}

void WorkNotes::after_frame(std::int64_t began_ns, std::int64_t ended_ns, bool is_single) {
  std::optional<std::int64_t> first, last;
  for (int worker = 0; worker < used_.load(std::memory_order_relaxed); ++worker) {
    Slot& own = slots_[static_cast<std::size_t>(worker)];
    if (!own.is_in_frame) continue;
    first = std::min(first.value_or(own.first_ns), own.first_ns);
    last = std::max(last.value_or(own.last_ns), own.last_ns);
    own.is_in_frame = false;
  }
  if (!first || !is_single) return;
  before_ns_ = before_ns_.value_or(0) + static_cast<double>(*first - began_ns);
  after_ns_ = after_ns_.value_or(0) + static_cast<double>(ended_ns - *last);
}

void WorkNotes::after_traced_frame(std::size_t frame, std::int64_t began_ns, std::vector<std::vector<double>>& spans) {
  for (int worker = 0; worker < used_.load(std::memory_order_relaxed); ++worker) {
    Slot& own = slots_[static_cast<std::size_t>(worker)];
    for (const Batch& batch : own.kept)
      if (spans.size() < max_spans)
        spans.push_back({static_cast<double>(frame), static_cast<double>(worker),
                         static_cast<double>(batch.begin_ns - began_ns), static_cast<double>(batch.end_ns - began_ns),
                         batch.entities});
    own.kept.clear();
  }
}

void WorkNotes::forget() {
  for (int worker = 0; worker < used_.load(std::memory_order_relaxed); ++worker)
    slots_[static_cast<std::size_t>(worker)] = Slot{};
  used_.store(0, std::memory_order_relaxed);
  before_ns_.reset();
  after_ns_.reset();
}

void WorkNotes::give_up_if_short() {
  double busy_ns = 0;
  double batches = 0;
  for (const Slot& own : slots_) {
    busy_ns += own.busy_ns;
    batches += own.batches;
  }
  if (batches > 0 && busy_ns < batches * readings_per_batch * reading_cost_ns(*clock_)) is_noting_ = false;
}

std::optional<WorkByWorker> WorkNotes::work() const {
  WorkByWorker work;
  for (int worker = 0; worker < used_.load(std::memory_order_relaxed); ++worker) {
    const Slot& own = slots_[static_cast<std::size_t>(worker)];
    work.busy_ms.push_back(own.busy_ns * 1e-6);
    work.entities.push_back(own.entities);
    work.batches.push_back(own.batches);
    work.largest_ms = std::max(work.largest_ms, static_cast<double>(own.largest_ns) * 1e-6);
  }
  if (work.busy_ms.empty()) return std::nullopt;
  if (before_ns_) work.before_ms = *before_ns_ * 1e-6;
  if (after_ns_) work.after_ms = *after_ns_ * 1e-6;
  return work;
}

}  // namespace mileage
