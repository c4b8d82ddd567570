#include "festival/drift/lean_lanterns.h"

#include <algorithm>
#include <array>
#include <utility>

#include "festival/drift/strips.h"
#include "festival/drift/widest.h"

namespace mileage::festival {
namespace {

using CarryBlocks = void (*)(LeanBlock* blocks, std::size_t count, const std::vector<Moment>& moments);

/// 18 KiB, which stay in L1 for all moments of a frame.
constexpr std::size_t strip_blocks = 32;

/// Hardware prefetch stops at page ends.
[[gnu::always_inline]] inline void fetch_ahead(const LeanBlock* block) {
  constexpr std::ptrdiff_t blocks_ahead = 8;
  const char* place = reinterpret_cast<const char*>(block + blocks_ahead);
  for (std::size_t at = 0; at < sizeof(LeanBlock); at += 64) __builtin_prefetch(place + at, 1);
}

template <int kind>
[[gnu::always_inline]] inline void carry_block(const Moment& now, LeanBlock& block) {
  for (int i = 0; i < lean_block; ++i) {  // this loop must be vectorised
    float age_s = 0;                      // Per cohort; dropped here.
    carry<kind>(now, block.x_m[i], block.y_m[i], block.height_m[i], block.vx[i], block.vy[i], block.vz[i], age_s,
                block.flicker[i], block.lean[i], block.key[i]);
  }
}

template <int kind>
[[gnu::always_inline]] inline void carry_blocks(LeanBlock* blocks, std::size_t count,
                                                const std::vector<Moment>& moments) {
  for (std::size_t first = 0; first < count; first += strip_blocks) {
    const std::size_t end = std::min(count, first + strip_blocks);
    for (const Moment now : moments)
      for (std::size_t i = first; i < end; ++i) {
        fetch_ahead(blocks + i);
        carry_block<kind>(now, blocks[i]);
      }
  }
}

template <int kind>
void carry_usual(LeanBlock* blocks, std::size_t count, const std::vector<Moment>& moments) {
  carry_blocks<kind>(blocks, count, moments);
}

#ifdef MILEAGE_HAS_WIDER
template <int kind>
MILEAGE_512_BITS void carry_512(LeanBlock* blocks, std::size_t count, const std::vector<Moment>& moments) {
  carry_blocks<kind>(blocks, count, moments);
}

template <int kind>
MILEAGE_256_BITS void carry_256(LeanBlock* blocks, std::size_t count, const std::vector<Moment>& moments) {
  carry_blocks<kind>(blocks, count, moments);
}
#endif

template <int... kinds>
CarryBlocks widest_among(int kind, std::integer_sequence<int, kinds...>) {
  const auto at = static_cast<std::size_t>(kind);
#ifdef MILEAGE_HAS_WIDER
  static constexpr std::array<CarryBlocks, sizeof...(kinds)> all_512{carry_512<kinds>...};
  static constexpr std::array<CarryBlocks, sizeof...(kinds)> all_256{carry_256<kinds>...};
  if (widest_vector_bits() == 512) return all_512[at];
  if (widest_vector_bits() == 256) return all_256[at];
#endif
  static constexpr std::array<CarryBlocks, sizeof...(kinds)> all_usual{carry_usual<kinds>...};
  return all_usual[at];
}

}  // namespace

void LeanLanterns::reserve(std::int64_t count) {
  blocks_.reserve(static_cast<std::size_t>((count + lean_block - 1) / lean_block));
}

void LeanLanterns::append(const Lantern& one) {
  const auto lane = static_cast<std::size_t>(count_ % lean_block);
  if (lane == 0) blocks_.emplace_back();
  LeanBlock& block = blocks_.back();
  block.x_m[lane] = one.x_m;
  block.y_m[lane] = one.y_m;
  block.height_m[lane] = one.height_m;
  block.vx[lane] = one.vx;
  block.vy[lane] = one.vy;
  block.vz[lane] = one.vz;
  block.flicker[lane] = one.flicker;
  block.lean[lane] = one.lean;
  block.key[lane] = one.key;
  if (cohorts_.empty() || cohorts_.back().age_s != one.age_s) cohorts_.push_back({count_, one.age_s});
  ++count_;
}

void LeanLanterns::set_velocity(std::int64_t index, float vx, float vy) {
  LeanBlock& block = blocks_[static_cast<std::size_t>(index / lean_block)];
  block.vx[index % lean_block] = vx;
  block.vy[index % lean_block] = vy;
}

Lantern LeanLanterns::lantern(std::int64_t index) const {
  const LeanBlock& block = blocks_[static_cast<std::size_t>(index / lean_block)];
  const std::int64_t lane = index % lean_block;
  const auto after = std::upper_bound(cohorts_.begin(), cohorts_.end(), index,
                                      [](std::int64_t i, const Cohort& cohort) { return i < cohort.first; });
  return {block.x_m[lane], block.y_m[lane],         block.height_m[lane], block.vx[lane],   block.vy[lane],
          block.vz[lane],  std::prev(after)->age_s, block.flicker[lane],  block.lean[lane], block.key[lane]};
}

void LeanLanterns::carry_all(const std::vector<Moment>& moments, int kind) {
  widest_among(kind, std::make_integer_sequence<int, max_kinds>{})(blocks_.data(), blocks_.size(), moments);
  for (Cohort& cohort : cohorts_)
    for (const Moment& now : moments) cohort.age_s += now.step_s;
}

}  // namespace mileage::festival
