#include "measure/machine/cold_walk.h"

#include <algorithm>

#include "measure/machine/process_facts.h"

namespace mileage {
namespace {

constexpr std::size_t line_bytes = 64;

}  // namespace

ColdWalk::ColdWalk(std::size_t bytes, Clock& clock) : memory_(std::max(bytes, line_bytes)), clock_(&clock) {}

void ColdWalk::walk() {
  const std::int64_t processor = processor_ns();
  const std::int64_t thread = thread_busy_ns();
  const std::int64_t start = clock_->now_ns();
  volatile unsigned char* memory = memory_.data();
  for (std::size_t i = 0; i < memory_.size(); i += line_bytes) memory[i] = static_cast<unsigned char>(memory[i] + 1);
  spent_.wall_ns += clock_->now_ns() - start;
  spent_.thread_ns += thread_busy_ns() - thread;
  spent_.processor_ns += processor_ns() - processor;
}

}  // namespace mileage
