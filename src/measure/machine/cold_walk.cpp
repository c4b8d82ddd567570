#include "measure/machine/cold_walk.h"

#include <algorithm>

namespace mileage {
namespace {

constexpr std::size_t line_bytes = 64;

}  // namespace

ColdWalk::ColdWalk(std::size_t bytes, Clock& clock) : memory_(std::max(bytes, line_bytes)), clock_(&clock) {}

void ColdWalk::walk() {
  const SpentReading before = read_spent();
  const std::int64_t start = clock_->now_ns();
  volatile unsigned char* memory = memory_.data();
  for (std::size_t i = 0; i < memory_.size(); i += line_bytes) memory[i] = static_cast<unsigned char>(memory[i] + 1);
  wall_ns_ += clock_->now_ns() - start;
  spent_ += read_spent() - before;
}

}  // namespace mileage
